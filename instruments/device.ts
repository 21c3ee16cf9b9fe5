import { join } from 'node:path'
import { setTimeout as pause } from 'node:timers/promises'
import type { Rig } from './rig'
import type { DeviceAtServer } from './server'
import { existsSync, readFileSync } from 'node:fs'
import { replace, spoolIn } from './spool'

const MOST = 1_000
const LATER_MS = { first: 500, most: 10_000 }

export interface Device {
  run(signal: AbortSignal): Promise<void>
  /** Says nothing more, and ends once everything has arrived. */
  drain(signal: AbortSignal): Promise<void>
  /** What is said now, and how much of it waits. */
  waiting(): number
}

interface DeviceSetup {
  deviceId: string
  folder: string
  everyMs: number
  /** The sequence of a channel that has said nothing yet. */
  firstSeq: number
  clock: () => number
  say: (text: string) => void
}

/** One device: reads its rig on the beat, keeps what it says, sends it in order, and does what it is asked. */
export function deviceOf(setup: DeviceSetup, rig: Rig, server: DeviceAtServer): Device {
  const { deviceId, folder, everyMs, firstSeq, clock, say } = setup
  const spool = spoolIn(folder, deviceId)
  const commandFile = join(folder, `${deviceId}.command`)
  let done = existsSync(commandFile) ? Number(readFileSync(commandFile, 'utf8')) || 0 : 0
  let told = ''
  let shut = false

  return {
    waiting: () => spool.waiting(),
    async run(signal) {
      await Promise.all([beat(signal), send(signal), obey(signal), report(signal)])
    },
    async drain(signal) {
      const empty = new AbortController()
      const looking = setInterval(() => {
        if (shut || spool.waiting() === 0) empty.abort()
      }, everyMs)
      await send(AbortSignal.any([signal, empty.signal])).finally(() => clearInterval(looking))
    },
  }

  async function beat(signal: AbortSignal) {
    let last = clock()
    // Whom nobody listens to any more says nothing: what it has said stays on its disk.
    while (!signal.aborted && !shut) {
      await nap(everyMs, signal)
      const now = clock()
      // A machine that slept does not make up for it.
      const said = rig.advance(Math.min(now - last, 5_000))
      last = now
      if (!said) continue
      const seqs = spool.lastSeq()
      const given = spool.put(
        Object.entries(said).map(([channel, value]) => ({
          channel,
          seq: (seqs.get(channel) ?? firstSeq - 1) + 1,
          at: now,
          value,
        })),
      )
      if (given > 0)
        say(`${deviceId}: ${folder} is full: the ${given} oldest samples that were not sent are gone`)
      rig.keep()
    }
  }

  async function send(signal: AbortSignal) {
    let laterMs = LATER_MS.first
    while (!signal.aborted) {
      const { samples, end } = spool.next(MOST)
      if (samples.length === 0 || shut) {
        if (!shut) await tell()
        await nap(everyMs / 2, signal)
        continue
      }
      const answer = await server.send(samples)
      if (answer.kind === 'taken') {
        laterMs = LATER_MS.first
        spool.sent(end)
        for (const { sentence } of answer.refused.slice(0, 1))
          say(`${deviceId}: ${answer.refused.length} samples not taken: ${sentence}`)
      } else if (answer.kind === 'shut') {
        shut = true
        say(`${deviceId}: ${answer.why}; what it has said stays in ${folder}`)
      } else {
        await nap(answer.afterMs ?? laterMs, signal)
        laterMs = Math.min(LATER_MS.most, laterMs * 2)
      }
    }
  }

  /** What a station has to say, in order: the next once this was taken. */
  async function report(signal: AbortSignal) {
    let laterMs = LATER_MS.first
    while (rig.reports && !signal.aborted && !shut) {
      const next = rig.reports.next()
      const last = next?.reports.at(-1)
      if (!next || !last) {
        await nap(everyMs / 2, signal)
        continue
      }
      const answer = await server.report(next)
      if (answer.kind === 'taken') {
        laterMs = LATER_MS.first
        for (const { sentence } of answer.refused) say(`${deviceId}: reports not taken: ${sentence}`)
        rig.reports.taken(next.programmeId, last.nr)
      } else if (answer.kind === 'shut') {
        shut = true
        say(`${deviceId}: ${answer.why}; what it has to say stays in ${folder}`)
      } else {
        await nap(answer.afterMs ?? laterMs, signal)
        laterMs = Math.min(LATER_MS.most, laterMs * 2)
      }
    }
  }

  /** How the knobs stand, whenever that is something else. */
  async function tell() {
    const state = rig.state()
    const text = JSON.stringify(state)
    if (text !== told && (await server.state(state))) told = text
  }

  async function obey(signal: AbortSignal) {
    while (!signal.aborted && !shut) {
      const commands = await server.commands(done, signal)
      if (!commands) await nap(LATER_MS.first * 4, signal)
      for (const { nr, command } of commands ?? []) {
        if (!rig.obey(command)) say(`${deviceId}: does not know ${JSON.stringify(command)}`)
        done = nr
        replace(commandFile, String(done))
      }
    }
  }
}

async function nap(ms: number, signal: AbortSignal) {
  await pause(ms, undefined, { signal }).catch(() => {
    // Called off: it ends.
  })
}
