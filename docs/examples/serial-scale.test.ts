// The documented example on a pseudo-terminal that plays a serial scale.
import { spawn } from 'node:child_process'
import { createServer } from 'node:http'
import type { AddressInfo } from 'node:net'
import { setTimeout as pause } from 'node:timers/promises'
import { expect, it } from 'vitest'

interface Sent {
  channel: string
  seq: number
  value: number
}

/** A terminal whose far end is written to here. util-linux is on every Debian. */
async function aTerminal() {
  const script = spawn('script', ['-qfc', 'tty; stty -echo; sleep 60', '/dev/null'], {
    stdio: ['pipe', 'pipe', 'ignore'],
  })
  let said = ''
  for await (const part of script.stdout) {
    said += String(part)
    const name = /\/dev\/pts\/\d+/.exec(said)?.[0]
    if (name) return { name, write: (line: string) => script.stdin.write(line), end: () => script.kill() }
  }
  throw new Error('no terminal')
}

it('reads the lines of a scale, and sends again what did not get through', async () => {
  const sent: Sent[] = []
  const tokens = new Set<string | undefined>()
  let calls = 0
  const server = createServer((request, response) => {
    let body = ''
    request.on('data', (part) => (body += String(part)))
    request.on('end', () => {
      tokens.add(request.headers.authorization)
      // The first time the server is away.
      if (calls++ === 0) return void response.writeHead(503).end()
      sent.push(...(JSON.parse(body) as { samples: Sent[] }).samples)
      response.writeHead(200, { 'content-type': 'application/json' }).end('{}')
    })
  })
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve))
  const terminal = await aTerminal()
  const example = spawn('node', ['docs/examples/serial-scale.mjs'], {
    env: {
      ...process.env,
      KEG_SERVER: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
      KEG_TOKEN: 'kegdev_test',
      SCALE: terminal.name,
    },
    stdio: 'ignore',
  })
  try {
    await pause(1_000)
    for (const line of ['ST,GS,+  12.105 kg', 'US,GS,+  12.330 kg', 'no weight here', 'ST,NT,-   0.500 kg']) {
      terminal.write(`${line}\n`)
      await pause(100)
    }
    await expect
      .poll(() => sent.map((each) => each.value), { timeout: 10_000 })
      .toEqual([12.105, 12.33, -0.5])
    const seqs = sent.map((each) => each.seq)
    expect(seqs).toEqual(seqs.map((_, i) => seqs[0]! + i))
    expect(sent[0]!.channel).toBe('weight')
    expect([...tokens]).toEqual(['Bearer kegdev_test'])
  } finally {
    example.kill()
    terminal.end()
    server.close()
  }
})
