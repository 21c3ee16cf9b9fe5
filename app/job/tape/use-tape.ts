import { useCallback, useEffect, useEffectEvent, useMemo, useRef, useState } from 'react'
import {
  type Checkpoint,
  type Entry,
  foldFrom,
  foldTape,
  once,
  type JobState,
  withoutOwnId,
} from '#core/tape'
import { ask } from '~/base/ask'
import { listenForChanges } from '~/device/news/changes'
import { makeEntry } from '~/tape/device'
import type { Draft } from '~/tape/draft'
import { useOutbox } from '~/device/outbox/outbox-context'

/** A tape as the page has it: a long one from a checkpoint on. */
export interface LoadedTape {
  checkpoint: Checkpoint | null
  entries: Entry[]
}

export interface Tape {
  state: JobState
  /** The same without what only this device knows yet. */
  confirmed: JobState
  /** Ids of entries that the server has not confirmed. */
  waiting: ReadonlySet<string>
  /** Notes what is so now, or was at a given time. A second press of the same within a moment changes nothing. */
  note: (drafts: Draft[], at?: number) => void
  /** How many lines lie before those that the state has. */
  older: number
  loadOlder: () => void
}

const SAME_PRESS_MS = 1_000
/** After an answer that did not come. */
const AGAIN_MS = { first: 2_000, most: 60_000 }

/** The tape of one job: what the server has, what others add, and what waits here, folded to one state. */
export function useTape(jobId: string, loaded: LoadedTape): Tape {
  const { outbox, waiting: allWaiting } = useOutbox()
  const [added, setAdded] = useState<Entry[]>([])
  const [older, setOlder] = useState<Entry[]>([])
  const lastPress = useRef({ what: '', at: 0 })
  // What was loaded before stays: a page that is opened from the device may know less.
  const [last, setLast] = useState(loaded)
  if (loaded !== last) {
    setLast(loaded)
    setAdded((before) => once([...before, ...last.entries]))
  }
  const from = loaded.checkpoint?.seq ?? 0
  const known = useMemo(() => {
    const byId = new Map([...older, ...added, ...loaded.entries].map((entry) => [entry.entryId, entry]))
    return [...byId.values()]
  }, [loaded.entries, added, older])
  const waiting = useMemo(
    () => allWaiting.filter((each) => each.jobId === jobId).map((each) => each.entry),
    [allWaiting, jobId],
  )
  const whole = older.length > 0 && gaplessSeq(known, 0) >= from
  const folded = useMemo(
    () => fold(whole ? null : loaded.checkpoint, known, waiting),
    [whole, loaded.checkpoint, known, waiting],
  )
  const confirmed = useMemo(
    () => fold(whole ? null : loaded.checkpoint, known, []).state,
    [whole, loaded.checkpoint, known],
  )

  useEffect(
    () =>
      outbox.onSent((sent) => {
        if (sent.jobId !== jobId) return
        setAdded((before) => [...before, ...sent.entries])
      }),
    [outbox, jobId],
  )

  const lastSeq = useEffectEvent(() => gaplessSeq(known, whole ? 0 : from))
  useEffect(() => {
    let pauseMs = AGAIN_MS.first
    let timer: ReturnType<typeof setTimeout> | undefined
    let gone = false
    const fetchNew = async () => {
      clearTimeout(timer)
      const answer = await ask<{ entries: Entry[] }>(`/jobs/${jobId}/tape?after=${lastSeq()}`)
      if (gone) return
      if (answer) {
        setAdded((before) => [...before, ...answer.entries])
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

  const loadOlder = useCallback(() => {
    void ask<{ entries: Entry[] }>(`/jobs/${jobId}/tape?after=0&upTo=${from}`).then(
      (answer) => answer && setOlder(answer.entries),
    )
  }, [jobId, from])
  // What falls before the checkpoint, or corrects something in it, counts once the whole tape is here.
  const wanting = folded.wants && older.length === 0
  useEffect(() => {
    if (!wanting) return
    loadOlder()
    const timer = setInterval(loadOlder, AGAIN_MS.first * 5)
    return () => clearInterval(timer)
  }, [wanting, loadOlder])

  const note = useCallback(
    (drafts: Draft[], at?: number) => {
      const now = Date.now()
      const what = JSON.stringify(drafts.map(({ kind, body }) => [kind, withoutOwnId(kind, body)]))
      if (what === lastPress.current.what && now - lastPress.current.at < SAME_PRESS_MS) return
      lastPress.current = { what, at: now }
      void outbox.put(
        jobId,
        drafts.map(({ kind, body, sample }) => makeEntry(kind, body, at, sample)),
      )
    },
    [outbox, jobId],
  )

  return {
    state: folded.state,
    confirmed,
    waiting: useMemo(() => new Set(waiting.map((entry) => entry.entryId)), [waiting]),
    note,
    older: whole ? 0 : from,
    loadOlder,
  }
}

/** @returns `wants`: some of it could not be folded from the checkpoint, and is left out until the whole tape is here */
export function fold(
  checkpoint: Checkpoint | null,
  known: Entry[],
  waiting: Entry[],
): { state: JobState; wants: boolean } {
  if (!checkpoint) return { state: foldTape([...known, ...waiting]), wants: false }
  const all = foldFrom(checkpoint, [...known, ...waiting])
  if (all) return { state: all, wants: false }
  // One by one: what can be folded on counts at once.
  const fitting = foldFrom(checkpoint, known) ? [...known] : []
  const others = fitting.length > 0 ? waiting : [...known.toSorted((a, b) => a.seq! - b.seq!), ...waiting]
  for (const entry of others) if (foldFrom(checkpoint, [...fitting, entry])) fitting.push(entry)
  return { state: foldFrom(checkpoint, fitting)!, wants: true }
}

/** The last number up to which nothing is missing: others' entries may have come in between one's own. */
export function gaplessSeq(entries: Entry[], from = 0): number {
  const known = new Set(entries.map((entry) => entry.seq))
  let last = from
  while (known.has(last + 1)) last++
  return last
}
