import { useEffect } from 'react'
import { listenForChanges } from '../news/changes'
import { refresh } from './keeping'

/** After the page is there. */
const FIRST_MS = 3_000
/** After something has changed: more may follow. */
const SOON_MS = 10_000
const APART_MS = 60_000
const ANYWAY_MS = 10 * 60_000
const AGAIN_MS = 30_000

/** Keeps what this person's device takes along up to date, while there is signal. */
export function usePack(userId: string) {
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout>
    let due = Infinity
    let last = -Infinity
    let gone = false
    const inMs = (ms: number) => {
      const at = Math.max(Date.now() + ms, last + APART_MS)
      if (at >= due) return
      due = at
      clearTimeout(timer)
      timer = setTimeout(() => void fetchIt(), at - Date.now())
    }
    const fetchIt = async () => {
      due = Infinity
      last = Date.now()
      // Nobody looks: the device has other things to do.
      const fetched = document.hidden || (await refresh(userId))
      if (!gone) inMs(fetched ? ANYWAY_MS : AGAIN_MS)
    }
    const soon = () => inMs(SOON_MS)
    inMs(FIRST_MS)
    const stop = listenForChanges(soon)
    for (const event of ['online', 'visibilitychange'] as const) addEventListener(event, soon)
    return () => {
      gone = true
      clearTimeout(timer)
      stop()
      for (const event of ['online', 'visibilitychange'] as const) removeEventListener(event, soon)
    }
  }, [userId])
}
