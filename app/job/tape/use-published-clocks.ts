import { useEffect } from 'react'
import { clocksOf, type JobState, judgingContext } from '#core/tape'
import { seenOnPage } from '~/device/clocks/running'
import { deviceOffsetMs } from '~/tape/device'
import { useOutbox } from '~/device/outbox/outbox-context'
import type { JobData } from '~/job-data/data'

/**
 * Tells the strip of clocks what runs in this job, entries that wait included: it knows the plate, and so how long. Where a scale speaks the
 * face and the Bench go by that; the strip, which hears none, says only since when.
 */
export function usePublishedClocks(data: JobData, state: JobState) {
  const { outbox } = useOutbox()
  useEffect(() => {
    if (!data.mayWrite) return
    const speaks = data.live.some((each) => each.inUse && each.channel === 'weight')
    seenOnPage(
      outbox.userId,
      {
        jobId: data.jobId,
        number: data.number,
        title: state.title || (data.system?.name ?? ''),
        clocks: clocksOf(state, speaks ? null : judgingContext(data, state)),
      },
      deviceOffsetMs(state),
    )
  }, [outbox, data, state])
}
