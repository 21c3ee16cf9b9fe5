import { Button } from 'react-bootstrap'
import { PA_PER_MICRON, STANDARD_ATMOSPHERE_PA } from '#core/units'
import {
  type Behind,
  fallsBy,
  type HoldReading,
  isBehind,
  mayFreeze,
  outlook,
  type Progress,
  timeDownS,
  whyBehind,
} from '#core/vacuum'
import { judgeNow, type VacuumPlan } from '#core/tape'
import { KINDS } from '~/slide-rule/kinds'
import { draft } from '~/tape/draft'
import { useReadersUnits } from '~/base/ui/reader'
import { duration } from '~/base/ui/time'
import { BEHIND_WORDS } from '~/words/en'
import { Drawn } from '~/base/ui/drawing/drawn'
import type { VacuumInput } from '~/job/chart/vacuum-drawing'
import { useJob, useJudging } from '~/job/field/job-context'
import { usePumping } from './plan'
import { pumpingSince, thinned, useGaugeLine } from './readings'

const loadVacuum = () => import('~/job/chart/vacuum-drawing').then(({ vacuumIn }) => vacuumIn)
/** A break is to about atmosphere, and a little above. */
const BREAK_OVER_PA = 10_000
const LEAST_DRAWN_PA = 1
const WANTED_BREAKS = 2

/** The way down: what is to be expected, what the gauge says, how long still, and what is wrong where it lags. */
export function Down() {
  const { state, note, closed } = useJob()
  const reading = useReadersUnits()
  const judging = useJudging()
  const { plan, setUp, ambientK } = usePumping()
  const line = useGaugeLine()
  const since = pumpingSince(state)
  const noted = state.vacuum.filter((each) => each.at > since)
  const startMs = noted[0]?.at ?? since
  const said = line ? line(since, Infinity).filter(({ pressurePa }) => pressurePa > 0) : []
  const live = said.length > noted.length
  const readings: HoldReading[] = live
    ? fromZero(thinned(said))
    : noted.map((each) => ({ atS: (each.at - startMs) / 1000, pressurePa: each.value }))
  const breaks = state.nitrogenBreaks.filter(
    (each) => each.at >= (state.episodes.at(-1)?.emptiedAt ?? 0),
  ).length
  const first = readings[0]
  const last = readings.at(-1)
  if (plan.method === 'timed') return null
  const fromPa = Math.max(first?.pressurePa ?? STANDARD_ATMOSPHERE_PA, plan.targetPa * 1.01)
  const band = outlook(setUp, fromPa, plan.targetPa)
  const whole = timeDownS(setUp, fromPa, plan.targetPa)
  const left = last && timeDownS(setUp, last.pressurePa, plan.targetPa)
  const falls = fallsBy(readings)
  const wetHold =
    judgeNow(state, 'hold', judging)?.reasons.some(({ code }) => code === 'water-certain') ?? false
  const progress: Progress | undefined = last && {
    tookS: last.atS,
    fromPa,
    nowPa: last.pressurePa,
    wet: wetHold || breaks > 0 || plan.method === 'triple',
    gaugeAtPump: plan.gaugeAt === 'pump',
    ...(falls !== undefined && { fallsBy: falls }),
    ...(ambientK !== undefined && { ambientK }),
  }
  const behind =
    last && progress && readings.length > 1 && last.pressurePa > plan.targetPa && isBehind(setUp, progress)
      ? whyBehind(setUp, progress)
      : undefined
  const reached = last !== undefined && last.pressurePa <= plan.targetPa
  return (
    <section className="stack" aria-label="The way down">
      {plan.gaugeAt === 'pump' && (
        <p className="field-error mb-0">
          A gauge at the pump reads far too low under flow: what it says is the pump’s, not the system’s. Move
          it to the system, as far from the pump as you can.
        </p>
      )}
      <div className="spread">
        <p className="mb-0">
          {reached ? (
            <strong>Down to the target.</strong>
          ) : behind ? (
            <strong className="field-error">Behind what a dry, tight system does.</strong>
          ) : left ? (
            <>
              <span className="big digits">{span(left)}</span> left,{' '}
              <span className="quiet">if it is dry and tight</span>
            </>
          ) : whole ? (
            <>
              About <span className="big digits">{span(whole)}</span>{' '}
              <span className="quiet">
                from {first ? KINDS.vacuum.show(fromPa, reading) : 'atmosphere'}, dry and tight. Time is no
                measure: the gauge is.
              </span>
            </>
          ) : (
            <strong className="field-error">
              With this pump and these hoses it never gets down to {KINDS.vacuum.show(plan.targetPa, reading)}
              : wider and shorter hoses, cores out, fresh pump oil.
            </strong>
          )}
        </p>
        {plan.method === 'triple' && (
          <span className="quiet">
            Pumped {breaks + 1} of {WANTED_BREAKS + 1}
          </span>
        )}
      </div>
      {progress && mayFreeze(progress) && (
        <div className="caution-box" role="alert">
          <strong>Water may be freezing in there.</strong> It stands at the vapour of ice, and ice gives off
          next to nothing. Break the vacuum with dry nitrogen and warm the low places: not a bigger pump.
        </div>
      )}
      {behind && <Why behind={behind} />}
      {readings.length > 0 && band && (
        <Drawn
          className="vacuum-curve"
          label={`Vacuum since the pump began: ${KINDS.vacuum.show(last!.pressurePa, reading)} after ${duration(last!.atS)}`}
          input={drawing(readings, !live, band, plan, reading.units.vacuum)}
          load={loadVacuum}
        />
      )}
      {!closed && (plan.method === 'triple' || wetHold || behind?.[0]?.cause === 'wet') && (
        <div className="row-of">
          <Button
            variant="outline-primary"
            className="btn-big"
            onClick={() =>
              note([
                draft('nitrogen-let-in', {
                  pressurePa: (reading.atmospherePa ?? STANDARD_ATMOSPHERE_PA) + BREAK_OVER_PA,
                }),
              ])
            }
          >
            Broken with dry nitrogen
          </Button>
          <span className="quiet">
            Pump off at the system first. Nitrogen by its regulator to just above zero, never oxygen or shop
            air; wait some minutes, let it out, pump again.
          </span>
        </div>
      )}
    </section>
  )
}

function Why({ behind }: { behind: Behind[] }) {
  const reading = useReadersUnits()
  if (behind.length === 0)
    return <p className="mb-0">No cause fits well: note the gauge again in a minute or two.</p>
  const figure = ({ value }: Behind) => {
    if (!value) return ''
    if (value.seconds !== undefined) return `would take about ${duration(value.seconds)}`
    if (value.paM3S !== undefined) return `of about ${Number((value.paM3S * 1000).toPrecision(2))} Pa·L/s`
    if (value.pa !== undefined) return `at ${KINDS.vacuum.show(value.pa, reading)}`
    return value.m3 === undefined ? '' : `about ${KINDS.capacity.show(value.m3, reading)}`
  }
  return (
    <div>
      <strong>Why it may lag, the likeliest first</strong>
      <ol className="mb-0">
        {behind.slice(0, 4).map((each) => (
          <li key={each.cause}>
            {BEHIND_WORDS[each.cause]} <span className="quiet">{figure(each)}</span>
          </li>
        ))}
      </ol>
    </div>
  )
}

function span({ least, most }: { least: number; most: number }): string {
  const round = (seconds: number) => duration(Math.max(30, 30 * Math.round(seconds / 30)))
  return round(least) === round(most) ? round(least) : `${round(least)} to ${round(most)}`
}

/** From where the pump began: the last time that it stood highest. */
function fromZero(readings: HoldReading[]): HoldReading[] {
  const highest = Math.max(...readings.map((each) => each.pressurePa))
  const from = readings.findLastIndex((each) => each.pressurePa > 0.9 * highest)
  const startS = readings[from]?.atS ?? 0
  return readings.slice(from).map(({ atS, pressurePa }) => ({ atS: atS - startS, pressurePa }))
}

function drawing(
  readings: HoldReading[],
  noted: boolean,
  band: NonNullable<ReturnType<typeof outlook>>,
  plan: VacuumPlan,
  unit: 'micron' | 'Pa',
): VacuumInput {
  const scale = unit === 'micron' ? PA_PER_MICRON : 1
  const shown = (pa: number) => Math.max(LEAST_DRAWN_PA, pa) / scale
  const points = (of: readonly HoldReading[]) =>
    of.map(({ atS, pressurePa }) => [atS / 60, shown(pressurePa)] as const)
  const endS = Math.max(readings.at(-1)!.atS, band.latest.at(-1)!.atS)
  return {
    read: points(readings),
    noted,
    expected: [
      { name: 'expected, soonest', points: points(band.soonest) },
      { name: 'latest', points: points(band.latest) },
    ],
    marks: [{ name: 'target', value: shown(plan.targetPa) }],
    unit,
    until: Math.max(2, Math.ceil(endS / 60)),
    log: true,
  }
}
