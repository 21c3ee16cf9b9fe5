import { useEffect, useEffectEvent } from 'react'
import { useRevalidator } from 'react-router'

export interface Change {
  kind: 'job' | 'cylinder' | 'refetch'
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

/** Loads the page's data again when something changes that it shows. */
export function useRefresh(concerns: (change: Change) => boolean) {
  const { revalidate, state } = useRevalidator()
  const onChange = useEffectEvent((change: Change) => {
    if (state === 'idle' && (change.kind === 'refetch' || concerns(change))) void revalidate()
  })
  useEffect(() => listenForChanges((change) => onChange(change)), [])
}

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
    if ('locks' in navigator) await navigator.locks.request('keg-events', () => stream(spread))
    else await stream(spread)
    await new Promise((resolve) => setTimeout(resolve, pause))
  }
}

/** Ends when the browser gives the stream up; a connection that was only lost comes back by itself. */
function stream(spread: (change: Change) => void): Promise<void> {
  return new Promise((resolve) => {
    const source = new EventSource('/events')
    source.onmessage = ({ data }: MessageEvent<string>) => spread(JSON.parse(data) as Change)
    source.onerror = () => {
      if (source.readyState === EventSource.CLOSED) resolve()
    }
    // What happened before, since the page was loaded or the last connection was lost, was not heard.
    source.onopen = () => spread({ kind: 'refetch', id: '' })
  })
}

function tellAll(change: Change) {
  for (const tell of listeners) tell(change)
}
