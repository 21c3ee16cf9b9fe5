import { CHANNEL_FACTS } from '#core/samples'
import { openTransfer, type PressurePoint, runningHold, type TemperaturePoint } from '#core/tape'
import { type LiveReading, sampleOf } from '~/device/live/live-context'
import { type Draft, draft, readOff } from '~/tape/draft'
import type { ReadersUnits } from '~/base/ui/measure'
import { pressureDraft } from '../field/pressure-draft'
import { useReadersUnits } from '~/base/ui/reader'
import { type OpenJob, useJob } from '../field/job-context'
import { type AskedOfLive, useAsked } from './live-answer'
import { asNoted } from '~/samples/in-units'

/** What *note this* writes for a live value; undefined: there is nothing on this job that it would be noted for. */
export function noteOf(
  reading: LiveReading,
  { state }: Pick<OpenJob, 'state'>,
  units: ReadersUnits,
): Draft | undefined {
  const { channel, kitId } = reading.source
  const noted = asNoted(channel, reading.value, units)
  if (!noted || reading.state === 'nonsense') return undefined
  const { value } = noted
  const made = (): Draft | undefined => {
    if (channel === 'weight') {
      const transfer = openTransfer(state)
      const segment = transfer?.segments.at(-1)
      if (!transfer || segment?.scaleId !== kitId) return undefined
      return draft('weight-noted', { runId: transfer.transferId, weightMg: value, on: segment.openedBy })
    }
    const { quantity, point } = CHANNEL_FACTS[channel]
    if (quantity === 'gauge-pressure') return pressureDraft(point as PressurePoint, value, units)
    if (channel === 'vacuum') {
      const hold = runningHold(state)
      return draft('vacuum-noted', { pressurePa: value, ...(hold ? { holdId: hold.holdId } : {}) })
    }
    return draft('temperature-noted', { point: point as TemperaturePoint, tempK: value })
  }
  const entry = made()
  return entry && readOff(entry, sampleOf(reading))
}

/** What an instrument says now, as a note to be written beside others; nothing where none speaks. */
export function useNoteLive(asked: AskedOfLive): () => Draft[] {
  const job = useJob()
  const units = useReadersUnits()
  const reading = useAsked(asked)
  return () => {
    const noted = reading?.state === 'live' ? noteOf(reading, job, units) : undefined
    return noted ? [noted] : []
  }
}
