// Kills the server, the database and the gateway in turn at random moments of a run; then looks whether every sample that
// the gateway ever kept is in the database, once. Nobody helps.
import { type ChildProcess, spawn } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { readFileSync } from 'node:fs'
import { mkdtemp, readFile, rm, stat, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { addDevice, closeDatabase, inShop, samplesOf } from '#db'
import { prepareDatabase } from '../db/migrate'
import { aCluster } from '../testing/a-cluster'
import { aServer } from '../testing/a-server'
import { aShop } from '../testing/a-shop'
import { restart } from './chaos'

export interface LiveChaosResult {
  /** Samples that the gateway wrote down. */
  said: number
  lost: number
  doubled: number
  /** Places where a sequence skips or falls back. */
  breaks: number
  /** The run went on by itself after the last kill. */
  wentOn: boolean
  kills: number
}

const CHANNELS = ['weight', 'low', 'high'] as const

export async function liveChaos(rounds: number): Promise<LiveChaosResult> {
  const cluster = await aCluster()
  await cluster.start()
  const folder = await mkdtemp(join(tmpdir(), 'keg-gateway-'))
  const usual = process.env.KEG_DATABASE_URL
  try {
    await prepareDatabase({
      adminUrl: cluster.url('admin'),
      ownerUrl: cluster.url('owner'),
      appUrl: cluster.url('app'),
    })
    process.env.KEG_DATABASE_URL = cluster.url('app')
    const shop = await aShop()
    const deviceId = randomUUID()
    const token = await inShop(shop.shopId, (tx) =>
      addDevice(tx, { deviceId, name: 'Rig', channels: CHANNELS, standIn: true }, shop.userId, new Date()),
    )
    const server = await aServer(cluster.url('app'))
    const config = join(folder, 'gateway.json')
    const scenario = resolve('sim/scenario/scenarios/recover-core-in-fans-off.json')
    await writeFile(
      config,
      JSON.stringify({
        server: server.origin,
        devices: [{ deviceId, token, scenario, speed: 1, everyMs: 100, channels: CHANNELS }],
      }),
    )
    const gateway = aGateway(config)
    try {
      const spool = join(folder, 'spool', `${deviceId}.jsonl`)
      await until(
        () => size(spool),
        (bytes) => bytes > 500,
      )
      const kill = {
        server: () => void server.kill(),
        gateway: () => gateway.kill(),
        database: () => restart(cluster, 'kill'),
      }
      let kills = 0
      for (let round = 0; round < rounds; round++)
        for (const act of Object.values(kill)) {
          await pause(200 + Math.random() * 1_500)
          await act()
          kills++
        }
      const before = await size(spool)
      const wentOn = await until(
        () => size(spool),
        (bytes) => bytes > before + 2_000,
      )
      // Everything that waits gets through by itself, while more is said.
      await until(
        () => left(join(folder, 'spool'), deviceId),
        (bytes) => bytes < 2_000,
      )
      await gateway.stop()
      await drained(config)
      await closeDatabase()
      return { ...(await compare(shop.shopId, deviceId, spool)), wentOn, kills }
    } finally {
      await gateway.stop()
      await server.stop()
    }
  } finally {
    await closeDatabase()
    process.env.KEG_DATABASE_URL = usual
    await rm(folder, { recursive: true, force: true })
    await cluster.remove()
  }
}

/** Whatever the ended gateway had written down last is sent by one that says nothing for itself, and ends. */
async function drained(config: string): Promise<void> {
  const last = spawn('node', ['--import', 'tsx', 'instruments/main.ts', config, '--drain'], {
    stdio: 'ignore',
  })
  const late = setTimeout(() => last.kill('SIGKILL'), 30_000)
  await new Promise((resolve) => last.once('exit', resolve))
  clearTimeout(late)
}

/** Bytes that have not arrived yet. */
async function left(folder: string, deviceId: string): Promise<number> {
  const sent = await readFile(join(folder, `${deviceId}.sent`), 'utf8').catch(() => '0')
  return (await size(join(folder, `${deviceId}.jsonl`))) - Number(sent)
}

async function compare(shopId: string, deviceId: string, spool: string) {
  const said = readFileSync(spool, 'utf8')
    .trim()
    .split('\n')
    .map(
      (line) =>
        JSON.parse(line) as { channel: (typeof CHANNELS)[number]; seq: number; at: number; value: number },
    )
  const key = (channel: string, seq: number, at: number) => `${channel} ${seq} ${at}`
  const wanted = new Set(said.map(({ channel, seq, at }) => key(channel, seq, at)))
  const there: string[] = []
  let breaks = 0
  for (const channel of CHANNELS) {
    const { at, seq } = await inShop(shopId, (tx) =>
      samplesOf(tx, { deviceId, channel }, new Date(0), new Date()),
    )
    seq.forEach((each, i) => {
      there.push(key(channel, each, at[i]!))
      if (each !== i) breaks++
    })
  }
  const found = new Set(there)
  return {
    said: said.length,
    lost: [...wanted].filter((each) => !found.has(each)).length,
    doubled: there.length - found.size + there.filter((each) => !wanted.has(each)).length,
    breaks,
  }
}

/** The gateway, started again whenever it ends. */
function aGateway(config: string) {
  let child: ChildProcess | undefined
  let stopped = false
  const start = () => {
    child = spawn('node', ['--import', 'tsx', 'instruments/main.ts', config], {
      stdio: ['ignore', 'ignore', 'inherit'],
    })
    child.once('exit', () => {
      if (!stopped) setTimeout(start, 100)
    })
  }
  start()
  return {
    kill: () => void child?.kill('SIGKILL'),
    async stop() {
      if (stopped) return
      stopped = true
      const ended = new Promise((resolve) => child!.once('exit', resolve))
      if (child!.exitCode !== null || child!.signalCode !== null) return
      child!.kill('SIGTERM')
      await ended
    },
  }
}

const size = async (file: string) => (await stat(file).catch(() => ({ size: 0 }))).size

async function until(look: () => Promise<number>, so: (value: number) => boolean): Promise<boolean> {
  for (let tries = 0; tries < 600; tries++) {
    if (so(await look())) return true
    await pause(100)
  }
  return false
}
