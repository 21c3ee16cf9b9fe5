import {
  type Entry,
  foldFrom,
  foldTape,
  inShort,
  type JobState,
  once,
  reservations,
  runsOn,
} from '#core/tape'
import { cylindersAfter, type JobAhead, kitAfter, ownReservations, systemAfter } from '#core/unsent'
import type { CylinderRow, JobSummary, KitRow, OpenTape, SystemRow } from '#db'
import { dayIn } from '~/base/session/day-in'
import { type Making, withMade } from '../room/making'
import { systemsAfter } from './systems'
import type { Pack, PackedJob } from '../pack/pack'
import type { Kept } from '../pack/store'

const SCALES_SHOWN = 30

/** Of one job, what was not sent yet. */
export interface Unsent {
  jobId: string
  entry: Entry
}

/** A job as this device knows it. */
export interface DeviceJob {
  jobId: string
  /** null: the server has not numbered it yet. */
  number: number | null
  packed: PackedJob | undefined
  /** What the server has. */
  tape: OpenTape
  /** With all that waits. */
  state: JobState
  /** What the books that are kept here rest on. */
  booked: JobState
}

/** A job as lists show it, numbered or not. */
export type DeviceSummary = Omit<JobSummary, 'number'> & { number: number | null }

/**
 * What a device knows: what it took along, and what was done here since. What others do meanwhile only the server knows.
 */
export class Device {
  readonly pack: Pack
  readonly #learned: Kept['learned']
  readonly #waiting = new Map<string, Entry[]>()
  readonly #jobs = new Map<string, DeviceJob | undefined>()
  #ahead: Set<string> | undefined
  #kit: KitRow[] | undefined
  #systems: SystemRow[] | undefined
  #books: { cylinders: CylinderRow[]; ahead: Set<string> } | undefined

  /** Ids of cylinders and systems that were made here, and are not sent yet. */
  readonly made: ReadonlySet<string>

  constructor(
    { pack, learned }: Pick<Kept, 'pack' | 'learned'>,
    unsent: readonly Unsent[],
    makings: readonly Making[] = [],
  ) {
    this.pack = withMade(pack, makings)
    this.made = new Set(makings.map(({ id }) => id))
    this.#learned = learned
    for (const { jobId, entry } of unsent)
      this.#waiting.set(jobId, [...(this.#waiting.get(jobId) ?? []), entry])
  }

  /** The date where the shop is. */
  today(at: number): string {
    return dayIn(this.pack.shop.timeZone, at)
  }

  get mayWrite(): boolean {
    return this.pack.person.role !== 'trainee'
  }

  #aheadIds(): string[] {
    return [...new Set([...Object.keys(this.#learned), ...this.#waiting.keys()])]
  }

  /** Jobs of which this device has more than the books that it keeps. */
  aheadJobs(): DeviceJob[] {
    return this.#aheadIds().flatMap((jobId) => this.job(jobId) ?? [])
  }

  /** The same, but for one of them. */
  aheadBeside(jobId: string): DeviceJob[] {
    return this.aheadJobs().filter((each) => each.jobId !== jobId)
  }

  /** @returns undefined: it is not in hand, and was not begun here */
  job(jobId: string): DeviceJob | undefined {
    if (!this.#jobs.has(jobId)) this.#jobs.set(jobId, this.#jobOf(jobId))
    return this.#jobs.get(jobId)
  }

  #jobOf(jobId: string): DeviceJob | undefined {
    const packed = this.pack.jobs.find((each) => each.summary.jobId === jobId)
    const waiting = this.#waiting.get(jobId) ?? []
    const learned = this.#learned[jobId] ?? []
    // One that is not in hand, and was not begun here.
    const begunHere = [...learned, ...waiting].some((each) => each.kind === 'job-described')
    if (!packed && !begunHere) return undefined
    const kept = packed?.tape ?? { checkpoint: null, entries: [] }
    const tape = { checkpoint: kept.checkpoint, entries: once([...kept.entries, ...learned]) }
    const state = folded(tape, waiting)
    const booked = folded(kept, [])
    return { jobId, number: packed?.summary.number ?? null, packed, tape, state, booked }
  }

  /** Jobs in hand, the one touched last first. */
  inHand(): DeviceSummary[] {
    const own = new Map(this.aheadJobs().map((job) => [job.jobId, this.summary(job)]))
    const others = this.pack.jobs.map(({ summary }) => summary).filter(({ jobId }) => !own.has(jobId))
    return [...own.values(), ...others]
      .filter(({ status }) => status === 'open' || status === 'waiting')
      .sort((a, b) => b.lastAt.getTime() - a.lastAt.getTime())
  }

  summary({ jobId, number, state }: DeviceJob): DeviceSummary {
    const system = state.systemId ? this.system(state.systemId) : undefined
    return {
      jobId,
      number,
      ...inShort(state),
      system: system?.name ?? null,
      site: system?.site ?? null,
      customer: system?.customer ?? null,
    }
  }

  #ofJobs(): JobAhead[] {
    return this.aheadJobs().map((job) => ({ before: job.booked, after: job.state }))
  }

  #afterJobs() {
    return (this.#books ??= cylindersAfter(this.pack.cylinders, this.#ofJobs()))
  }

  /** With what went through it here. */
  get kit(): KitRow[] {
    return (this.#kit ??= kitAfter(this.pack.kit, this.#ofJobs()))
  }

  /** With what was done here. */
  get cylinders(): CylinderRow[] {
    return this.#afterJobs().cylinders
  }

  /** Cylinders, systems and kit of which the server does not know yet what was done with them, or that they were made. */
  get ahead(): ReadonlySet<string> {
    return (this.#ahead ??= this.#aheadOfServer())
  }

  #aheadOfServer(): Set<string> {
    const jobs = [...this.#waiting.keys()].flatMap((jobId) => this.job(jobId) ?? [])
    const unsent = jobs.map(({ tape, state }): JobAhead => ({ before: folded(tape, []), after: state }))
    const systems = unsent.flatMap((job) => {
      const { systemId } = job.after
      return systemId && systemAfter(systemId, 0, job) !== 0 ? [systemId] : []
    })
    const kit = kitAfter(this.pack.kit, unsent)
    const touched = this.pack.kit.flatMap((row, i) => (kit[i] === row ? [] : [row.kitId]))
    const { ahead } = cylindersAfter(this.pack.cylinders, unsent)
    return new Set([...ahead, ...systems, ...touched, ...this.made])
  }

  /** Cylinders and scales that a transfer of a job is running on, as far as it is known here. */
  busy(notOf?: string): ReadonlySet<string> {
    const jobs = [...this.pack.jobs.map(({ summary }) => summary.jobId), ...this.#aheadIds()]
    return new Set(
      [...new Set(jobs)]
        .filter((jobId) => jobId !== notOf)
        .flatMap((jobId) => this.job(jobId) ?? [])
        .flatMap(({ state }) => runsOn(state)),
    )
  }

  cylinder(cylinderId: string): CylinderRow | undefined {
    return this.cylinders.find((each) => each.cylinderId === cylinderId)
  }

  /** Cylinders as one job sees them: what it has reserved itself is free for it. */
  cylindersSeenBy(job: DeviceJob): CylinderRow[] {
    const own = ownReservations(job.state)
    return this.cylinders.map((row) => ({
      ...row,
      reservedMg: Math.max(0, row.reservedMg - (own.get(row.cylinderId) ?? 0)),
    }))
  }

  /** The jobs in hand that count on a cylinder, by number. */
  countingOn(cylinderId: string): { jobId: string; number: number | null; title: string; roomMg: number }[] {
    return this.inHand()
      .flatMap(({ jobId, number, title, system }) => {
        const job = this.job(jobId)
        const kept = job && reservations(job.state).find((each) => each.cylinderId === cylinderId)
        return kept ? [{ jobId, number, title: title || (system ?? ''), roomMg: kept.roomMg }] : []
      })
      .sort((a, b) => (a.number ?? Infinity) - (b.number ?? Infinity))
  }

  /** What weighs in the shop, those that passed their check first. */
  get scales(): KitRow[] {
    return this.kit
      .filter(({ kind }) => kind === 'scale' || kind === 'station')
      .sort((a, b) => Number(a.failedAt !== null) - Number(b.failedAt !== null))
      .slice(0, SCALES_SHOWN)
  }

  /** What is in a van, by kind and label. */
  kitIn(van: string): KitRow[] {
    return this.kit
      .filter(({ keepsAt }) => van !== '' && keepsAt.toLowerCase() === van.toLowerCase())
      .sort((a, b) => (a.kind < b.kind ? -1 : a.kind > b.kind ? 1 : 0))
  }

  /** With what was done to them here. */
  get systems(): SystemRow[] {
    return (this.#systems ??= systemsAfter(this.pack, this.aheadJobs()))
  }

  system(systemId: string): SystemRow | undefined {
    return this.systems.find((each) => each.systemId === systemId)
  }
}

/** What falls before a checkpoint counts once the whole tape is here: the page says so. */
function folded({ checkpoint, entries }: OpenTape, waiting: readonly Entry[]): JobState {
  if (!checkpoint) return foldTape([...entries, ...waiting])
  return (
    foldFrom(checkpoint, [...entries, ...waiting]) ??
    foldFrom(checkpoint, entries) ??
    foldFrom(checkpoint, [])!
  )
}
