import type { FormEvent } from 'react'
import { Button } from 'react-bootstrap'
import { type Hold, holdRule, holdStands, type ReadOff, runningHold } from '#core/tape'
import { asNoted } from '~/samples/in-units'
import { readingOf, sampleOf, useLive } from '~/device/live/live-context'
import { newId } from '~/tape/device'
import { type Draft, draft, readOff } from '~/tape/draft'
import { MeasureInput } from '~/base/ui/measure-field'
import { Value } from '~/base/ui/reader'
import { ruleTime } from '~/base/ui/time'
import { Down } from '../circuit/dry/down'
import { HoldDone, HoldRuns } from '../circuit/dry/hold'
import { KitProof } from '../circuit/dry/kit-proof'
import { usePumping, VacuumPlanCard } from '../circuit/dry/plan'
import { thinned, useGaugeLine } from '../circuit/dry/readings'
import { useJob } from '../field/job-context'
import { useGiveVerdict } from '../verdict/give-verdict'
import { VerdictOf } from '../verdict/verdict-of'
import { AccountForGas } from './notices'
import { useFigure } from '../field/use-figure'

/** Air and moisture out: the gauge decides, not the clock; then a hold with the pump valved off. */
export function Evacuate() {
  const { state, note, closed } = useJob()
  const gauge = useFigure('vacuum', 'vacuum gauge')
  const last = state.vacuum.at(-1)
  const hold = runningHold(state)
  const done = hold ? undefined : state.holds.findLast((each) => each.endedAt !== undefined)
  const give = useGiveVerdict()
  const line = useGaugeLine()
  const { plan } = usePumping()
  const rule = holdRule(state)

  // A vehicle that nobody planned is held on the manifold gauge, unless a vacuum gauge reads: the tape says by which rule.
  const byRule = (pressurePa: number): Draft[] =>
    !state.vacuumPlan && plan.method === 'timed' && pressurePa > VACUUM_GAUGE_PA
      ? [draft('vacuum-planned', plan)]
      : []
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
  const endHold = ({ holdId, startedAt }: Hold) =>
    read((pressurePa, from) => {
      const said = thinned(line?.(startedAt, Infinity) ?? [])
      const ended: Draft[] = [
        ...byRule(pressurePa),
        ...(said.length > 3
          ? [
              draft('hold-curve', {
                holdId,
                readings: said.map((each): [number, number] => [
                  round(each.atS, 1),
                  round(each.pressurePa, 3),
                ]),
              }),
            ]
          : []),
        readOff(draft('hold-ended', { holdId, pressurePa }), from),
      ]
      note([...ended, ...give('hold', ended)])
    })
  // What a hold has said comes first, until the pump is at work again.
  const fresh = done !== undefined && (last === undefined || last.at <= done.endedAt!)
  const passed = fresh && holdStands(state) === 'passed'
  const judged = done && (
    <>
      <VerdictOf about="hold" />
      <HoldDone key={done.holdId} hold={done} />
    </>
  )
  // Before anything is pumped the kit and the way are asked for; then the gauge has the word.
  const begun = state.vacuum.length > 0 || hold !== undefined
  const setUp = (
    <>
      <KitProof />
      <VacuumPlanCard />
    </>
  )
  return (
    <>
      {!begun && !closed && setUp}
      <div className="gauge-row">
        <div>
          <div className="quiet">
            {plan.method === 'timed'
              ? 'Manifold gauge, or a vacuum gauge'
              : 'Vacuum gauge, far from the pump'}
          </div>
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
          {plan.method === 'timed' ? (
            <>Pump 20 to 30 minutes, then hold 5 to 15. A manifold gauge sees large leaks only.</>
          ) : (
            <>
              Down to <Value kind="vacuum" of={rule.targetPa} />, then {ruleTime(rule.leastS)} below{' '}
              <Value kind="vacuum" of={rule.limitPa} />. The maker’s figure wins.
            </>
          )}
        </div>
      </div>
      {fresh && judged}
      {hold ? <HoldRuns hold={hold} /> : !passed && <Down />}
      <AccountForGas />
      {!fresh && judged}
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
                    note([
                      ...byRule(pressurePa),
                      readOff(draft('hold-started', { holdId: newId(), pressurePa }), from),
                    ]),
                  )
                }
              >
                Pump valved off: start a hold
              </Button>
            )}
          </div>
        </form>
      )}
      {begun && !hold && (
        <details>
          <summary>How it is pumped, and the kit</summary>
          <div className="stack mt-2">{setUp}</div>
        </details>
      )}
    </>
  )
}

/** What reads lower than this is no manifold gauge, absolute Pa. */
const VACUUM_GAUGE_PA = 500

const round = (value: number, digits: number) => Number(value.toFixed(digits))

/** What a vacuum gauge of this job says by itself. */
function useVacuum() {
  const live = useLive()
  const source = live?.sources.find((each) => each.inUse && each.channel === 'vacuum')
  return live && source && readingOf(live, source.kitId, 'vacuum')
}
