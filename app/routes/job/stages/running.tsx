import { grossLimitMg } from '#core/cylinders'
import { inSystemNow, onTheScale, stopReadingMg, toGoMg, type Transfer } from '#core/tape'
import { useShow, Value } from '~/ui/reader'
import { DOUBT_WORDS } from '~/wording/en'
import { useJob, useJudging } from '../job-context'
import { contentsBeforeMg } from './contents'
import { NextWeight } from './next-weight'

const NEAR = 0.9

/** A transfer under way: how much has moved, how much may still, and the next weight. */
export function Running({ transfer }: { transfer: Transfer }) {
  const { data, closed } = useJob()
  return (
    <div className="running">
      <Figures transfer={transfer} />
      {transfer.use === 'recover' && <LimitBar transfer={transfer} />}
      {data.busy.includes(transfer.cylinderId) && (
        <p className="field-error mb-0" role="alert">
          A transfer of another job runs on this cylinder at the same time: what the scale sees belongs to
          both. End one of them, and correct it.
        </p>
      )}
      <LastDoubt transfer={transfer} />
      {!closed && <NextWeight transfer={transfer} />}
    </div>
  )
}

function Figures({ transfer }: { transfer: Transfer }) {
  const { state, cylinderOf } = useJob()
  const judging = useJudging()
  const show = useShow()
  const rate = rateMgPerMin(transfer)
  const left = transfer.use === 'charge' ? toGoMg(state, judging) : undefined
  const stopMg = stopReadingMg(state, transfer, judging)
  const now = inSystemNow(state, judging)
  const segment = transfer.segments.at(-1)!
  return (
    <div>
      <div className="gauge-row">
        <div>
          <div className="quiet">
            {left === undefined
              ? `${transfer.use === 'recover' ? 'Recovered into' : 'Charged from'} ${cylinderOf(transfer.cylinderId)?.label ?? 'the cylinder'}`
              : 'Still to go in'}
          </div>
          <div className="hero" aria-live="polite">
            {show('weight', left ?? transfer.amountMg)}
          </div>
        </div>
        {stopMg !== undefined && (
          <div>
            <div className="quiet">Close the valve when the scale shows</div>
            <div className="big">{show('weight', stopMg)}</div>
          </div>
        )}
        <div>
          <div className="quiet">Scale shows</div>
          <div className="big">
            <Value kind="weight" of={segment.lastMg} /> {segment.mode === 'net' && 'net'}
          </div>
        </div>
        {rate !== undefined && (
          <div>
            <div className="quiet">Between the last two</div>
            <div className="big">{show('weight', rate)}/min</div>
          </div>
        )}
      </div>
      {transfer.use === 'charge' && now.kind === 'not-known' && (
        <p className="quiet mb-0">
          The system was not emptied in this job and nobody knows what was in it: there is no stop weight.
          Only {show('weight', now.changeMg)} was added.
        </p>
      )}
      {(now.kind === 'from-books' || now.kind === 'from-plate') && left !== undefined && (
        <p className="quiet mb-0">
          Reckoned from what {now.kind === 'from-books' ? 'the books' : 'the plate'} had in it: it was not
          emptied in this job.
        </p>
      )}
      {transfer.use === 'charge' && transfer.plannedHoseMg > 0 && (
        <p className="quiet mb-0">
          The stop weight leaves {show('weight', transfer.plannedHoseMg)} for the hose.
        </p>
      )}
      {transfer.gaps.map(({ segment: index, gapMg }) => (
        <p key={index} className="quiet mb-0">
          The two scales differ by {show('weight', Math.abs(gapMg))}: the second reads{' '}
          {gapMg > 0 ? 'more' : 'less'}.
        </p>
      ))}
      {left !== undefined && left < 0 && (
        <p className="field-error mb-0" role="alert">
          {show('weight', -left)} more than the target is in it: close the cylinder.
        </p>
      )}
    </div>
  )
}

function LimitBar({ transfer }: { transfer: Transfer }) {
  const { state, data, cylinderOf } = useJob()
  const show = useShow()
  const cylinder = cylinderOf(transfer.cylinderId)
  if (!cylinder) return null
  const earlier = state.transfers.slice(0, state.transfers.indexOf(transfer))
  const scale = onTheScale(transfer, {
    tareMg: cylinder.tareMg,
    contentsBeforeMg: contentsBeforeMg(cylinder, earlier),
    grossLimitMg: grossLimitMg(cylinder, state.refrigerant, data.shop.marginPct),
  })
  if (scale.limitMg === undefined || scale.leftMg === undefined)
    return (
      <p className="field-error mb-0">
        No gross limit is known for this cylinder: enter its stamps under Cylinders.
      </p>
    )
  const share = (scale.grossMg - cylinder.tareMg) / (scale.limitMg - cylinder.tareMg)
  const over = scale.leftMg < 0
  return (
    <div className="limit">
      <div className="spread">
        <span>
          Gross now <strong className="digits">{show('weight', scale.grossMg)}</strong>
        </span>
        <span>
          never past <strong className="digits">{show('weight', scale.limitMg)}</strong>
        </span>
      </div>
      <div className={`limit-bar ${over ? 'over' : share > NEAR ? 'near' : ''}`} aria-hidden>
        <div style={{ width: `${Math.min(100, Math.max(0, 100 * share))}%` }} />
      </div>
      {over ? (
        <p className="field-error mb-0" role="alert">
          {show('weight', -scale.leftMg)} past the limit: stop, close the cylinder, take some out again. An
          overfilled cylinder bursts when it warms.
        </p>
      ) : (
        <span className={share > NEAR ? 'field-error' : 'quiet'}>
          {share > NEAR && 'Near the limit, next cylinder ready: '}room for {show('weight', scale.leftMg)}{' '}
          more
        </span>
      )}
    </div>
  )
}

/** What the last weight may be instead of what it says, as long as it is the last. */
function LastDoubt({ transfer }: { transfer: Transfer }) {
  const { doubt } = transfer.weighings.at(-1)!
  if (!doubt) return null
  return (
    <p className="field-error mb-0" role="status">
      {DOUBT_WORDS[doubt]} If it was a slip, correct it on the tape.
    </p>
  )
}

function rateMgPerMin(transfer: Transfer): number | undefined {
  const [before, last] = transfer.weighings.slice(-2)
  if (!before || !last || before.segment !== last.segment || last.at - before.at < 5_000) return undefined
  return Math.abs(last.weightMg - before.weightMg) / ((last.at - before.at) / 60_000)
}
