import type { Entry } from '#core/tape'
import type { Reason } from '#core/verdict'
import { allWaiting, dropWaiting, putWaiting, type WaitingEntry } from './waiting-room'

/** What the server says of entries that were sent to it. */
export interface Sent {
  jobId: string
  entries: Entry[]
  refused: { entry: Entry; reasons: Reason[] }[]
}

export interface Snapshot {
  signal: Signal
  waiting: WaitingEntry[]
  /** The device keeps what waits; without it the page must stay open until it is sent. */
  kept: boolean
}

export type Signal = 'here' | 'lost' | 'signed-out'

const RETRY_MS = { first: 1_500, most: 20_000 }
const BATCH = 200

/**
 * Sends entries in order and once each, and keeps them on the device until the server has confirmed them. One for the
 * whole page; without a connection it tries again by itself.
 */
export class Outbox {
  #userId: string
  #waiting = new Map<string, WaitingEntry>()
  #busy: Promise<void> | undefined
  #again = false
  #retryMs = RETRY_MS.first
  #timer: ReturnType<typeof setTimeout> | undefined
  #sentListeners = new Set<(sent: Sent) => void>()
  #listeners = new Set<() => void>()
  #snapshot: Snapshot = { signal: 'here', waiting: [], kept: true }

  constructor(userId: string) {
    this.#userId = userId
  }

  /** Takes up what an earlier page left behind. @returns a function that ends it */
  start(): () => void {
    const retry = () => void this.flush()
    window.addEventListener('online', retry)
    void this.#keep(async () => {
      const left = await allWaiting(this.#userId)
      for (const each of left) if (!this.#waiting.has(each.entryId)) this.#waiting.set(each.entryId, each)
    }).then(() => this.flush())
    return () => {
      window.removeEventListener('online', retry)
      clearTimeout(this.#timer)
    }
  }

  /** Shows the entries at once, keeps them on the device, then sends them. */
  async put(jobId: string, entries: Entry[]): Promise<void> {
    const kept = entries.map((entry) => ({ entryId: entry.entryId, jobId, userId: this.#userId, entry }))
    for (const each of kept) this.#waiting.set(each.entryId, each)
    this.#changed({})
    await this.#keep(() => putWaiting(kept))
    await this.flush()
  }

  flush(): Promise<void> {
    if (this.#busy) {
      this.#again = true
      return this.#busy
    }
    clearTimeout(this.#timer)
    this.#busy = this.#sendAll().finally(() => {
      this.#busy = undefined
      if (!this.#again) return
      this.#again = false
      return this.flush()
    })
    return this.#busy
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

  /** Some browsers keep nothing, in private windows or when the device is full: then it is sent all the same. */
  async #keep(work: () => Promise<void>) {
    try {
      await work()
      this.#changed({ kept: true })
    } catch {
      this.#changed({ kept: false })
    }
  }

  async #sendAll() {
    for (const jobId of new Set([...this.#waiting.values()].map((each) => each.jobId))) {
      const entries = [...this.#waiting.values()]
        .filter((each) => each.jobId === jobId)
        .map((each) => each.entry)
        .slice(0, BATCH)
      const outcome = await post(jobId, entries)
      if (typeof outcome === 'string') {
        this.#changed({ signal: outcome })
        this.#timer = setTimeout(() => void this.flush(), this.#retryMs)
        this.#retryMs = Math.min(RETRY_MS.most, this.#retryMs * 2)
        return
      }
      this.#retryMs = RETRY_MS.first
      const done = [...outcome.entries, ...outcome.refused.map((r) => r.entry)].map((entry) => entry.entryId)
      await this.#keep(() => dropWaiting(done))
      for (const tell of this.#sentListeners) tell(outcome)
      for (const id of done) this.#waiting.delete(id)
      this.#changed({ signal: 'here' })
      if (entries.length === BATCH && done.length > 0) this.#again = true
    }
  }

  #changed(change: Partial<Snapshot>) {
    const { signal, kept } = { ...this.#snapshot, ...change }
    const waiting = [...this.#waiting.values()]
    this.#snapshot = { signal: waiting.length === 0 ? 'here' : signal, waiting, kept }
    for (const tell of this.#listeners) tell()
  }
}

/** @returns the server's answer, or why there is none */
async function post(jobId: string, entries: Entry[]): Promise<Sent | Exclude<Signal, 'here'>> {
  let response: Response
  try {
    response = await fetch(`/jobs/${jobId}/tape`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ entries, sentAt: Date.now() }),
    })
  } catch {
    // The browser found no way to the server: that is what this outbox is for.
    return 'lost'
  }
  if (response.redirected || response.status === 401) return 'signed-out'
  // A job that is not there, or no right to write: the entries can never be taken, and are given back with the reason.
  if (response.status === 403 || response.status === 404)
    return {
      jobId,
      entries: [],
      refused: entries.map((entry) => ({ entry, reasons: [{ code: 'not-allowed' }] })),
    }
  if (!response.ok || !response.headers.get('content-type')?.includes('json')) return 'lost'
  const { entries: taken, refused } = (await response.json()) as {
    entries: Entry[]
    refused: { entryId: string; reasons: Reason[] }[]
  }
  return {
    jobId,
    entries: taken,
    refused: refused.map(({ entryId, reasons }) => ({
      entry: entries.find((e) => e.entryId === entryId)!,
      reasons,
    })),
  }
}
