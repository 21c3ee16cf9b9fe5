import { Link } from 'react-router'
import { useShow } from '~/base/ui/reader'
import { dayAndTime } from '~/base/ui/time'
import { useJob } from '../field/job-context'

/** Transfers of this job that a scale has weighed which failed its check since: until somebody decides. */
export function WeighedInDoubt() {
  const { data } = useJob()
  const show = useShow()
  if (data.doubts.length === 0) return null
  return (
    <div className="verdict verdict-caution mb-3" role="status">
      <h3>Weighed on a scale that failed its check</h3>
      <ul className="mb-0">
        {data.doubts.map((doubt) => (
          <li key={`${doubt.transferId} ${doubt.kitId}`}>
            {doubt.use === 'recover' ? 'Recovered into' : 'Charged from'} {doubt.cylinder},{' '}
            <span className="digits">{show('weight', doubt.massMg)}</span>, on{' '}
            <Link to={`/kit/${doubt.kitId}`}>{doubt.kit}</Link>: on{' '}
            {dayAndTime(doubt.checkedAt, data.shop.timeZone)} it read {show('weight', doubt.read)} for{' '}
            {show('weight', doubt.known)}.
          </li>
        ))}
      </ul>
      <p className="mb-0">
        Verdicts and report rest on it with caution until somebody decides on the scale’s page: weigh again,
        or accept it.
      </p>
    </div>
  )
}
