import { type RefObject, useEffect, useMemo, useRef, useState } from 'react'
import { Button } from 'react-bootstrap'
import { expectedIn, leakKnown, openTransfer } from '#core/tape'
import { levelPaOf } from '#core/watching'
import { keyOf, type LiveStore } from '~/device/live/live-store'
import { useLive } from '~/device/live/live-context'
import { useReadersUnits } from '~/base/ui/reader'
import { clockSeconds, clockTime } from '~/base/ui/time'
import { CHANNEL_WORDS } from '~/words/en'
import { useStops } from '../moving/use-stops'
import { useOnScale } from '../moving/on-scale'
import { useJob, useJudging } from '../field/job-context'
import { useWords } from '../field/use-words'
import type { Heard, Strip } from './strip'
import { stripOf } from './strip'
import type { Drawn, StripStyle } from './strip-chart-drawing'

/** How much of the end is shown while it goes on, ms; null: all of it. */
const SPANS: { words: string; ms: number | null }[] = [
  { words: 'All', ms: null },
  { words: '30 min', ms: 30 * 60_000 },
  { words: '5 min', ms: 5 * 60_000 },
]

/** The record of the job over time. Its code is loaded only when there is something to draw, and to see. */
export function StripChart() {
  const strip = useStrip()
  const { data } = useJob()
  const box = useRef<HTMLDivElement>(null)
  const drawn = useRef<Drawn>(undefined)
  const [ready, setReady] = useState(false)
  const [failed, setFailed] = useState(false)
  // Where instruments speak, the last half hour says more than the whole day.
  const [span, setSpan] = useState<number | null>(data.live.some((each) => each.inUse) ? SPANS[1]!.ms : null)
  const [follows, setFollows] = useState(true)
  const worthIt = strip.bands.some(({ lines }) => lines.some(({ points }) => points.length > 1))
  const seen = useSeen(box, worthIt)
  const { timeZone } = data.shop

  useEffect(() => {
    if (!worthIt || !seen || !box.current) return
    let gone = false
    const element = box.current
    import('./strip-chart-drawing')
      .then(({ stripIn }) => {
        if (gone) return
        drawn.current = stripIn(element, () => setFollows(false))
        setReady(true)
      })
      .catch(() => setFailed(true))
    return () => {
      gone = true
      drawn.current?.remove()
      drawn.current = undefined
      setReady(false)
    }
  }, [worthIt, seen])

  useEffect(() => {
    if (!ready || !box.current) return
    try {
      drawn.current?.show(strip, styleOf(box.current, timeZone), follows ? span : undefined)
    } catch (error) {
      // A drawing that fails takes no job with it.
      reportError(error)
      queueMicrotask(() => setFailed(true))
    }
  }, [ready, strip, span, follows, timeZone])

  if (!worthIt) return null
  return (
    <section
      className="sheet strip-chart-sheet"
      aria-label="Strip: everything that was heard and noted, over time; every note stands on the tape too"
    >
      {failed ? (
        <p className="mb-0 quiet">The chart could not be drawn here. Every point stands on the tape.</p>
      ) : (
        <>
          <div className="strip-keys" role="group" aria-label="Span of the strip">
            {SPANS.map(({ words, ms }) => (
              <Button
                key={words}
                variant="outline-secondary"
                active={follows && span === ms}
                onClick={() => {
                  setSpan(ms)
                  setFollows(true)
                }}
              >
                {words}
              </Button>
            ))}
            {!follows && (
              <Button variant="outline-primary" onClick={() => setFollows(true)}>
                Follow
              </Button>
            )}
          </div>
          <div ref={box} className={`strip-chart bands-${strip.bands.length}`} />
        </>
      )}
    </section>
  )
}

function useStrip(): Strip {
  const { state, data } = useJob()
  const live = useLive()
  const units = useReadersUnits()
  const words = useWords()
  const transfer = openTransfer(state)
  const on = useOnScale(transfer)
  const judging = useJudging()
  const { stopMg } = useStops(transfer)
  const gross = transfer?.segments.at(-1)?.mode === 'gross'
  const grossLimitMg = gross && transfer?.use === 'recover' ? on?.scale.limitMg : undefined
  const recovering = transfer?.use === 'recover'
  const levelPa = recovering
    ? levelPaOf(state, {
        expected: expectedIn(data, state),
        trade: judging.trade,
        atmospherePa: units.atmospherePa,
      })
    : undefined
  const stopsAtZero = recovering && leakKnown(state)
  const version = useSlowVersion(live?.store)
  return useMemo(() => {
    const heard: Heard[] = (live?.sources ?? [])
      .filter((each) => each.own)
      .map(({ deviceId, channel, kit }) => ({
        channel,
        name: `${kit}, ${CHANNEL_WORDS[channel]}`,
        points: live!.store.line(keyOf(deviceId, channel)),
      }))
    return stripOf(state, heard, { grossLimitMg, stopMg, levelPa, stopsAtZero }, units, ({ entry, body }) =>
      words(entry.kind, body),
    )
    // The store changes within itself; its version says when.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [state, live?.sources, version, grossLimitMg, stopMg, levelPa, stopsAtZero, units, words])
}

/** A chart is drawn anew once a second: what changes faster is read on the board. */
const DRAWN_MS = 1_000

function useSlowVersion(store: LiveStore | undefined): number {
  const [version, setVersion] = useState(0)
  useEffect(() => {
    if (!store) return
    const timer = setInterval(() => setVersion(store.version()), DRAWN_MS)
    return () => clearInterval(timer)
  }, [store])
  return version
}

function styleOf(element: HTMLElement, timeZone: string): StripStyle {
  const ink = getComputedStyle(element)
  const colour = (name: string) => ink.getPropertyValue(`--keg-${name}`)
  return {
    colours: {
      ink: colour('ink'),
      quiet: colour('quiet'),
      rule: colour('rule'),
      copper: colour('copper'),
      cold: colour('cold'),
      warm: colour('warm'),
      limit: colour('limit'),
      sheet: colour('sheet'),
    },
    time: (at, seconds) => (seconds ? clockSeconds : clockTime)(at, timeZone),
  }
}

/** Whether it was ever near the screen: beside the scale face on a phone it is not. */
function useSeen(box: RefObject<HTMLDivElement | null>, there: boolean): boolean {
  const [seen, setSeen] = useState(false)
  useEffect(() => {
    if (!there || !box.current) return
    const watch = new IntersectionObserver(
      (entries) => entries.some((each) => each.isIntersecting) && setSeen(true),
      { rootMargin: '300px' },
    )
    watch.observe(box.current)
    return () => watch.disconnect()
  }, [box, there])
  return seen
}
