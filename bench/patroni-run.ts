// Three PostgreSQL servers under Patroni, two Keg processes and nginx with TLS before them: the leader is killed, its
// network is cut, it comes back, a backup is taken from a replica, while ten people write and fifty listen. Run by
// ./keg bench patroni, as root.
import { execFile, spawn } from 'node:child_process'
import { mkdtemp, readFile, rm, stat, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { promisify } from 'node:util'
import { prepareDatabase } from '../db/migrate'
import { freePort, pgBin } from '../testing/a-cluster'
import { aPatroni, type APatroni, type Node } from '../testing/a-patroni'
import { aServer, type AServer } from '../testing/a-server'
import { withPeople } from './chaos'

const run = promisify(execFile)
const SETTING = { seconds: 20, writers: 10, streams: 50 }
/** Longer than Patroni waits before another leads. */
const CUT_MS = 45_000
const ROUNDS = Number(process.env.KEG_BENCH_ROUNDS ?? 2)

const patroni = await aPatroni()
await made(patroni)
const back: Record<string, number> = {}
try {
  const result = await withPeople(
    patroni,
    patroni.url('app'),
    SETTING,
    async (_server, _until, confirmedSince) => {
      const acts: Record<string, number> = {}
      /** Does it, and says how long nothing was confirmed. */
      const act = async (name: string, work: () => Promise<unknown>) => {
        const at = Date.now()
        await work()
        const done = Date.now()
        while (confirmedSince(done) === 0) await pause(50)
        back[`${name}: until writing again, s`] = Math.round((Date.now() - at) / 100) / 10
        acts[name] = (acts[name] ?? 0) + 1
        await pause(SETTING.seconds * 250)
      }
      for (let i = 0; i < ROUNDS; i++) {
        let lost: Node | undefined
        await act('leader killed', async () => {
          lost = await leaderOf(patroni)
          await patroni.kill(lost)
        })
        await backup(patroni)
        await act('it comes back', async () => {
          await patroni.start(lost!)
          await allThere(patroni)
        })
        await act('network of the leader cut', async () => {
          lost = await leaderOf(patroni)
          await patroni.cut(lost)
          await pause(CUT_MS)
        })
        await act('mended', async () => {
          await patroni.mend(lost!)
          await allThere(patroni)
        })
      }
      return acts
    },
    patroni,
    behindNginx,
  )
  const { confirmed, lost, doubled, books, heard, heardAtTheEnd, longestSilenceMs, downMs, answers } = result
  console.table({
    confirmed,
    lost: lost.length,
    doubled: doubled.length,
    'balances that differ': books.wrong.length,
    'changes heard': heard,
    'heard at the end': heardAtTheEnd,
    'longest silence, s': longestSilenceMs / 1000,
    'down, all together, s': downMs / 1000,
    ...back,
    ...Object.fromEntries(Object.entries(answers).map(([what, n]) => [`answered ${what}`, n])),
  })
  process.exitCode = lost.length + doubled.length + books.wrong.length === 0 && heardAtTheEnd ? 0 : 1
} finally {
  await patroni.remove()
}

/** The database, on all three: one that follows does not know it in the first moment. */
async function made(of: APatroni) {
  const addresses = { adminUrl: of.url('admin'), ownerUrl: of.url('owner'), appUrl: of.url('app') }
  await found('database', () =>
    prepareDatabase(addresses).then(
      () => true,
      (error: { code?: string }) => {
        if (error.code !== '3D000') throw error
        return undefined
      },
    ),
  )
}

/** Waits for something that comes by itself. */
async function found<T>(what: string, look: () => Promise<T | undefined>): Promise<T> {
  for (let tries = 0; tries < 400; tries++) {
    const there = await look()
    if (there) return there
    await pause(300)
  }
  throw new Error(`there is no ${what}`)
}

function leaderOf(of: APatroni): Promise<Node> {
  return found('leader', of.leader)
}

function allThere(of: APatroni): Promise<Node> {
  return found('second replica', async () => (await of.replicas())[1])
}

/** From one that only follows: people go on writing meanwhile. */
async function backup(of: APatroni) {
  const replica = await found('a replica', async () => (await of.replicas())[0])
  const folder = await mkdtemp(join(tmpdir(), 'keg-replica-'))
  const url = new URL(of.url('admin').replace(/@[^/]+/, `@${of.addressOf(replica)}:5432`))
  const file = join(folder, 'keg.dump')
  await run(join(pgBin(), 'pg_dump'), ['--format=custom', `--file=${file}`, url.href])
  const { stdout } = await run(join(pgBin(), 'pg_restore'), ['--list', file])
  back['backup from a replica, kB'] = Math.round((await stat(file)).size / 1000)
  if (!/TABLE DATA public movement/.test(stdout)) throw new Error('the backup of a replica has no movements')
  await rm(folder, { recursive: true })
}

/** Two processes behind nginx with TLS and HTTP/2; its certificate is one that this process trusts (command/bench.sh). */
async function behindNginx(appUrl: string): Promise<AServer> {
  const port = await freePort()
  const origin = `https://localhost:${port}`
  const env = { KEG_ORIGIN: origin, KEG_TRUST_PROXY: 'loopback', KEG_DATABASE_CONNECTIONS: '8' }
  const [one, two] = await Promise.all([aServer(appUrl, env), aServer(appUrl, env)])
  const folder = await mkdtemp(join(tmpdir(), 'keg-nginx-'))
  const conf = join(folder, 'nginx.conf')
  // As docs/deploy.md has it.
  const written = /## A reverse proxy \(nginx\)\n\n```\n([\s\S]+?)```/.exec(
    await readFile('docs/deploy.md', 'utf8'),
  )![1]!
  const site = written
    .replace('127.0.0.1:4600', new URL(one.origin).host)
    .replace('127.0.0.1:4601', new URL(two.origin).host)
    .replace('listen 443 ssl http2;', `listen 127.0.0.1:${port} ssl http2;\nlisten [::1]:${port} ssl http2;`)
    .replace('listen [::]:443 ssl http2;', '')
    .replaceAll('keg.example', 'localhost')
    .replace(/ssl_certificate .*;/, `ssl_certificate ${process.env.KEG_TLS}/cert.pem;`)
    .replace(/ssl_certificate_key .*;/, `ssl_certificate_key ${process.env.KEG_TLS}/key.pem;`)
  await writeFile(
    conf,
    `daemon off; pid ${folder}/pid; error_log ${folder}/error.log; events {} http { access_log off; ${site} }`,
  )
  const nginx = spawn('nginx', ['-c', conf, '-p', folder], { stdio: 'inherit' })
  const server: AServer = {
    ...one,
    origin,
    healthy: () =>
      fetch(`${origin}/healthz`, { signal: AbortSignal.timeout(5_000) }).then(
        (answer) => answer.ok,
        () => false,
      ),
    running: () => one.running() && two.running() && nginx.exitCode === null,
    async stop() {
      nginx.kill('SIGTERM')
      await Promise.all([one.stop(), two.stop()])
      await rm(folder, { recursive: true, force: true })
    },
  }
  while (!(await server.healthy())) await pause(100)
  return server
}
