import { isNearLimit } from '#core/cylinders'
import { isToppedUp, toGoMg, type Transfer } from '#core/tape'
import { MG_PER_KG } from '#core/units'
import { useReading } from '~/device/live/live-context'
import { useShow, useShowRate } from '~/base/ui/reader'
import { useJob } from '../field/job-context'
import { useStops } from '../moving/use-stops'
import { useLiveNet } from '../moving/live-net'
import { useOnScale } from '../moving/on-scale'
import { TimeLeft } from './time-left'

/** The total, or what still has to go in, and what it counts against. */
export function Figures({ transfer }: { transfer: Transfer }) {
  const { state, cylinderOf } = useJob()
  const show = useShow()
  const showRate = useShowRate()
  const left = transfer.use === 'charge' ? toGoMg(state) : undefined
  const { stopMg, outMg } = useStops(transfer)
  const rate = rateKgPerS(transfer)
  // What a live scale says now counts in sight; the books wait for a note.
  const reading = useReading(transfer.segments.at(-1)!.scaleId, 'weight')
  const net = useLiveNet(reading?.state === 'live' ? reading : undefined)
  const moved = net === undefined ? 0 : net - transfer.amountMg
  return (
    <div className="face-figures">
      <h3 className="face-what">
        <span className="gas">{state.refrigerant ?? 'Gas not named'}</span>{' '}
        <span className="quiet">{transfer.use === 'recover' ? 'into' : 'from'}</span>{' '}
        {cylinderOf(transfer.cylinderId)?.label ?? 'the cylinder'}
      </h3>
      <div className="face-heroes">
        <div>
          <div className="quiet">
            {left !== undefined
              ? 'Still to go in'
              : transfer.use === 'recover'
                ? 'Recovered, this pull'
                : isToppedUp(state)
                  ? 'Added so far'
                  : 'Charged'}
          </div>
          <div className="hero" aria-live="polite">
            {show('weight', left === undefined ? transfer.amountMg + moved : left - moved)}
          </div>
        </div>
        <div className="face-side">
          {net !== undefined && (
            <div>
              <span className="quiet">live; noted</span>{' '}
              <span className="digits">{show('weight', transfer.amountMg)}</span>
            </div>
          )}
          {outMg !== undefined && (
            <div>
              <span className="quiet">This cylinder’s liquid ends at about</span>{' '}
              <strong className="big digits">{show('weight', outMg)}</strong>{' '}
              <span className="quiet">
                {stopMg === undefined
                  ? 'then the next source'
                  : 'the rest as vapour, by the running system, or from the next source'}
              </span>
            </div>
          )}
          {stopMg !== undefined && (
            <div>
              <span className="quiet">Close the valve when the scale shows</span>{' '}
              <strong className="big digits">{show('weight', stopMg)}</strong>
            </div>
          )}
          {rate !== undefined && (
            <div>
              <span className="quiet">Last rate</span> <strong className="digits">{showRate(rate)}</strong>
            </div>
          )}
          {transfer.use === 'charge' && <TimeLeft transfer={transfer} />}
        </div>
      </div>
      <Reckoned transfer={transfer} />
    </div>
  )
}

/** What nobody weighed is known to no gram. */
const UNSEEN_STEP_MG = 10_000

/** What a figure rests on, and what there is none for. */
function Reckoned({ transfer }: { transfer: Transfer }) {
  const { state } = useJob()
  const show = useShow()
  const unseen = transfer.unseenMg > 0 && (
    <p className="mb-0">
      Between the two scales the valve stood open: up to{' '}
      {show('weight', Math.ceil(transfer.unseenMg / UNSEEN_STEP_MG) * UNSEEN_STEP_MG)} passed that nobody
      weighed.
    </p>
  )
  if (transfer.use === 'recover')
    return (
      <>
        {unseen}
        {transfer.gaps.map(({ segment, gapMg }) => (
          <p key={segment} className="quiet mb-0">
            The two scales differ by {show('weight', Math.abs(gapMg))}: the second reads{' '}
            {gapMg > 0 ? 'more' : 'less'}.
          </p>
        ))}
      </>
    )
  return (
    <>
      {unseen}
      {isToppedUp(state) && (
        <p className="mb-0">
          A top-up: how much was in it nobody knows, so there is no stop weight. Go by the readings.
        </p>
      )}
      {transfer.plannedHoseMg > 0 && (
        <p className="quiet mb-0">
          The stop weight leaves {show('weight', transfer.plannedHoseMg)} for the hose.
        </p>
      )}
    </>
  )
}

/** Gross weight, limit and what is left, right above where the next weight goes; alarms with what to do beside them. */
export function LimitBar({ transfer }: { transfer: Transfer }) {
  const show = useShow()
  const on = useOnScale(transfer)
  if (!on || on.scale.limitMg === undefined || on.scale.leftMg === undefined || on.share === undefined)
    return (
      <p className="field-error mb-0">
        No gross limit is known for this cylinder: enter its stamps under Cylinders.
      </p>
    )
  const { grossMg, limitMg, leftMg } = on.scale
  const over = leftMg < 0
  return (
    <div className="limit">
      <div className={`limit-bar ${over ? 'over' : isNearLimit(on.share) ? 'near' : ''}`} aria-hidden>
        <div style={{ width: `${Math.min(100, Math.max(0, 100 * on.share))}%` }} />
      </div>
      <div className="face-limits">
        <span>
          <span className="quiet">Gross now</span>{' '}
          <strong className="digits">{show('weight', grossMg)}</strong>
        </span>
        {!over && (
          <span>
            <span className="quiet">room for</span>{' '}
            <strong className="digits">{show('weight', leftMg)}</strong>{' '}
            <span className="visually-hidden">more</span>
          </span>
        )}
        <span>
          <span className="quiet">never past</span>{' '}
          <strong className="digits">{show('weight', limitMg)}</strong>
        </span>
      </div>
    </div>
  )
}

export interface Alarm {
  text: string
  /** What can be done about it at once. */
  action?: 'next-cylinder' | 'finish'
}

/** What must be seen now, the worst first. */
export function useAlarms(transfer: Transfer): Alarm[] {
  const { state, data } = useJob()
  const show = useShow()
  const on = useOnScale(transfer)
  const left = toGoMg(state)
  const alarms: Alarm[] = []
  const recovering = transfer.use === 'recover'
  if (recovering && on?.scale.leftMg !== undefined && on.share !== undefined) {
    if (on.scale.leftMg < 0)
      alarms.push({
        text: `${show('weight', -on.scale.leftMg)} past the limit: stop, close the cylinder, take some out again. Overfilled it bursts when it warms.`,
        action: 'next-cylinder',
      })
    else if (isNearLimit(on.share))
      alarms.push({
        text: 'Near the limit: have the next cylinder ready.',
        action: 'next-cylinder',
      })
  }
  if (!recovering && left !== undefined && left < 0)
    alarms.push({
      text: `${show('weight', -left)} more than the target is in it: close the cylinder.`,
      action: 'finish',
    })
  if (data.busy.includes(transfer.cylinderId))
    alarms.push({
      text: 'A transfer of another job runs on this cylinder at the same time: end one of them, and correct it.',
    })
  return alarms
}

function rateKgPerS(transfer: Transfer): number | undefined {
  const [before, last] = transfer.weighings.slice(-2)
  if (!before || !last || before.segment !== last.segment || last.at - before.at < 5_000) return undefined
  return Math.abs(last.weightMg - before.weightMg) / MG_PER_KG / ((last.at - before.at) / 1_000)
}
