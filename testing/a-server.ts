// Keg as it is served: supervised, on a port of its own, before a database of the caller's.
import { type ChildProcess, spawn } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { setTimeout as pause } from 'node:timers/promises'
import { childrenOf, freePort } from './a-cluster'

/** However busy the machine is. */
const START_MS = 5 * 60_000

export interface AServer {
  origin: string
  /** All it has said so far. */
  said: () => string
  /** kill -9 of the server, not of what supervises it. @returns whether there was one */
  kill: () => boolean
  healthy: () => Promise<boolean>
  /** Still the process that was started. */
  running: () => boolean
  stop: () => Promise<void>
}

export async function aServer(databaseUrl: string, env: NodeJS.ProcessEnv = {}): Promise<AServer> {
  const port = await freePort()
  const origin = `http://127.0.0.1:${port}`
  const supervisor = spawn('node', ['--import', 'tsx', 'server/supervise.ts'], {
    env: {
      ...process.env,
      NODE_ENV: 'production',
      KEG_LOG: 'fatal',
      KEG_PORT: String(port),
      KEG_DATABASE_URL: databaseUrl,
      KEG_RATE_APPEND: '100000/60',
      ...env,
    },
    stdio: ['ignore', 'pipe', 'pipe'],
  })
  let said = ''
  for (const stream of [supervisor.stdout, supervisor.stderr])
    stream.on('data', (part: Buffer) => (said += part.toString()))
  const server: AServer = {
    origin,
    said: () => said,
    kill() {
      const pid = childOf(supervisor)
      if (pid) process.kill(pid, 'SIGKILL')
      return pid !== undefined
    },
    healthy: () =>
      fetch(`${origin}/healthz`, { signal: AbortSignal.timeout(5_000) }).then(
        (r) => r.ok,
        () => false,
      ),
    running: () => supervisor.exitCode === null && supervisor.signalCode === null,
    async stop() {
      if (supervisor.exitCode !== null) return
      const ended = new Promise((resolve) => supervisor.once('exit', resolve))
      supervisor.kill('SIGTERM')
      await ended
    },
  }
  const until = Date.now() + START_MS
  while (!(await server.healthy())) {
    if (Date.now() > until || !server.running()) throw new Error(`the server did not start: ${said}`)
    await pause(200)
  }
  return server
}

function childOf(supervisor: ChildProcess): number | undefined {
  return childrenOf(supervisor.pid!).find((pid) =>
    readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('listen.ts'),
  )
}
