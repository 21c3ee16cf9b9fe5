import { useEffect, useEffectEvent } from 'react'
import { useRevalidator } from 'react-router'

export interface Change {
  kind: 'job' | 'cylinder' | 'refetch'
  id: string
}

const listeners = new Set<(change: Change) => void>()
let listening = false

/** Calls back for each change in the shop, in this tab or another. @returns a function that ends it */
export function listenForChanges(tell: (change: Change) => void): () => void {
  listeners.add(tell)
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
  const lead = () =>
    new Promise<void>(() => {
      let lost = false
      const source = new EventSource('/events')
      const spread = (change: Change) => {
        tellAll(change)
        others.postMessage(change)
      }
      source.onmessage = ({ data }: MessageEvent<string>) => spread(JSON.parse(data) as Change)
      source.onerror = () => {
        lost = true
      }
      source.onopen = () => {
        // What happened in between was not heard.
        if (lost) spread({ kind: 'refetch', id: '' })
        lost = false
      }
    })
  // Locks exist on secure addresses only; elsewhere each tab listens for itself.
  if ('locks' in navigator) void navigator.locks.request('keg-events', lead)
  else void lead()
}

function tellAll(change: Change) {
  for (const tell of listeners) tell(change)
}
