import { useEffect, useEffectEvent, useRef } from 'react'
import { useRevalidator } from 'react-router'
import type { Channel } from '#core/samples'
import { serverHas } from './program'

export interface Change {
  kind: 'job' | 'cylinder' | 'kit' | 'device' | 'alarm' | 'refetch' | 'program'
  id: string
}

/** What a device has said: channel, time in ms, value, sequence. */
export interface Said {
  kind: 'samples'
  id: string
  samples: [channel: Channel, at: number, value: number, seq: number][]
}

const listeners = new Set<(change: Change) => void>()
const sampleListeners = new Map<(said: Said) => void, readonly string[]>()
let listening = false

/**
 * Calls back for each change in the shop, in this tab or another.
 * @param options catchUp: also once at the start, for what changed after the page was loaded and before it listened
 * @returns a function that ends it
 */
export function listenForChanges(tell: (change: Change) => void, { catchUp = false } = {}): () => void {
  listeners.add(tell)
  if (catchUp) tell({ kind: 'refetch', id: '' })
  if (!listening) {
    listening = true
    start()
  }
  return () => listeners.delete(tell)
}

/**
 * Calls back with what some devices say, from now on. They are added to the one stream of the browser.
 * @returns a function that ends it
 */
export function listenForSamples(deviceIds: readonly string[], tell: (said: Said) => void): () => void {
  sampleListeners.set(tell, deviceIds)
  const stop = listenForChanges(() => {})
  wantsChanged()
  return () => {
    sampleListeners.delete(tell)
    stop()
    wantsChanged()
  }
}

/** Loads the page's data again when something changes that it shows; what changes meanwhile, after that. */
export function useRefresh(concerns: (change: Change) => boolean) {
  const { revalidate, state } = useRevalidator()
  const missed = useRef(false)
  const onChange = useEffectEvent((change: Change) => {
    if (change.kind !== 'refetch' && !concerns(change)) return
    if (state === 'idle') void revalidate()
    else missed.current = true
  })
  useEffect(() => listenForChanges((change) => onChange(change)), [])
  useEffect(() => {
    if (state !== 'idle' || !missed.current) return
    missed.current = false
    void revalidate()
  }, [state, revalidate])
}

type Told = Change | Said
/** What the tabs of a browser tell one another: news, and which devices each of them shows. */
type Between = Told | { kind: 'wants'; tab: string; devices: string[] }

const tab = Math.random().toString(36).slice(2)
let others: BroadcastChannel | undefined
/** Which devices other tabs show, and until when that counts. */
const wantedElsewhere = new Map<string, { devices: string[]; until: number }>()
/** How far each device was heard, in batches. */
const heard = new Map<string, string>()
/** Opens the stream anew; only where this tab has it. */
let reopen: (() => void) | undefined

const WANTS_AGAIN_MS = 15_000
const WANTS_KEEP_MS = 40_000

const ownWants = () => [...new Set([...sampleListeners.values()].flat())]

function wanted(): string[] {
  const now = Date.now()
  for (const [other, { until }] of wantedElsewhere) if (until < now) wantedElsewhere.delete(other)
  return [...new Set([...ownWants(), ...[...wantedElsewhere.values()].flatMap(({ devices }) => devices)])]
    .sort()
    .slice(0, 24)
}

function wantsChanged() {
  others?.postMessage({ kind: 'wants', tab, devices: ownWants() } satisfies Between)
  reopen?.()
}

/** One stream for the whole browser: the first tab opens it and tells the others. */
function start() {
  others = new BroadcastChannel('keg-changes')
  others.onmessage = ({ data }: MessageEvent<Between>) => {
    if (data.kind !== 'wants') return tellAll(data)
    wantedElsewhere.set(data.tab, { devices: data.devices, until: Date.now() + WANTS_KEEP_MS })
    reopen?.()
  }
  // A tab that was closed says nothing: its devices run out.
  setInterval(() => {
    if (sampleListeners.size > 0)
      others?.postMessage({ kind: 'wants', tab, devices: ownWants() } satisfies Between)
  }, WANTS_AGAIN_MS)
  void keepLeading((told) => {
    tellAll(told)
    others?.postMessage(told)
  })
}

const PAUSE_MS = { first: 2_000, most: 60_000 }

/** A stream that has ended for good, with its session, leaves the lead to whichever tab may have it. */
async function keepLeading(spread: (told: Told) => void) {
  for (let pause = PAUSE_MS.first; ; pause = Math.min(PAUSE_MS.most, pause * 2)) {
    // Locks exist on secure addresses only; elsewhere each tab listens for itself.
    const opened =
      'locks' in navigator
        ? await navigator.locks.request('keg-events', () => lead(spread))
        : await lead(spread)
    if (opened) pause = PAUSE_MS.first
    await new Promise((resolve) => setTimeout(resolve, pause))
  }
}

/** Streams, and opens anew whenever other devices are wanted. @returns whether it was ever open */
async function lead(spread: (told: Told) => void): Promise<boolean> {
  for (let ever = false; ;) {
    const { opened, again } = await stream(spread, wanted(), ever)
    ever ||= opened
    if (!again) return ever
  }
}

/**
 * Ends when the browser gives the stream up, or other devices are wanted; a connection that was only lost comes back by
 * itself.
 */
function stream(
  spread: (told: Told) => void,
  devices: string[],
  before: boolean,
): Promise<{ opened: boolean; again: boolean }> {
  return new Promise((resolve) => {
    let opened = false
    let connections = 0
    const query = devices.map((each) => (heard.has(each) ? `${each}:${heard.get(each)}` : each)).join()
    const source = new EventSource(query ? `/events?devices=${encodeURIComponent(query)}` : '/events')
    const finish = (again: boolean) => {
      reopen = undefined
      source.close()
      resolve({ opened, again })
    }
    source.onmessage = ({ data, lastEventId }: MessageEvent<string>) => {
      for (const each of lastEventId ? lastEventId.split(',') : []) {
        const [device, batch] = each.split(':') as [string, string]
        heard.set(device, batch)
      }
      spread(JSON.parse(data) as Told)
    }
    source.onerror = () => {
      if (source.readyState === EventSource.CLOSED) finish(false)
    }
    // What happened before, since the page was loaded or the last connection was lost, was not heard. One that was opened
    // for other devices missed nothing worth a load, but those that came in the moment between.
    source.onopen = () => {
      opened = true
      connections++
      spread({ kind: 'refetch', id: before && connections === 1 ? 'reopened' : '' })
      if (wanted().join() !== devices.join()) finish(true)
    }
    reopen = () => {
      if (opened && wanted().join() !== devices.join()) finish(true)
    }
  })
}

function tellAll(told: Told) {
  if (told.kind === 'program') serverHas(told.id)
  else if (told.kind !== 'samples') for (const tell of listeners) tell(told)
  else for (const [tell, devices] of sampleListeners) if (devices.includes(told.id)) tell(told)
}
