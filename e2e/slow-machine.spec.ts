// Keg on a machine that gives its server a tenth of a core: it comes up, and is not ended for being slow.
import { spawn } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { setTimeout as pause } from 'node:timers/promises'
import { childrenOf, freePort } from '../testing/a-cluster'
import { expect, test } from './shop'

const SLICE_MS = 100
const RUNS_MS = 10

test('with a tenth of a core the server comes up, and answers', { tag: '@long' }, async () => {
  test.setTimeout(600_000)
  const port = await freePort()
  const supervisor = spawn('node', ['--import', 'tsx', 'server/supervise.ts'], {
    env: { ...process.env, NODE_ENV: 'production', KEG_LOG: 'fatal', KEG_PORT: String(port) },
    stdio: ['ignore', 'pipe', 'pipe'],
  })
  let said = ''
  for (const stream of [supervisor.stdout, supervisor.stderr])
    stream.on('data', (part: Buffer) => (said += part.toString()))
  const server = () =>
    childrenOf(supervisor.pid!).find((pid) =>
      readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('listen.ts'),
    )
  const tell = (signal: NodeJS.Signals) => {
    const pid = server()
    if (pid) process.kill(pid, signal)
  }
  let slow = true
  const slowed = (async () => {
    while (slow) {
      tell('SIGCONT')
      await pause(RUNS_MS)
      tell('SIGSTOP')
      await pause(SLICE_MS - RUNS_MS)
    }
    tell('SIGCONT')
  })()
  try {
    const answers = () =>
      fetch(`http://127.0.0.1:${port}/healthz`, { signal: AbortSignal.timeout(30_000) }).then(
        (answer) => answer.ok,
        () => false,
      )
    while (!(await answers())) await pause(500)
    expect(said).toContain('still loading')
    expect(said).not.toContain('has ended')
    for (let i = 0; i < 5; i++) expect(await answers()).toBe(true)
  } finally {
    slow = false
    await slowed
    const ended = new Promise((resolve) => supervisor.once('exit', resolve))
    supervisor.kill('SIGTERM')
    await ended
  }
})
