import { NotTaken } from '~/device/waiting/not-taken'
import { useOutbox } from '~/device/outbox/outbox-context'
import { useJob } from '../field/job-context'
import { useNames } from '../field/use-words'

/** What the server did not take of this job, with what was noted and why. */
export function RefusedEntries() {
  const { aside } = useOutbox()
  const { data } = useJob()
  const names = useNames()
  return aside
    .filter((each) => each.jobId === data.jobId)
    .map((each) => <NotTaken key={each.entryId} aside={each} timeZone={data.shop.timeZone} names={names} />)
}
