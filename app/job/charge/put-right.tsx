import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { judgeCharged, openTransfer, standingVerdict, toGoMg } from '#core/tape'
import { draft } from '~/tape/draft'
import { useShow } from '~/base/ui/reader'
import { useJob, useJudging } from '../field/job-context'

/** More or less in it than the target: how much comes out or goes in, and why; both stay on the tape. */
export function PutRight() {
  const { state, note, openStage } = useJob()
  const show = useShow()
  const judging = useJudging()
  const left = toGoMg(state)
  const judged = standingVerdict(state, 'charge', judging)
  const [reason, setReason] = useState('')
  if (!state.target || left === undefined || openTransfer(state)) return null
  if (judged?.overruled !== undefined) return null
  // What the scale cannot tell is not put right by it.
  const code = judgeCharged(state)?.code
  const over = code === 'charge-over'
  // Short in mid-charge is no fault: the next source goes on. Judged short, it is.
  if (!over && !(code === 'charge-short' && judged)) return null
  const massMg = Math.abs(left)
  const planned = state.chargeCorrections.at(-1)
  const asked = planned?.way === (over ? 'out' : 'in') && planned.at >= (state.transfers.at(-1)?.endedAt ?? 0)
  const put = () => {
    note([draft('charge-corrected', { way: over ? 'out' : 'in', massMg, reason: reason.trim() })])
    setReason('')
    if (over) openStage('recover')
  }
  return (
    <section className="stack" aria-label="Put the charge right" style={{ gap: '0.5rem' }}>
      <h3 className="mb-0">
        {over ? `Take ${show('weight', massMg)} out again` : `Add ${show('weight', massMg)}`}
      </h3>
      <p className="mb-0 quiet">
        {over
          ? 'Into the cylinder that it came from, or an empty one, over the scale. Not into the air. It is booked as recovered, and the total in the system follows.'
          : 'From the same or another cylinder, over the scale: the total in the system follows.'}
      </p>
      {asked ? (
        <p className="mb-0">
          Noted{planned.reason && `: ${planned.reason}`}.{' '}
          {over && (
            <Button variant="outline-primary" onClick={() => openStage('recover')}>
              Open Recover
            </Button>
          )}
        </p>
      ) : (
        <div className="row-of">
          <input
            className="form-control"
            style={{ flex: '1 1 14rem' }}
            aria-label="Why it is off (may stay empty)"
            placeholder="Why it is off (may stay empty)"
            value={reason}
            maxLength={1000}
            onChange={(event) => setReason(event.target.value)}
          />
          <Button variant="outline-primary" className="btn-big" onClick={put}>
            {over ? 'Take it out' : 'Add the rest'}
          </Button>
        </div>
      )}
    </section>
  )
}
