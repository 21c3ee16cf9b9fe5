// How long a server may say nothing before it is ended. What counts is not the clock but what the machine gave it: a
// silence under load is the machine's, and ending a server throws away what it has done and makes the load worse.
import { readFileSync } from 'node:fs'

/** The main thread of a process at a moment, as Linux tells it. */
export interface Look {
  /** ms */
  at: number
  /** Processor time it has had since it began, ms. */
  cpuMs: number
  /** `R` wants a processor, `D` waits for the disk, `S` waits for something to happen, `T` is stopped. */
  state: string
}

export interface Patience {
  /** Counted silence after which one that waits for nothing we know of is held for stuck, ms. */
  silentMs: number
  /** Processor time without a word after which a loop is held for endless, ms: longer than any honest work takes. */
  busyMs: number
  /** Both, until it has said for the first time that it is ready, ms; doubled with each try that did not come up. */
  startMs: number
}

export const PATIENCE: Patience = { silentMs: 30_000, busyMs: 120_000, startMs: 5 * 60_000 }
/** However often it was tried. */
const LONGEST_START_MS = 60 * 60_000
/** Hundredths of a second: what Linux counts processor time in, on every machine that Node runs on. */
const TICK_MS = 10

/** @returns undefined where this is no Linux, or the process is gone */
export function lookAt(pid: number, at: number): Look | undefined {
  let stat: string
  try {
    stat = readFileSync(`/proc/${pid}/task/${pid}/stat`, 'utf8')
  } catch {
    return undefined
  }
  // The name of the program stands in brackets and may have anything in it.
  const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ')
  return { at, state: fields[0]!, cpuMs: (Number(fields[11]) + Number(fields[12])) * TICK_MS }
}

/** What has counted since it was last heard, ms. */
export interface Silence {
  /** Time in which it wanted no processor and no disk, and got none. */
  idleMs: number
  /** Processor time it had. */
  busyMs: number
}

export const NO_SILENCE: Silence = { idleMs: 0, busyMs: 0 }

/** A silence, longer by what was between two looks. A machine that cannot tell (no Linux) counts by the clock. */
export function longer(silence: Silence, from: Look | undefined, to: Look | undefined, ms: number): Silence {
  const had = from && to ? to.cpuMs - from.cpuMs : 0
  const wanted = to?.state === 'R' || to?.state === 'D'
  return {
    busyMs: silence.busyMs + had,
    idleMs: silence.idleMs + (had > 0 || wanted ? 0 : ms),
  }
}

/** @param tries how often it was started before this without coming up; undefined once it is ready */
export function isStuck(silence: Silence, patience: Patience, tries: number | undefined): boolean {
  if (tries === undefined) return silence.idleMs >= patience.silentMs || silence.busyMs >= patience.busyMs
  const most = Math.min(LONGEST_START_MS, patience.startMs * 2 ** tries)
  return silence.idleMs >= most || silence.busyMs >= most
}
