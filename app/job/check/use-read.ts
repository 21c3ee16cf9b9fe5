import { CHANNEL_FACTS } from '#core/samples'
import { checkReadings } from '#core/tape'
import type { RunningReadings } from '#core/verify'
import { asNoted } from '~/samples/in-units'
import { readingOf, useLive } from '~/device/live/live-context'
import type { Draft } from '~/tape/draft'
import { useReadersUnits } from '~/base/ui/reader'
import { useJob } from '../field/job-context'
import { noteOf } from '../live/note-live'

type ReadField = Exclude<keyof RunningReadings, 'standing'>

/** What each place of a live instrument is read for. */
const FIELD_OF: Record<string, ReadField> = {
  low: 'lowPa',
  high: 'highPa',
  suction: 'suctionK',
  liquid: 'liquidK',
  ambient: 'ambientK',
  vent: 'ventK',
  'air-on': 'airOnK',
  'air-off': 'airOffK',
  'condenser-off': 'condenserOffK',
  'wet-bulb': 'wetBulbK',
}

export interface Read {
  readings: RunningReadings & { at?: number }
  /** Some of it is what instruments say now. */
  live: boolean
  /** Writes down what the live ones say. */
  noteLive: () => Draft[]
}

/** What is read on the running system: what instruments say now, and what was noted where none speaks. */
export function useRead(): Read {
  const job = useJob()
  const live = useLive()
  const units = useReadersUnits()
  const noted = checkReadings(job.state)
  const said: Partial<Record<ReadField, number>> = {}
  const speaking = (live?.sources ?? []).flatMap((source) => {
    const { point } = CHANNEL_FACTS[source.channel]
    const field = source.inUse && point ? FIELD_OF[point] : undefined
    const reading = field && live ? readingOf(live, source.kitId, source.channel) : undefined
    if (!field || reading?.state !== 'live') return []
    said[field] = asNoted(source.channel, reading.value, units)!.value
    return [reading]
  })
  return {
    readings: { ...noted, ...said },
    live: speaking.length > 0,
    noteLive: () => speaking.flatMap((reading) => noteOf(reading, job, units) ?? []),
  }
}
