import type { Entry } from '#core/tape'
import type { Reason } from '#core/verdict'
import { isUnsentMaking, type Making, type MakingAside, type MakingOf } from '~/offline/device/making'
import { deviceKeyOf } from '~/offline/pack/keeping'
import { unlockFor } from './locked'
import { Makings, type NotSent } from './makings'
import { Photos } from './photos'
import { type Answer, post } from './post'
import {
  allKept,
  type Kept,
  lastKept,
  type Locked,
  dropAside,
  dropWaiting,
  type EntryAside,
  onRoomEmptied,
  type PhotoAside,
  type PhotoWaiting,
  putAside,
  putWaiting,
  type WaitingEntry,
} from './waiting-room'

/** What the server has taken. */
export interface Sent {
  jobId: string
  entries: Entry[]
}

export interface Snapshot {
  signal: Signal
  waiting: WaitingEntry[]
  /** What was not taken, with the reasons. */
  aside: EntryAside[]
  /** What others wrote on this device: it waits until they sign in here. */
  others: { name: string; count: number }[]
  /** How many of this person's own are unsent and still locked. */
  locked: number
  /** The server has given a key, and they do not open with it. */
  shut: boolean
  /** Jobs of which the server has just found something against what was done without signal. */
  against: string[]
  /** Cylinders and systems that were made here, and are not sent yet. */
  makings: Making[]
  makingsAside: MakingAside[]
  /** Cylinders that have another label now: theirs was taken meanwhile. */
  renamed: [id: string, label: string][]
  /** Photos that were taken here, and are not sent yet. */
  photos: PhotoWaiting[]
  photosAside: PhotoAside[]
  /** How much of all of it the server does not have. */
  unsent: number
  /** The device keeps what waits; without it the page must stay open until it is sent. */
  kept: boolean
}

export type Signal = 'here' | 'lost' | 'busy' | 'failing' | 'signed-out' | 'another-person'

const RETRY_MS = { first: 1_500, most: 20_000 }
const LONGEST_PAUSE_MS = 120_000
const BATCH = 200

/** The entries of one job go on their way by themselves: what holds up one job holds up no other. */
interface Lane {
  busy: Promise<void> | undefined
  again: boolean
  why: Signal
  retryMs: number
  timer: ReturnType<typeof setTimeout> | undefined
  /** How many are sent at once: fewer while one of them may be why none is taken. */
  most: number
}

/**
 * Sends one person's entries in order and once each, and keeps them on the device until the server has confirmed them.
 * One for the whole page; without a connection it tries again by itself. What is refused is set aside, never dropped.
 */
export class Outbox {
  /** Whose entries it sends. */
  readonly userId: string
  #userName: string
  #waiting = new Map<string, WaitingEntry>()
  #aside = new Map<string, EntryAside>()
  #others: Snapshot['others'] = []
  #locked: Locked[] = []
  #triedKey = false
  #lanes = new Map<string, Lane>()
  #stopped = false
  #sentListeners = new Set<(sent: Sent) => void>()
  #listeners = new Set<() => void>()
  #snapshot: Snapshot = {
    signal: 'here',
    waiting: [],
    aside: [],
    others: [],
    locked: 0,
    shut: false,
    against: [],
    makings: [],
    makingsAside: [],
    renamed: [],
    photos: [],
    photosAside: [],
    unsent: 0,
    kept: true,
  }
  #kept = true
  /** Entries that no answer came for: what they decided has happened. */
  #unheard = new Set<string>()
  /** What this page has sent, set aside or thrown away: a look at the store that began before does not bring it back. */
  #finished = new Set<string>()
  #against = new Set<string>()
  readonly #makings: Makings
  #makingsWhy: NotSent | undefined
  #makingsTimer: ReturnType<typeof setTimeout> | undefined
  readonly #photos: Photos
  #photosTimer: ReturnType<typeof setTimeout> | undefined

  constructor(userId: string, userName = '') {
    this.userId = userId
    this.#userName = userName
    this.#makings = new Makings(
      userId,
      () => this.#changed(),
      (work) => this.#keep(work),
    )
    this.#photos = new Photos(userId, {
      changed: () => this.#changed(),
      keep: (work) => this.#keep(work),
      ready: (jobId) => ![...this.#waiting.values()].some((each) => each.jobId === jobId),
      taken: async ({ jobId, entry }) => {
        await this.#hold(jobId, [entry])
        void this.#run(jobId)
      },
    })
    const known = lastKept()
    if (known) {
      this.#takeUp({ ...known, photos: [] })
      this.#changed()
    }
  }

  /** Takes up what an earlier page left behind. @returns a function that ends it */
  start(): () => void {
    this.#stopped = false
    // What another tab left behind when it was closed, too.
    const retry = () => void this.#keep(async () => this.#takeUp(await allKept())).then(() => this.flush())
    window.addEventListener('online', retry)
    retry()
    const stopWatching = onRoomEmptied(() => void this.#keep(() => this.#keepAnew()))
    return () => {
      stopWatching()
      window.removeEventListener('online', retry)
      this.stop()
    }
  }

  /** The browser has thrown away what was kept: what this page has is kept once more. */
  async #keepAnew() {
    await putWaiting([...this.#waiting.values()])
    await putAside([...this.#aside.values()])
    await this.#makings.keepAnew()
    await this.#photos.keepAnew()
  }

  /** Sends nothing more: somebody else has signed in here. What waits stays on the device. */
  stop() {
    this.#stopped = true
    for (const lane of this.#lanes.values()) clearTimeout(lane.timer)
    clearTimeout(this.#makingsTimer)
    clearTimeout(this.#photosTimer)
  }

  /** Shows the entries at once, keeps them on the device, then sends them. */
  async put(jobId: string, entries: Entry[]): Promise<void> {
    await this.#hold(jobId, entries)
    await this.#run(jobId)
  }

  async #hold(jobId: string, entries: Entry[]) {
    const [userId, userName] = [this.userId, this.#userName]
    const kept = entries.map((entry) => ({ entryId: entry.entryId, jobId, userId, userName, entry }))
    for (const each of kept) {
      this.#finished.delete(each.entryId)
      this.#waiting.set(each.entryId, each)
    }
    this.#changed()
    await this.#keep(() => putWaiting(kept))
  }

  /** Sends an entry that was set aside once more, as it is or changed. */
  async sendAgain(aside: EntryAside, changed: Entry = aside.entry): Promise<void> {
    this.#aside.delete(aside.entryId)
    this.#finished.add(aside.entryId)
    await Promise.all([this.put(aside.jobId, [changed]), this.#keep(() => dropAside(aside.entryId))])
  }

  async throwAway(entryId: string): Promise<void> {
    this.#aside.delete(entryId)
    this.#finished.add(entryId)
    this.#changed()
    await this.#keep(() => dropAside(entryId))
  }

  /** Somebody is looking at it. */
  seenAgainst(jobId: string) {
    if (this.#against.delete(jobId)) this.#changed()
  }

  /** A cylinder or a system that is there from now on; it goes before the entries that name it. */
  async make(making: Omit<Making, 'userId'> & MakingOf): Promise<void> {
    await this.#makings.make({ ...making, userId: this.userId })
    void this.flush()
  }

  /** Somebody has read that a cylinder has another label now. */
  seenRenamed(id: string) {
    void this.#makings.seen(id)
  }

  async makeAgain(id: string): Promise<void> {
    await this.#makings.again(id)
    await this.flush()
  }

  async throwMakingAway(id: string): Promise<void> {
    await this.#makings.throwAway(id)
  }

  /** A photo of a job, and the note of it, which goes after it. @param jpeg in base 64 */
  async photo(jobId: string, entry: PhotoWaiting['entry'], jpeg: string): Promise<void> {
    const [userId, userName, { photoId }] = [this.userId, this.#userName, entry.body]
    await this.#photos.add({ photoId, jobId, userId, userName, entry, jpeg })
    await this.#sendPhotos()
  }

  async photoAgain(photoId: string): Promise<void> {
    await this.#photos.again(photoId)
    await this.#sendPhotos()
  }

  async throwPhotoAway(photoId: string): Promise<void> {
    await this.#photos.throwAway(photoId)
  }

  /** Everything that waits, now. */
  async flush(): Promise<void> {
    await this.#unlock()
    await this.#sendMakings()
    await Promise.all(
      [...new Set([...this.#waiting.values()].map((each) => each.jobId))].map((id) => this.#run(id)),
    )
    await this.#sendPhotos()
  }

  onSent(tell: (sent: Sent) => void): () => void {
    this.#sentListeners.add(tell)
    return () => this.#sentListeners.delete(tell)
  }

  subscribe = (tell: () => void): (() => void) => {
    this.#listeners.add(tell)
    return () => this.#listeners.delete(tell)
  }

  snapshot = () => this.#snapshot

  #takeUp({ waiting, aside, makings, photos, locked }: Kept) {
    this.#makings.takeUp(makings)
    this.#photos.takeUp(photos)
    for (const each of waiting)
      if (
        each.userId === this.userId &&
        !this.#waiting.has(each.entryId) &&
        !this.#finished.has(each.entryId)
      ) {
        this.#waiting.set(each.entryId, each)
        this.#unheard.add(each.entryId)
      }
    for (const each of aside)
      if ((each.userId === this.userId || each.userId === '') && !this.#finished.has(each.entryId))
        this.#aside.set(each.entryId, each)
    const others = new Map<string, Snapshot['others'][number]>()
    const unsent = [
      ...waiting,
      ...makings.filter(isUnsentMaking),
      ...photos.filter((each) => !('sentence' in each)),
      ...locked.filter((each) => each.unsent),
    ]
    for (const { userId, ...each } of unsent.filter((each) => each.userId !== this.userId)) {
      const known = others.get(userId) ?? { name: 'somebody else', count: 0 }
      const name = ('userName' in each && each.userName) || known.name
      others.set(userId, { name, count: known.count + 1 })
    }
    this.#others = [...others.values()]
    this.#locked = locked.filter((each) => each.userId === this.userId)
  }

  /** Opens what was locked when this person left. */
  async #unlock() {
    const key = this.#locked.length > 0 && (await deviceKeyOf(this.userId))
    if (!key) return
    await this.#keep(async () => {
      this.#takeUp(await unlockFor(this.userId, key))
      this.#triedKey = true
    })
  }

  /** Some browsers keep nothing, in private windows or when the device is full: then it is sent all the same. */
  async #keep(work: () => Promise<void>) {
    try {
      await work()
      this.#kept = true
    } catch {
      this.#kept = false
    }
    this.#changed()
  }

  #run(jobId: string): Promise<void> {
    const lane = this.#lane(jobId)
    if (lane.busy) {
      lane.again = true
      return lane.busy
    }
    clearTimeout(lane.timer)
    lane.busy = this.#sendAll(jobId, lane).finally(() => {
      lane.busy = undefined
      this.#changed()
      if (!lane.again) return
      lane.again = false
      return this.#run(jobId)
    })
    return lane.busy
  }

  #lane(jobId: string): Lane {
    const known = this.#lanes.get(jobId)
    if (known) return known
    const lane: Lane = {
      busy: undefined,
      again: false,
      why: 'here',
      retryMs: RETRY_MS.first,
      timer: undefined,
      most: BATCH,
    }
    this.#lanes.set(jobId, lane)
    return lane
  }

  async #sendAll(jobId: string, lane: Lane) {
    for (;;) {
      const next = [...this.#waiting.values()].filter((each) => each.jobId === jobId).slice(0, lane.most)
      if (this.#stopped) return
      if (next.length === 0) return void this.#sendPhotos()
      const held = await this.#sendMakings()
      if (this.#stopped) return
      if (held && this.#names(next)) return this.#later(jobId, lane, held)
      const answer = await post(
        jobId,
        this.userId,
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
        if (answer.why === 'another-person') return this.stop()
        return this.#later(jobId, lane, answer.why, answer.kind === 'later' ? answer.afterMs : undefined)
      }
    }
  }

  /** What was made here goes first. @returns why something of it still waits */
  async #sendMakings(): Promise<NotSent | undefined> {
    if (this.#stopped) return undefined
    this.#makingsWhy = await this.#makings.send()
    this.#changed()
    if (this.#makingsWhy === 'another-person') this.stop()
    clearTimeout(this.#makingsTimer)
    if (this.#makingsWhy && !this.#stopped)
      this.#makingsTimer = setTimeout(() => void this.flush(), RETRY_MS.most * (1 + Math.random() / 4))
    return this.#makingsWhy
  }

  async #sendPhotos(): Promise<void> {
    if (this.#stopped) return
    await this.#photos.send()
    this.#changed()
    if (this.#photos.why === 'another-person') this.stop()
    if (!this.#photos.why || this.#stopped) return
    clearTimeout(this.#photosTimer)
    this.#photosTimer = setTimeout(() => void this.#sendPhotos(), RETRY_MS.most * (1 + Math.random() / 4))
  }

  /** Whether some of them are about what was made here and is not there yet. */
  #names(entries: readonly WaitingEntry[]): boolean {
    const text = JSON.stringify(entries.map(({ entry }) => entry.body))
    return this.#makings.waiting.some(({ id }) => text.includes(id))
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
    await this.#keep(() => dropWaiting(done))
    for (const tell of this.#sentListeners) tell({ jobId, entries: answer.entries })
    for (const id of done) {
      this.#waiting.delete(id)
      this.#unheard.delete(id)
      this.#finished.add(id)
    }
    if (answer.entries.some(({ kind }) => kind === 'found-against')) this.#against.add(jobId)
    lane.why = 'here'
    lane.retryMs = RETRY_MS.first
    lane.most = Math.min(BATCH, lane.most * 2)
    this.#changed()
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
    await this.#keep(() => putAside(entries))
  }

  #later(jobId: string, lane: Lane, why: Signal, afterMs = lane.retryMs) {
    lane.why = why
    // Each of many tabs and jobs at a time of its own.
    const pause = Math.min(LONGEST_PAUSE_MS, afterMs) * (1 + Math.random() / 4)
    lane.timer = setTimeout(() => void this.#run(jobId), pause)
    lane.retryMs = Math.min(RETRY_MS.most, lane.retryMs * 2)
  }

  #changed() {
    const waiting = [...this.#waiting.values()]
    const { waiting: makings, aside: makingsAside, renamed } = this.#makings
    const { waiting: photos, aside: photosAside } = this.#photos
    const unsent = waiting.length + makings.length + photos.length
    const lanes = [...this.#lanes.values()].map((lane) => lane.why)
    const held = [...lanes, this.#makingsWhy ?? 'here', this.#photos.why ?? 'here']
    const signal = unsent === 0 ? 'here' : (WORST_FIRST.find((why) => held.includes(why)) ?? 'here')
    this.#snapshot = {
      signal,
      waiting,
      aside: [...this.#aside.values()],
      others: this.#others,
      locked: this.#locked.filter((each) => each.unsent).length,
      shut: this.#triedKey && this.#locked.length > 0,
      against: [...this.#against],
      makings,
      makingsAside,
      renamed,
      photos,
      photosAside,
      unsent,
      kept: this.#kept,
    }
    for (const tell of this.#listeners) tell()
  }
}

const WORST_FIRST: Signal[] = ['another-person', 'signed-out', 'lost', 'failing', 'busy']
