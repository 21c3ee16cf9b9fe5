import { setTimeout as pause } from 'node:timers/promises'
import { fileURLToPath } from 'node:url'
import { afterEach, describe, expect, it } from 'vitest'
import { keepServer, type KeptServer } from './kept-server'
import { isStuck, longer, lookAt, NO_SILENCE, type Patience } from './patience'
import { childrenOf } from '../testing/a-cluster'

const FILE = fileURLToPath(new URL('./testing/a-slow-server.mjs', import.meta.url))
const SHORT: Patience = { silentMs: 400, busyMs: 1_500, startMs: 60_000 }

let kept: KeptServer | undefined
const said: string[] = []
const ours = () => childrenOf(process.pid).filter((pid) => lookAt(pid, 0))
afterEach(async () => {
  await kept?.leave()
  kept = undefined
  said.length = 0
})

/** A program with a fault, kept with little patience. */
function keep(fault: string, patience = SHORT) {
  const before = new Set(ours())
  kept = keepServer({ file: FILE, args: [fault] }, (what) => said.push(what), patience)
  return { pid: () => ours().find((pid) => !before.has(pid)) }
}

/** Waits, however slow the machine is. */
async function until(what: () => unknown) {
  const end = Date.now() + 25_000
  while (!what()) {
    if (Date.now() > end) throw new Error(`it never came: ${said.join(' / ')}`)
    await pause(20)
  }
}

describe('a server that is kept', () => {
  it('is not ended while it comes up, however little of a processor it gets', async () => {
    const { pid } = keep('slow-start', { silentMs: 100, busyMs: 100, startMs: 60_000 })
    await until(pid)
    const child = pid()!
    // A tenth of a core: it is let run for 10 ms of each 100.
    for (let i = 0; i < 30 && (lookAt(child, 0)?.cpuMs ?? 0) < 500; i++) {
      process.kill(child, 'SIGCONT')
      await pause(10)
      process.kill(child, 'SIGSTOP')
      await pause(90)
    }
    process.kill(child, 'SIGCONT')
    await pause(200)
    expect(said).toEqual([])
    expect(pid()).toBe(child)
  })
  it('is ended when it waits for nothing, and another is started', async () => {
    keep('stuck')
    await until(() => said.length >= 2)
    expect(said[0]).toMatch(/^The server has not answered for .* s, and was not at work: ending it\.$/)
    expect(said[1]).toMatch(/^The server has ended \(SIGKILL\): starting it again/)
    await until(() => said.includes('The server is back.'))
  })
  it('is ended when its loop never comes to an end', async () => {
    keep('endless')
    await until(() => said.length >= 1)
    expect(said[0]).toMatch(/^The server has worked for .* s without an answer: ending it\.$/)
  })
  it('is left alone while it is merely busy', async () => {
    const { pid } = keep('busy')
    await until(pid)
    const child = pid()!
    await until(() => (lookAt(child, 0)?.cpuMs ?? 0) > 2 * SHORT.busyMs)
    expect(said).toEqual([])
  })
})

describe('a silence', () => {
  const look = (cpuMs: number, state: string) => ({ at: 0, cpuMs, state })
  it('counts the time in which nothing was wanted, and the work that was done', () => {
    expect(longer(NO_SILENCE, look(100, 'S'), look(100, 'S'), 1_000)).toEqual({ idleMs: 1_000, busyMs: 0 })
    expect(longer(NO_SILENCE, look(100, 'R'), look(150, 'R'), 1_000)).toEqual({ idleMs: 0, busyMs: 50 })
    // It wants a processor or the disk, and gets none: that is the machine's.
    expect(longer(NO_SILENCE, look(100, 'R'), look(100, 'R'), 1_000)).toEqual(NO_SILENCE)
    expect(longer(NO_SILENCE, look(100, 'D'), look(100, 'D'), 1_000)).toEqual(NO_SILENCE)
    // Nothing can be known of it: the clock.
    expect(longer(NO_SILENCE, undefined, undefined, 1_000)).toEqual({ idleMs: 1_000, busyMs: 0 })
  })
  it('is borne for minutes at a start, and for longer with each try', () => {
    const patience = { silentMs: 30_000, busyMs: 120_000, startMs: 300_000 }
    const idle = (idleMs: number) => ({ idleMs, busyMs: 0 })
    expect(isStuck(idle(30_000), patience, undefined)).toBe(true)
    expect(isStuck(idle(299_000), patience, 0)).toBe(false)
    expect(isStuck(idle(300_000), patience, 0)).toBe(true)
    expect(isStuck(idle(300_000), patience, 1)).toBe(false)
    expect(isStuck(idle(600_000), patience, 1)).toBe(true)
    expect(isStuck(idle(3_600_000), patience, 60)).toBe(true)
    expect(isStuck({ idleMs: 0, busyMs: 119_000 }, patience, undefined)).toBe(false)
    expect(isStuck({ idleMs: 0, busyMs: 120_000 }, patience, undefined)).toBe(true)
  })
})
