import { Button } from 'react-bootstrap'
import type { ReadOff } from '#core/tape'
import { channelAt } from '#core/samples'
import { type LiveReading, readingOf, useLive } from '~/device/live/live-context'
import { useReadersUnits, useShow } from '~/base/ui/reader'
import { clockSeconds } from '~/base/ui/time'
import type { ReadingAsked } from '../face/readings'
import { useJob } from '../field/job-context'
import { asNoted } from '~/samples/in-units'
import { sampleOf } from '~/device/live/live-context'

export type AskedOfLive =
  { kind: 'weight'; scaleId: string | null } | { kind: 'reading'; point: ReadingAsked }

/** What the gauge on the low side reads. */
export const LOW_ASKED: AskedOfLive = { kind: 'reading', point: { kind: 'pressure', point: 'low' } }

/** What a live instrument says to what the pad asks; undefined: none speaks for that. */
export function useAsked(asked: AskedOfLive): LiveReading | undefined {
  const live = useLive()
  if (!live) return undefined
  if (asked.kind === 'weight') return asked.scaleId ? readingOf(live, asked.scaleId, 'weight') : undefined
  const { kind, point } = asked.point
  const channel = channelAt(kind === 'pressure' ? 'gauge-pressure' : 'temperature', point)
  const source = channel && live.sources.find((each) => each.inUse && each.channel === channel)
  return source && readingOf(live, source.kitId, channel)
}

interface LiveAnswerProps {
  asked: LiveReading
  ends: boolean
  take: (value: number, from: ReadOff) => void
}

/** Above the pad: one key takes what the instrument says; where it cannot be used, typing is offered at once. */
export function LiveAnswer({ asked, ends, take }: LiveAnswerProps) {
  const { data } = useJob()
  const units = useReadersUnits()
  const show = useShow()
  const noted = asNoted(asked.source.channel, asked.value, units)!
  if (asked.state === 'silent')
    return (
      <span className="field-error" role="status">
        {asked.source.kit} is silent since {clockSeconds(asked.at, data.shop.timeZone)}: type what it shows.
      </span>
    )
  if (asked.state === 'nonsense')
    return (
      <span className="field-error" role="status">
        {asked.source.kit} jumps about: look at it, and type what it shows.
      </span>
    )
  const value = show(noted.kind, noted.value)
  return (
    <Button
      type="button"
      className="live-key"
      aria-label={ends ? `End with ${value}, live` : `Note ${value}, live`}
      onClick={() => take(noted.value, sampleOf(asked))}
    >
      <span className="live-dot" aria-hidden /> {ends ? 'End with' : 'Note'}{' '}
      <strong className="digits">{value}</strong>
    </Button>
  )
}
