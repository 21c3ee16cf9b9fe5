import type { Entry } from '#core/tape'
import { isUnsentMaking, type Making, type MakingAside, type MakingOf } from '../room/making'
import { deviceKeyOf } from '../pack/keeping'
import { Entries, RETRY_MS, type Sent } from './entries'
import { unlockFor } from '../room/locked'
import { Makings, type NotSent } from './makings'
import { Photos } from './photos'
import {
  allKept,
  isOnThreshold,
  type Kept,
  lastKept,
  type Locked,
  type EntryAside,
  onRoomEmptied,
  type PhotoAside,
  type PhotoWaiting,
  type WaitingEntry,
} from '../room/waiting-room'

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

/** What another tab notes in such a time is looked at together, ms. */
const TOGETHER_MS = 300

export type Signal = 'here' | 'lost' | 'busy' | 'failing' | 'signed-out' | 'another-person'

/**
 * Sends one person's entries in order and once each, and keeps them on the device until the server has confirmed them.
 * One for the whole page; without a connection it tries again by itself. What is refused is set aside, never dropped.
 */
export class Outbox {
  /** Whose entries it sends. */
  readonly userId: string
  #userName: string
  #others: Snapshot['others'] = []
  #locked: Locked[] = []
  #triedKey = false
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
  #against = new Set<string>()
  readonly #entries: Entries
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
    this.#entries = new Entries(
      { userId, userName },
      {
        changed: () => this.#changed(),
        keep: (work) => this.#keep(work),
        first: () => this.#sendMakings(),
        names: (entries) => this.#names(entries),
        sent: (sent) => this.#sent(sent),
        done: () => void this.#sendPhotos(),
        stop: () => this.stop(),
      },
    )
    this.#photos = new Photos(userId, {
      changed: () => this.#changed(),
      keep: (work) => this.#keep(work),
      ready: (jobId) => !this.#entries.waitsFor(jobId),
      taken: async ({ jobId, entry }) => {
        await this.#entries.hold(jobId, [entry])
        void this.#entries.send(jobId)
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
    this.#entries.go()
    // What another tab left behind when it was closed, too.
    const retry = () => void this.#keep(async () => this.#takeUp(await allKept())).then(() => this.flush())
    window.addEventListener('online', retry)
    retry()
    const stopHearing = this.#hearOtherTabs()
    const stopWatching = onRoomEmptied(() => void this.#keep(() => this.#keepAnew()))
    return () => {
      stopWatching()
      stopHearing()
      window.removeEventListener('online', retry)
      this.stop()
    }
  }

  /** Without signal each tab says what waits on the device, and not only what was noted in it. */
  #hearOtherTabs(): () => void {
    let timer: ReturnType<typeof setTimeout> | undefined
    const look = async () => {
      timer = undefined
      if (this.#snapshot.signal === 'here' && navigator.onLine) return
      await this.#keep(async () => this.#takeUp(await allKept()))
    }
    const heard = ({ key, newValue }: StorageEvent) => {
      if (key && newValue !== null && isOnThreshold(key)) timer ??= setTimeout(() => void look(), TOGETHER_MS)
    }
    window.addEventListener('storage', heard)
    return () => {
      window.removeEventListener('storage', heard)
      clearTimeout(timer)
    }
  }

  /** The browser has thrown away what was kept: what this page has is kept once more. */
  async #keepAnew() {
    await this.#entries.keepAnew()
    await this.#makings.keepAnew()
    await this.#photos.keepAnew()
  }

  /** Sends nothing more: somebody else has signed in here. What waits stays on the device. */
  stop() {
    this.#stopped = true
    this.#entries.stop()
    clearTimeout(this.#makingsTimer)
    clearTimeout(this.#photosTimer)
  }

  /** Shows the entries at once, keeps them on the device, then sends them. */
  async put(jobId: string, entries: Entry[]): Promise<void> {
    await this.#entries.hold(jobId, entries)
    await this.#entries.send(jobId)
  }

  /** Sends an entry that was set aside once more, as it is or changed. */
  async sendAgain(aside: EntryAside, changed: Entry = aside.entry): Promise<void> {
    await this.#entries.again(aside, changed)
  }

  async throwAway(entryId: string): Promise<void> {
    await this.#entries.throwAway(entryId)
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
    await this.#entries.sendAll()
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
    this.#entries.takeUp({ waiting, aside })
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

  /**
   * Some browsers keep nothing, in private windows or when the device is full: then it is sent all the same.
   * @returns whether it is kept
   */
  async #keep(work: () => Promise<void>): Promise<boolean> {
    const kept = await work().then(
      () => true,
      () => false,
    )
    this.#kept = kept
    this.#changed()
    return kept
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

  #sent(sent: Sent) {
    for (const tell of this.#sentListeners) tell(sent)
    if (sent.entries.some(({ kind }) => kind === 'found-against')) this.#against.add(sent.jobId)
  }

  /** Whether some of them are about what was made here and is not there yet. */
  #names(entries: readonly WaitingEntry[]): boolean {
    const text = JSON.stringify(entries.map(({ entry }) => entry.body))
    return this.#makings.waiting.some(({ id }) => text.includes(id))
  }

  #changed() {
    const { waiting, aside } = this.#entries
    const { waiting: makings, aside: makingsAside, renamed } = this.#makings
    const { waiting: photos, aside: photosAside } = this.#photos
    const unsent = waiting.length + makings.length + photos.length
    const held = [...this.#entries.why, this.#makingsWhy, this.#photos.why]
    const signal = unsent === 0 ? 'here' : (WORST_FIRST.find((why) => held.includes(why)) ?? 'here')
    this.#snapshot = {
      signal,
      waiting,
      aside,
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
      kept: this.#kept && this.#photos.kept,
    }
    for (const tell of this.#listeners) tell()
  }
}

const WORST_FIRST: NotSent[] = ['another-person', 'signed-out', 'lost', 'failing', 'busy']
