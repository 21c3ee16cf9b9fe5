import { type FormEvent, useEffect, useState } from 'react'
import { Button } from 'react-bootstrap'
import { type Hold, type ReadOff, runningHold } from '#core/tape'
import { HOLD_RULE } from '#core/vacuum'
import { newId, serverNow } from '~/tape/device'
import { readingOf, useLive } from '~/samples/live-context'
import { draft, readOff } from '~/tape/use-tape'
import { MeasureInput } from '~/ui/measure-field'
import { Value } from '~/ui/reader'
import { duration } from '~/ui/time'
import { useJob } from '../job-context'
import { useGiveVerdict } from '../verdict/give-verdict'
import { VerdictOf } from '../verdict/verdict-of'
import { AccountForGas } from './notices'
import { StepList } from './step-list'
import { sampleOf } from '~/samples/live-context'
import { asNoted } from '~/samples/in-units'
import { useFigure } from './use-figure'

/** Air and moisture out: the gauge decides, not the clock; then a hold with the pump valved off. */
export function Evacuate() {
  const { state, note, closed } = useJob()
  const gauge = useFigure('vacuum', 'vacuum gauge')
  const last = state.vacuum.at(-1)
  const hold = runningHold(state)
  const give = useGiveVerdict()

  const spoken = useVacuum()
  // What was typed wins; an empty field takes what the gauge says by itself.
  const read = (then: (pressurePa: number, from?: ReadOff) => void) => {
    if (gauge.empty && spoken?.state === 'live')
      return then(asNoted('vacuum', spoken.value, {})!.value, sampleOf(spoken))
    const pressurePa = gauge.want()
    if (pressurePa === undefined) return
    then(pressurePa)
    gauge.clear()
  }
  const submit = (event: FormEvent) => {
    event.preventDefault()
    read((pressurePa, from) =>
      note([readOff(draft('vacuum-noted', { pressurePa, ...(hold ? { holdId: hold.holdId } : {}) }), from)]),
    )
  }
  const endHold = ({ holdId }: Hold) =>
    read((pressurePa, from) => {
      const ended = readOff(draft('hold-ended', { holdId, pressurePa }), from)
      note([ended, ...give('hold', [ended])])
    })
  return (
    <>
      <StepList steps={['kit-proved']} />
      <div className="gauge-row">
        <div>
          <div className="quiet">Vacuum gauge, far from the pump</div>
          <div className="hero">
            {spoken?.state === 'live' ? (
              <Value kind="vacuum" of={asNoted('vacuum', spoken.value, {})!.value} />
            ) : last ? (
              <Value kind="vacuum" of={last.value} />
            ) : (
              '–'
            )}
          </div>
        </div>
        <div className="quiet">
          Down to <Value kind="vacuum" of={HOLD_RULE.targetPa} />, then 10 minutes below{' '}
          <Value kind="vacuum" of={HOLD_RULE.limitPa} />. The maker’s figure wins.
        </div>
      </div>
      {hold && <HoldClock hold={hold} />}
      <AccountForGas />
      {!hold && <VerdictOf about="hold" />}
      {!closed && (
        <form onSubmit={submit} className="stack" style={{ gap: '0.5rem' }}>
          <div className="take">
            <MeasureInput {...gauge.field} hero label="The gauge reads" />
            <Button type="submit" className="btn-big">
              Note it
            </Button>
          </div>
          <div className="row-of">
            {hold ? (
              <Button variant="outline-primary" className="btn-big" onClick={() => endHold(hold)}>
                End the hold with this
              </Button>
            ) : (
              <Button
                variant="outline-primary"
                className="btn-big"
                onClick={() =>
                  read((pressurePa, from) =>
                    note([readOff(draft('hold-started', { holdId: newId(), pressurePa }), from)]),
                  )
                }
              >
                Pump valved off: start a hold
              </Button>
            )}
          </div>
        </form>
      )}
    </>
  )
}

/** What a vacuum gauge of this job says by itself. */
function useVacuum() {
  const live = useLive()
  const source = live?.sources.find((each) => each.inUse && each.channel === 'vacuum')
  return live && source && readingOf(live, source.kitId, 'vacuum')
}

function HoldClock({ hold }: { hold: Hold }) {
  const { clocks } = useJob().state
  const [now, setNow] = useState<number>()
  useEffect(() => {
    const tick = () => setNow(serverNow({ clocks }))
    tick()
    const timer = setInterval(tick, 1000)
    return () => clearInterval(timer)
  }, [clocks])
  const heldS = now === undefined ? 0 : (now - hold.startedAt) / 1000
  const leftS = HOLD_RULE.leastS - heldS
  return (
    <div className="gauge-row" role="timer" aria-label="Vacuum hold">
      <div>
        <div className="quiet">Holding for</div>
        <div className="big">{duration(heldS)}</div>
      </div>
      <div>
        <div className="quiet">{leftS > 0 ? 'Too soon to tell before another' : 'Long enough to tell'}</div>
        <div className="big">{leftS > 0 ? duration(leftS) : 'now'}</div>
      </div>
    </div>
  )
}
