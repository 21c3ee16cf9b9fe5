import type { Entry } from '#core/tape'
import type { Reason } from '#core/verdict'
import type { NotSent } from './makings'
import { type Answer, post } from './post'
import {
  dropAside,
  dropWaiting,
  type EntryAside,
  type Kept,
  putAside,
  putWaiting,
  type WaitingEntry,
} from '../room/waiting-room'

/** What the server has taken. */
export interface Sent {
  jobId: string
  entries: Entry[]
}

/** What goes on beside the entries. */
interface Around {
  changed: () => void
  keep: (work: () => Promise<void>) => Promise<unknown>
  /** Sends what entries may name. @returns why some of it still waits */
  first: () => Promise<NotSent | undefined>
  /** Whether some of these entries are about what still waits. */
  names: (entries: readonly WaitingEntry[]) => boolean
  sent: (sent: Sent) => void
  /** Nothing of a job waits any more. */
  done: () => void
  /** Somebody else has signed in here. */
  stop: () => void
}

export const RETRY_MS = { first: 1_500, most: 20_000 }
const LONGEST_PAUSE_MS = 120_000
const BATCH = 200

/** The entries of one job go on their way by themselves: what holds up one job holds up no other. */
interface Lane {
  busy: Promise<void> | undefined
  again: boolean
  why: NotSent | undefined
  retryMs: number
  timer: ReturnType<typeof setTimeout> | undefined
  /** How many are sent at once: fewer while one of them may be why none is taken. */
  most: number
}

/** One person's entries, sent in order and once each. What is refused is set aside, never dropped. */
export class Entries {
  readonly #owner: { userId: string; userName: string }
  readonly #around: Around
  readonly #waiting = new Map<string, WaitingEntry>()
  readonly #aside = new Map<string, EntryAside>()
  readonly #lanes = new Map<string, Lane>()
  /** Those that no answer came for: what they decided has happened. */
  readonly #unheard = new Set<string>()
  /** What this page has sent, set aside or thrown away: a look at the store that began before does not bring it back. */
  readonly #finished = new Set<string>()
  #stopped = false

  constructor(owner: { userId: string; userName: string }, around: Around) {
    this.#owner = owner
    this.#around = around
  }

  get waiting(): WaitingEntry[] {
    return [...this.#waiting.values()]
  }

  get aside(): EntryAside[] {
    return [...this.#aside.values()]
  }

  /** Why something still waits, by job. */
  get why(): NotSent[] {
    return [...this.#lanes.values()].flatMap((lane) => lane.why ?? [])
  }

  waitsFor(jobId: string): boolean {
    return this.waiting.some((each) => each.jobId === jobId)
  }

  takeUp({ waiting, aside }: Pick<Kept, 'waiting' | 'aside'>) {
    const { userId } = this.#owner
    const fresh = ({ entryId }: WaitingEntry) => !this.#finished.has(entryId)
    for (const each of waiting)
      if (each.userId === userId && fresh(each) && !this.#waiting.has(each.entryId)) {
        this.#waiting.set(each.entryId, each)
        this.#unheard.add(each.entryId)
      }
    for (const each of aside)
      if ((each.userId === userId || each.userId === '') && fresh(each)) this.#aside.set(each.entryId, each)
  }

  async keepAnew(): Promise<void> {
    await putWaiting(this.waiting)
    await putAside(this.aside)
  }

  /** They are sent from now on. */
  go() {
    this.#stopped = false
  }

  stop() {
    this.#stopped = true
    for (const lane of this.#lanes.values()) clearTimeout(lane.timer)
  }

  /** Shows them at once, and keeps them on the device. */
  async hold(jobId: string, entries: Entry[]): Promise<void> {
    const kept = entries.map((entry) => ({ entryId: entry.entryId, jobId, ...this.#owner, entry }))
    for (const each of kept) {
      this.#finished.delete(each.entryId)
      this.#waiting.set(each.entryId, each)
    }
    this.#around.changed()
    await this.#around.keep(() => putWaiting(kept))
  }

  /** One that was set aside goes on its way once more, as it is or changed. */
  async again(aside: EntryAside, changed: Entry): Promise<void> {
    this.#aside.delete(aside.entryId)
    this.#finished.add(aside.entryId)
    const dropped = this.#around.keep(() => dropAside(aside.entryId))
    await Promise.all([this.hold(aside.jobId, [changed]).then(() => this.send(aside.jobId)), dropped])
  }

  async throwAway(entryId: string): Promise<void> {
    this.#aside.delete(entryId)
    this.#finished.add(entryId)
    this.#around.changed()
    await this.#around.keep(() => dropAside(entryId))
  }

  async sendAll(): Promise<void> {
    await Promise.all([...new Set(this.waiting.map((each) => each.jobId))].map((id) => this.send(id)))
  }

  /** Sends those of one job. */
  send(jobId: string): Promise<void> {
    const lane = this.#lane(jobId)
    if (lane.busy) {
      lane.again = true
      return lane.busy
    }
    clearTimeout(lane.timer)
    lane.busy = this.#empty(jobId, lane).finally(() => {
      lane.busy = undefined
      this.#around.changed()
      if (!lane.again) return
      lane.again = false
      return this.send(jobId)
    })
    return lane.busy
  }

  #lane(jobId: string): Lane {
    const known = this.#lanes.get(jobId)
    if (known) return known
    const lane: Lane = {
      busy: undefined,
      again: false,
      why: undefined,
      retryMs: RETRY_MS.first,
      timer: undefined,
      most: BATCH,
    }
    this.#lanes.set(jobId, lane)
    return lane
  }

  async #empty(jobId: string, lane: Lane) {
    for (;;) {
      const next = this.waiting.filter((each) => each.jobId === jobId).slice(0, lane.most)
      if (this.#stopped) return
      if (next.length === 0) return this.#around.done()
      const held = await this.#around.first()
      if (this.#stopped) return
      if (held && this.#around.names(next)) return this.#later(jobId, lane, held)
      const answer = await post(
        jobId,
        this.#owner.userId,
        next.map((each) => each.entry),
        next.map((each) => each.entryId).filter((id) => this.#unheard.has(id)),
      )
      if (this.#stopped) return
      if (answer.kind === 'taken') {
        if (!(await this.#taken(jobId, lane, next, answer))) return this.#later(jobId, lane, 'failing')
      } else if (answer.kind === 'never') await this.#never(lane, next, answer.code)
      else {
        lane.why = answer.why
        // Also those that were made since: they find no answer either.
        for (const each of this.#waiting.values()) if (each.jobId === jobId) this.#unheard.add(each.entryId)
        if (answer.why === 'another-person') return this.#around.stop()
        return this.#later(jobId, lane, answer.why, answer.kind === 'later' ? answer.afterMs : undefined)
      }
    }
  }

  /** @returns whether it went on at all: an answer about nothing that was sent is none */
  async #taken(jobId: string, lane: Lane, sent: WaitingEntry[], answer: Answer & { kind: 'taken' }) {
    const refused = new Map(answer.refused.map(({ entryId, reasons }) => [entryId, reasons]))
    const aside = sent.flatMap((each) => {
      const reasons = refused.get(each.entryId)
      return reasons ? [{ ...each, reasons }] : []
    })
    const taken = new Set(answer.entries.map((entry) => entry.entryId))
    const done = sent.filter((each) => taken.has(each.entryId)).map((each) => each.entryId)
    await this.#setAside(aside)
    await this.#around.keep(() => dropWaiting(done))
    this.#around.sent({ jobId, entries: answer.entries })
    for (const id of done) {
      this.#waiting.delete(id)
      this.#unheard.delete(id)
      this.#finished.add(id)
    }
    lane.why = undefined
    lane.retryMs = RETRY_MS.first
    lane.most = Math.min(BATCH, lane.most * 2)
    this.#around.changed()
    return done.length + aside.length > 0
  }

  /** One of them is why none is taken: it is looked for by halves, and set aside alone. */
  async #never(lane: Lane, sent: WaitingEntry[], code: string) {
    const wholeJob = code === 'no-job' || code === 'not-allowed'
    if (sent.length > 1 && !wholeJob) lane.most = Math.ceil(sent.length / 2)
    else await this.#setAside(sent.map((each) => ({ ...each, reasons: [{ code }] as Reason[] })))
  }

  async #setAside(entries: EntryAside[]) {
    if (entries.length === 0) return
    for (const each of entries) {
      this.#aside.set(each.entryId, each)
      this.#waiting.delete(each.entryId)
      this.#finished.add(each.entryId)
    }
    await this.#around.keep(() => putAside(entries))
  }

  #later(jobId: string, lane: Lane, why: NotSent, afterMs = lane.retryMs) {
    lane.why = why
    // Each of many tabs and jobs at a time of its own.
    const pause = Math.min(LONGEST_PAUSE_MS, afterMs) * (1 + Math.random() / 4)
    lane.timer = setTimeout(() => void this.send(jobId), pause)
    lane.retryMs = Math.min(RETRY_MS.most, lane.retryMs * 2)
  }
}
