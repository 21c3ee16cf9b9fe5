import {
  createContext,
  type ReactNode,
  use,
  useEffect,
  useEffectEvent,
  useMemo,
  useState,
  useSyncExternalStore,
} from 'react'
import type { Channel } from '#core/samples'
import type { ReadOff } from '#core/tape'
import { ask } from '~/base/ask'
import { listenForChanges, listenForSamples } from '../news/changes'
import type { LiveSource } from '~/samples/live-source'
import { keyOf, type LiveStore, liveStore, type PastChannel, type Reading } from './live-store'

interface Live {
  store: LiveStore
  sources: readonly LiveSource[]
  /** The time by the server. */
  now: () => number
}

const LiveContext = createContext<Live | undefined>(undefined)

/**
 * What the instruments of a page say. Their past is asked for once, and again when the stream was lost.
 * @param past where it is asked for; left out: only what is said from now on counts
 */
export function LiveSamples({
  sources,
  past,
  now,
  children,
}: {
  sources: readonly LiveSource[]
  past?: string
  now: () => number
  children: ReactNode
}) {
  const [store] = useState(() => liveStore())
  const devices = useMemo(() => [...new Set(sources.map((each) => each.deviceId))].sort().join(), [sources])
  const channels = useMemo(
    () =>
      sources
        .map((each) => keyOf(each.deviceId, each.channel))
        .sort()
        .join(),
    [sources],
  )
  const load = useEffectEvent(async () => {
    if (!past) return
    const answer = await ask<{ channels: PastChannel[] }>(past)
    if (answer) store.past(answer.channels)
  })
  useEffect(() => {
    if (devices === '') return
    return listenForSamples(devices.split(','), (said) => store.said(said))
  }, [devices, store])
  useEffect(() => {
    if (channels === '') return
    void load()
    return listenForChanges((change) => {
      if (change.kind === 'refetch' && change.id !== 'reopened') void load()
    })
  }, [channels])
  const live = useMemo(() => ({ store, sources, now }), [store, sources, now])
  return <LiveContext value={live}>{children}</LiveContext>
}

const NOTHING = () => () => {}
const ZERO = () => 0

/** The store, anew four times a second at most while instruments speak, and every second besides: silence is no event. */
export function useLive(): Live | undefined {
  const live = use(LiveContext)
  useSyncExternalStore(live?.store.subscribe ?? NOTHING, live?.store.version ?? ZERO, ZERO)
  const [, tick] = useState(0)
  const any = (live?.sources.length ?? 0) > 0
  useEffect(() => {
    if (!any) return
    const timer = setInterval(() => tick((n) => n + 1), 1_000)
    return () => clearInterval(timer)
  }, [any])
  return live
}

export interface LiveReading extends Reading {
  source: LiveSource
}

/** Names the sample that counts. */
export const sampleOf = ({ source, seq }: LiveReading): ReadOff => ({
  deviceId: source.deviceId,
  channel: source.channel,
  seq,
})

/** What a piece of kit says on one channel now; undefined: nothing ever, or it is not live. */
export function useReading(kitId: string | null | undefined, channel: Channel): LiveReading | undefined {
  const live = useLive()
  if (!live || !kitId) return undefined
  return readingOf(live, kitId, channel)
}

/** Where a piece speaks by several devices, the one that was heard last has the word. */
export function readingOf(live: Live, kitId: string, channel: Channel): LiveReading | undefined {
  const readings = live.sources
    .filter((each) => each.kitId === kitId && each.channel === channel)
    .flatMap((source) => {
      const reading = live.store.reading(keyOf(source.deviceId, channel), live.now)
      return reading ? [{ ...reading, source }] : []
    })
  return readings.toSorted(
    (a, b) => Number(a.state === 'silent') - Number(b.state === 'silent') || b.at - a.at,
  )[0]
}
