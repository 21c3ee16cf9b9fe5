import { useEffect, useEffectEvent, useRef, useSyncExternalStore } from 'react'
import { useRevalidator } from 'react-router'
import { reloadState, subscribeToReloads } from './last-good'

export interface Change {
  kind: 'job' | 'cylinder' | 'kit' | 'refetch'
  id: string
}

const listeners = new Set<(change: Change) => void>()
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
  // What could not be loaded is tried again, whether or not anything changes.
  const stale = useSyncExternalStore(subscribeToReloads, reloadState, () => undefined) !== undefined
  const tryAgain = useEffectEvent(() => {
    if (state === 'idle') void revalidate()
  })
  useEffect(() => {
    if (!stale) return
    const timer = setInterval(() => tryAgain(), AGAIN_MS)
    return () => clearInterval(timer)
  }, [stale])
}

const AGAIN_MS = 5_000

/** One stream for the whole browser: the first tab opens it and tells the others. */
function start() {
  const others = new BroadcastChannel('keg-changes')
  others.onmessage = ({ data }: MessageEvent<Change>) => tellAll(data)
  void keepLeading((change) => {
    tellAll(change)
    others.postMessage(change)
  })
}

const PAUSE_MS = { first: 2_000, most: 60_000 }

/** A stream that has ended for good, with its session, leaves the lead to whichever tab may have it. */
async function keepLeading(spread: (change: Change) => void) {
  for (let pause = PAUSE_MS.first; ; pause = Math.min(PAUSE_MS.most, pause * 2)) {
    // Locks exist on secure addresses only; elsewhere each tab listens for itself.
    const opened =
      'locks' in navigator
        ? await navigator.locks.request('keg-events', () => stream(spread))
        : await stream(spread)
    if (opened) pause = PAUSE_MS.first
    await new Promise((resolve) => setTimeout(resolve, pause))
  }
}

/**
 * Ends when the browser gives the stream up; a connection that was only lost comes back by itself.
 * @returns whether it was ever open
 */
function stream(spread: (change: Change) => void): Promise<boolean> {
  return new Promise((resolve) => {
    let opened = false
    const source = new EventSource('/events')
    source.onmessage = ({ data }: MessageEvent<string>) => spread(JSON.parse(data) as Change)
    source.onerror = () => {
      if (source.readyState === EventSource.CLOSED) resolve(opened)
    }
    // What happened before, since the page was loaded or the last connection was lost, was not heard.
    source.onopen = () => {
      opened = true
      spread({ kind: 'refetch', id: '' })
    }
  })
}

function tellAll(change: Change) {
  for (const tell of listeners) tell(change)
}
