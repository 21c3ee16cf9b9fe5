import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { deviceOf } from './device'
import { type Rig, rigOf } from './rig'
import type { Answer, DeviceAtServer } from './server'
import type { SpooledSample } from './spool'

let folder: string
beforeEach(() => (folder = mkdtempSync(join(tmpdir(), 'keg-device-'))))
afterEach(() => rmSync(folder, { recursive: true, force: true }))

/** A server that answers as it is told to, and keeps what it has taken by its key. */
function aServer(answer: (nth: number) => Answer['kind'] | 'taken-but-lost') {
  const taken = new Map<string, number>()
  const states: object[] = []
  let nth = 0
  const orders: { nr: number; command: Record<string, unknown> }[] = []
  const server: DeviceAtServer = {
    async send(samples) {
      const kind = answer(nth++)
      if (kind === 'taken' || kind === 'taken-but-lost')
        for (const { channel, seq, at } of samples as SpooledSample[])
          taken.set(`${channel} ${seq} ${at}`, (taken.get(`${channel} ${seq} ${at}`) ?? 0) + 1)
      if (kind === 'taken') return { kind, refused: [] }
      if (kind === 'shut') return { kind, why: 'revoked' }
      return { kind: 'later', why: 'away', afterMs: 5 }
    },
    async commands(after, signal) {
      for (let i = 0; i < 20 && !signal.aborted; i++) {
        const due = orders.filter(({ nr }) => nr > after)
        if (due.length > 0) return due
        await pause(5)
      }
      return []
    },
    async state(state) {
      states.push(structuredClone(state))
      return true
    },
    report: () => Promise.resolve({ kind: 'taken', refused: [] }),
  }
  return { server, taken, states, orders, calls: () => nth }
}

/** Counts up; what it is asked is kept. */
function aRig() {
  const obeyed: object[] = []
  let value = 0
  const rig: Rig = {
    advance: () => ({ weight: ++value }),
    obey: (command) => {
      obeyed.push(command)
      return command.speed !== 99
    },
    state: () => ({ speed: obeyed.length }),
    keep: () => {},
  }
  return { rig, obeyed }
}

const setup = (say: (text: string) => void = () => {}) => ({
  deviceId: 'd',
  folder,
  everyMs: 5,
  firstSeq: 0,
  clock: Date.now,
  say,
})

async function runs(rig: Rig, server: DeviceAtServer, ms: number, say?: (text: string) => void) {
  const ending = new AbortController()
  const running = deviceOf(setup(say), rig, server).run(ending.signal)
  await pause(ms)
  ending.abort()
  await running
}

describe('a device', () => {
  it('sends in order over a server that is away, answers late, and loses its answers: everything is there', async () => {
    const { server, taken } = aServer((nth) => (['later', 'taken-but-lost', 'taken'] as const)[nth % 3]!)
    await runs(aRig().rig, server, 300)
    const usual = aServer(() => 'taken')
    await runs(aRig().rig, usual.server, 200)
    const seqs = [...taken.keys(), ...usual.taken.keys()].map((key) => Number(key.split(' ')[1]))
    const all = [...new Set(seqs)].sort((a, b) => a - b)
    expect(all.length).toBeGreaterThan(20)
    // None missing between the first and the last that arrived.
    expect(all).toEqual(all.map((_, i) => i))
  })

  it('does what it is asked once, in order, also after it was ended; what it does not know is said', async () => {
    const { server, orders, states } = aServer(() => 'taken')
    const { rig, obeyed } = aRig()
    const said: string[] = []
    orders.push({ nr: 1, command: { speed: 5 } }, { nr: 2, command: { speed: 99 } })
    await runs(rig, server, 150, (text) => said.push(text))
    expect(obeyed).toEqual([{ speed: 5 }, { speed: 99 }])
    expect(said.join()).toContain('does not know {"speed":99}')
    expect(states.at(-1)).toEqual({ speed: 2 })
    orders.push({ nr: 3, command: { restart: true } })
    await runs(rig, server, 150)
    expect(obeyed).toHaveLength(3)
  })

  it('stops sending when it was revoked, and keeps what it has said', async () => {
    const { server, calls } = aServer(() => 'shut')
    const said: string[] = []
    await runs(aRig().rig, server, 200, (text) => said.push(text))
    expect(calls()).toBe(1)
    expect(said[0]).toContain('revoked; what it has said stays in')
  })
})

describe('a rig', () => {
  const scenario = resolve('sim/scenario/scenarios/recover-core-in-fans-off.json')
  const kept = () => join(folder, 'rig')
  const begun = (over = {}) =>
    rigOf({ scenario, seed: 3, speed: 10, channels: ['weight', 'low'], ...over }, scenario, kept())

  it('goes as fast as it is set, and says only its channels', () => {
    const rig = begun()
    const first = rig.advance(1_000)!
    expect(Object.keys(first).sort()).toEqual(['low', 'weight'])
    // Ten seconds of liquid at 22 g/s, less what the machine holds.
    expect(first.weight).toBeGreaterThan(9.1)
    for (let i = 0; i < 5; i++) rig.advance(1_000)
    expect(rig.advance(0)!.weight).toBeGreaterThan(10)
    expect(rig.obey({ speed: 60 })).toBe(true)
    expect(rig.obey({ speed: 600 })).toBe(false)
    expect(rig.state()).toMatchObject({ speed: 60, mode: 'run', ended: false })
  })

  it('obeys hands, and refuses what no hand can do', () => {
    const rig = begun()
    expect(rig.obey({ set: { fan: true, machine: 'off' } })).toBe(true)
    expect(rig.state()).toMatchObject({ controls: { fan: true, machine: 'off' } })
    for (const bad of [{ set: { fan: 'maybe' } }, { set: { lever: true } }, {}, { set: null }])
      expect(rig.obey(bad)).toBe(false)
  })

  it('left in the middle it goes on from there in another process; what is left behind broken begins anew', () => {
    const rig = begun()
    for (let i = 0; i < 10; i++) rig.advance(1_000)
    rig.obey({ speed: 30 })
    rig.keep()
    const weight = rig.advance(0)!.weight
    const again = begun()
    expect(again.state()).toMatchObject({ speed: 30 })
    expect(again.advance(0)!.weight).toBeCloseTo(weight!, 2)
    writeFileSync(kept(), '{"standing":')
    expect(begun().advance(0)!.weight).toBeLessThan(9.1)
  })

  it('comes to its end by itself, lingers, falls silent, and starts over when it is asked', () => {
    const rig = begun({ speed: 60 })
    for (let i = 0; i < 25; i++) rig.advance(1_000)
    expect(rig.state()).toMatchObject({ ended: true })
    for (let i = 0; i < 350; i++) expect(rig.advance(5_000)).toBeDefined()
    for (let i = 0; i < 20; i++) rig.advance(5_000)
    expect(rig.advance(1_000)).toBeUndefined()
    expect(rig.obey({ restart: true })).toBe(true)
    expect(rig.advance(1_000)).toBeDefined()
    expect(rig.state()).toMatchObject({ ended: false })
  })
})
