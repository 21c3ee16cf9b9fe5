import { useCallback, useEffect, useEffectEvent, useMemo, useRef, useState } from 'react'
import { type Entry, type EntryBodies, type EntryKind, foldTape, type JobState } from '#core/tape'
import { ask } from '~/live/ask'
import { listenForChanges } from '~/live/changes'
import { makeEntry } from './device'
import { useOutbox } from './outbox-context'

export interface Draft<K extends EntryKind = EntryKind> {
  kind: K
  body: EntryBodies[K]
}

/** One entry to note. */
export const draft = <K extends EntryKind>(kind: K, body: EntryBodies[K]): Draft => ({ kind, body }) as Draft

export interface Tape {
  state: JobState
  /** The same without what only this device knows yet. */
  confirmed: JobState
  /** Ids of entries that the server has not confirmed. */
  waiting: ReadonlySet<string>
  /** Notes what is so now, or was at a given time. A second press of the same within a moment changes nothing. */
  note: (drafts: Draft[], at?: number) => void
}

const SAME_PRESS_MS = 1_000
/** After an answer that did not come. */
const AGAIN_MS = { first: 2_000, most: 60_000 }

/** The tape of one job: what the server has, what others add, and what waits here, folded to one state. */
export function useTape(jobId: string, loaded: Entry[]): Tape {
  const { outbox, waiting: allWaiting } = useOutbox()
  const [added, setAdded] = useState<Entry[]>([])
  const lastPress = useRef({ what: '', at: 0 })

  const confirmed = useMemo(() => {
    const byId = new Map([...added, ...loaded].map((entry) => [entry.entryId, entry]))
    return [...byId.values()]
  }, [loaded, added])
  const waiting = useMemo(
    () => allWaiting.filter((each) => each.jobId === jobId).map((each) => each.entry),
    [allWaiting, jobId],
  )
  const state = useMemo(() => foldTape([...confirmed, ...waiting]), [confirmed, waiting])

  useEffect(
    () =>
      outbox.onSent((sent) => {
        if (sent.jobId !== jobId) return
        setAdded((known) => [...known, ...sent.entries])
      }),
    [outbox, jobId],
  )

  const lastSeq = useEffectEvent(() => gaplessSeq(confirmed))
  useEffect(() => {
    let pauseMs = AGAIN_MS.first
    let timer: ReturnType<typeof setTimeout> | undefined
    let gone = false
    const fetchNew = async () => {
      clearTimeout(timer)
      const answer = await ask<{ entries: Entry[] }>(`/jobs/${jobId}/tape?after=${lastSeq()}`)
      if (gone) return
      if (answer) {
        setAdded((known) => [...known, ...answer.entries])
        pauseMs = AGAIN_MS.first
      } else {
        timer = setTimeout(() => void fetchNew(), pauseMs)
        pauseMs = Math.min(AGAIN_MS.most, pauseMs * 2)
      }
    }
    const stop = listenForChanges(
      (change) => {
        if (change.kind === 'refetch' || change.id === jobId) void fetchNew()
      },
      { catchUp: true },
    )
    return () => {
      gone = true
      clearTimeout(timer)
      stop()
    }
  }, [jobId])

  const note = useCallback(
    (drafts: Draft[], at?: number) => {
      const now = Date.now()
      const what = JSON.stringify(drafts, (key, value: unknown) => (/^(run|hold)Id$/.test(key) ? '' : value))
      if (what === lastPress.current.what && now - lastPress.current.at < SAME_PRESS_MS) return
      lastPress.current = { what, at: now }
      void outbox.put(
        jobId,
        drafts.map(({ kind, body }) => makeEntry(kind, body, at)),
      )
    },
    [outbox, jobId],
  )
  return {
    state,
    confirmed: useMemo(() => foldTape(confirmed), [confirmed]),
    waiting: useMemo(() => new Set(waiting.map((entry) => entry.entryId)), [waiting]),
    note,
  }
}

/** The last number up to which nothing is missing: others' entries may have come in between one's own. */
export function gaplessSeq(entries: Entry[]): number {
  const known = new Set(entries.map((entry) => entry.seq))
  let last = 0
  while (known.has(last + 1)) last++
  return last
}
