import { type Transfer, transferTimeLeft } from '#core/tape'
import { useServerNow } from '~/tape/use-server-now'
import { minutesRange } from '~/base/ui/time'
import { useJob, useJudging } from '../field/job-context'

const TICK_MS = 10_000

/** How long a charge still takes, as a range, from the weights noted so far; of a pull the state line says it. */
export function TimeLeft({ transfer }: { transfer: Transfer }) {
  const { state } = useJob()
  const left = transferTimeLeft(state, transfer, useJudging())
  const now = useServerNow(state, TICK_MS)
  if (!left || now === undefined) return null
  if (left.kind === 'flat') return <div>Nothing came between the last two weights</div>
  if (left.kind === 'falling') return <div>The weight goes back</div>
  if (left.kind === 'steady-unknown-end') return null
  const goneS = (now - transfer.weighings.at(-1)!.at) / 1000
  if (goneS >= left.mostS) return <div className="quiet">By its rate it should be done</div>
  return (
    <div>
      <span className="quiet">Left</span>{' '}
      <strong className="digits">{minutesRange(left.leastS - goneS, left.mostS - goneS)}</strong>
    </div>
  )
}
