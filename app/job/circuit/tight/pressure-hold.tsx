import { type FormEvent, useState } from 'react'
import { Button } from 'react-bootstrap'
import { lengthToSeeS, leakFlowOf, testPressure } from '#core/leaks'
import { refrigerant } from '#core/refrigerants'
import {
  clocksOf,
  innerVolume,
  type PressureTest,
  pressureTestResult,
  TESTED_PARTS,
  type TestedPart,
} from '#core/tape'
import { STANDARD_ATMOSPHERE_PA } from '#core/units'
import { asNoted } from '~/samples/in-units'
import { readingOf, useLive } from '~/device/live/live-context'
import { newId } from '~/tape/device'
import { draft } from '~/tape/draft'
import { MeasureInput } from '~/base/ui/measure-field'
import { useReadersUnits, useShow, Value } from '~/base/ui/reader'
import { clockTime, duration } from '~/base/ui/time'
import { VerdictCard } from '~/words/verdict/verdict-card'
import { TESTED_PART_WORDS, inSentence } from '~/words/en'
import { useJob, useJudging } from '~/job/field/job-context'
import { type AskedOfLive, LOW_ASKED, useAsked } from '~/job/live/live-answer'
import { useServerNow } from '~/tape/use-server-now'
import { StartWatch } from '~/job/field/start-watch'
import { useFigure } from '~/job/field/use-figure'

/** Nitrogen on the circuit, or on a part of it: what temperature alone does is taken off, and what is left is judged. */
export function PressureHold() {
  const { state, closed } = useJob()
  const running = state.pressureTests.findLast((each) => !each.end)
  const ended = state.pressureTests.filter((each) => each.end)
  return (
    <section className="stack" aria-label="Nitrogen hold">
      <h3 className="mb-0">Nitrogen hold</h3>
      {ended.map((test) => (
        <Ended key={test.testId} test={test} />
      ))}
      {running ? <Running test={running} /> : !closed && <Start />}
    </section>
  )
}

function Start() {
  const { data, state, note } = useJob()
  const { atmospherePa = STANDARD_ATMOSPHERE_PA } = useReadersUnits()
  const [part, setPart] = useState<TestedPart>('whole')
  const weakest = useFigure('pressure', 'weakest part')
  const pressure = useFigure('pressure', 'nitrogen pressure')
  const temp = useFigure('temperature', 'nitrogen temperature')
  const most = testPressure(data.system?.maxTestPressurePa ?? null, weakest.value, atmospherePa)
  const over = pressure.value !== undefined && pressure.value > most.pressurePa
  const submit = (event: FormEvent) => {
    event.preventDefault()
    const [pressurePa, tempK] = [pressure.want(), temp.want()]
    if (pressurePa === undefined || tempK === undefined) return
    note([
      draft('pressure-test-started', {
        testId: newId(),
        part,
        pressurePa,
        tempK,
        atmospherePa,
        mostPa: most.pressurePa,
      }),
      // What stands on it must not be taken for refrigerant.
      draft('pressure-noted', { point: 'test', pressurePa, atmospherePa }),
    ])
    pressure.clear()
    temp.clear()
  }
  const stillIn = state.episodes.at(-1)!.emptiedAt === undefined
  return (
    <form onSubmit={submit} className="stack" style={{ gap: '0.75rem' }}>
      <p className="mb-0">
        At most{' '}
        <strong className="digits">
          <Value kind="pressure" of={most.pressurePa} />
        </strong>{' '}
        <span className="quiet">
          {most.by === 'plate'
            ? 'by its plate'
            : most.by === 'weakest'
              ? 'by its weakest part'
              : 'since no plate says what it bears: enter its test pressure under Systems'}
          .{' '}
          {stillIn &&
            'With refrigerant in, a trace and nitrogen: what comes out after it is no refrigerant for a cylinder.'}
        </span>
      </p>
      <div className="tap-row" role="group" aria-label="What is tested">
        {TESTED_PARTS.map((each) => (
          <Button
            key={each}
            variant={each === part ? 'primary' : 'outline-primary'}
            aria-pressed={each === part}
            onClick={() => setPart(each)}
          >
            {TESTED_PART_WORDS[each]}
          </Button>
        ))}
      </div>
      <div className="form-grid">
        <MeasureInput
          {...pressure.field}
          label="It stands at"
          {...(over && { error: 'That is more than it bears: let some out before anything else.' })}
        />
        <MeasureInput {...temp.field} label="Pipe temperature" />
        <MeasureInput {...weakest.field} label="Weakest part bears (if less)" />
      </div>
      <FromLive pressure={pressure} temp={temp} />
      <div className="row-of">
        <Button type="submit" className="btn-big">
          Valve shut: start the hold
        </Button>
      </div>
    </form>
  )
}

function Running({ test }: { test: PressureTest }) {
  const { data, state, note, closed } = useJob()
  const judging = useJudging()
  const show = useShow()
  const now = useServerNow(state)
  const pressure = useFigure('pressure', 'nitrogen end pressure')
  const temp = useFigure('temperature', 'nitrogen end temperature')
  const [seen, setSeen] = useState(false)
  const heldS = now === undefined ? 0 : Math.max(0, (now - test.startedAt) / 1000)
  const volume = innerVolume(state, judging)
  const gas = state.refrigerant ? refrigerant(state.refrigerant) : undefined
  const unmoved = { at: test.startedAt, pressurePa: test.pressurePa, tempK: test.tempK }
  const { sigmaPa, leastS } = pressureTestResult({ ...test, end: unmoved })!
  const preview =
    pressure.value !== undefined && temp.value !== undefined
      ? pressureTestResult({
          ...test,
          end: { at: test.startedAt + heldS * 1000, pressurePa: pressure.value, tempK: temp.value },
        })
      : undefined
  const submit = (event: FormEvent) => {
    event.preventDefault()
    setSeen(true)
    const [pressurePa, tempK] = [pressure.want(), temp.want()]
    if (pressurePa === undefined || tempK === undefined) return
    note([
      draft('pressure-test-ended', { testId: test.testId, pressurePa, tempK }),
      // The clock that asked for this has its answer.
      ...clocksOf(state, null)
        .filter((each) => each.what === 'nitrogen')
        .map((each) => draft('watch-ended', { watchId: each.clockId })),
    ])
    pressure.clear()
    temp.clear()
  }
  const hours = (kgPerYear: number) =>
    gas && volume
      ? duration(
          lengthToSeeS(leakFlowOf(kgPerYear, gas.molarMassG), Math.sqrt(volume.least * volume.most), sigmaPa),
        )
      : undefined
  return (
    <div className="stack" style={{ gap: '0.75rem' }}>
      <div className="gauge-row" role="timer" aria-label="Nitrogen hold">
        <div>
          <div className="quiet">{TESTED_PART_WORDS[test.part]}, holding for</div>
          <div className="big">{duration(heldS)}</div>
        </div>
        <div>
          <div className="quiet">Began at</div>
          <div className="big">{show('pressure', test.pressurePa, test.atmospherePa)}</div>
          <div className="quiet">{show('temperature', test.tempK)}</div>
        </div>
      </div>
      {Number.isFinite(leastS) && (
        <p className="mb-0">
          {heldS < leastS ? 'It tells something from' : 'Long enough to tell since'}{' '}
          <strong>{clockTime(test.startedAt + leastS * 1000, data.shop.timeZone)}</strong> on (
          {duration(leastS)}): a leak that lets all of it out in three days has shown by then.
        </p>
      )}
      {hours(1) && (
        <p className="quiet mb-0">
          To see a leak of {show('weight', 1_000_000)} a year it must stand about {hours(1)}; of{' '}
          {show('weight', 100_000)} a year, {hours(0.1)}. Finer ones: detector, bubbles, dye.
        </p>
      )}
      <StartWatch
        what="nitrogen"
        {...(leastS > heldS && Number.isFinite(leastS) && { leastS: leastS - heldS })}
      />
      {!closed && (
        <form onSubmit={submit} className="stack" style={{ gap: '0.75rem' }}>
          <div className="form-grid">
            <MeasureInput {...pressure.field} label="It stands at now" />
            <MeasureInput {...temp.field} label="Pipe temperature now" />
          </div>
          <FromLive pressure={pressure} temp={temp} />
          {preview && !seen && <Result test={test} result={preview} />}
          <div>
            <Button type="submit" className="btn-big">
              End the hold with this
            </Button>
          </div>
        </form>
      )}
    </div>
  )
}

function Ended({ test }: { test: PressureTest }) {
  const { data } = useJob()
  const result = pressureTestResult(test)!
  return (
    <div>
      <p className="quiet mb-1">
        {clockTime(test.startedAt, data.shop.timeZone)}, {inSentence(TESTED_PART_WORDS[test.part])},{' '}
        {duration((test.end!.at - test.startedAt) / 1000)}
      </p>
      <Result test={test} result={result} />
    </div>
  )
}

function Result({
  test,
  result,
}: {
  test: PressureTest
  result: NonNullable<ReturnType<typeof pressureTestResult>>
}) {
  const show = useShow()
  const difference = useDifference()
  const perDay = result.smallestPaPerS * 86_400
  const { code } = result.verdict
  const tells = code === 'pressure-held' || code === 'pressure-lost'
  return (
    <VerdictCard verdict={result.verdict}>
      <p className="mb-0 mt-1">
        Temperature alone makes {show('pressure', result.expectedPa, test.atmospherePa)} of it; it differs by{' '}
        <strong className="digits">{difference(result.changePa)}</strong> ± {difference(2 * result.sigmaPa)}.{' '}
        {tells && (
          <span className="quiet">A loss of {difference(perDay)} a day would have shown in this time.</span>
        )}
      </p>
      {code === 'pressure-lost' && test.part === 'whole' && (
        <p className="mb-0 mt-1">
          To find the side: shut off the condenser, then the evaporator, and hold each.
        </p>
      )}
    </VerdictCard>
  )
}

/** What gauge and clamp show by themselves goes into the fields: seen there, it is noted like anything typed. */
function FromLive({ pressure, temp }: Record<'pressure' | 'temp', ReturnType<typeof useFigure>>) {
  const units = useReadersUnits()
  const show = useShow()
  const low = useAsked(LOW_ASKED)
  const high = useAsked(HIGH_ASKED)
  const gauge = low ?? high
  const live = useLive()
  const source = live?.sources.find((each) => each.inUse && each.channel === 'ambient')
  const clamp = live && source && readingOf(live, source.kitId, 'ambient')
  const spoken = [gauge, clamp].filter((each) => each?.state === 'live')
  if (spoken.length === 0) return null
  const take = () => {
    for (const each of [gauge, clamp]) {
      if (each?.state !== 'live') continue
      const { kind, value } = asNoted(each.source.channel, each.value, units)!
      const field = each === clamp ? temp : pressure
      field.setText(show(kind, value))
    }
  }
  return (
    <div>
      <Button type="button" variant="outline-primary" className="live-key" onClick={take}>
        <span className="live-dot" aria-hidden /> Take what{' '}
        {spoken.map((each) => each!.source.kit).join(' and ')} show
      </Button>
    </div>
  )
}
const HIGH_ASKED: AskedOfLive = { kind: 'reading', point: { kind: 'pressure', point: 'high' } }

/** A difference of pressures in the reader's unit. */
function useDifference() {
  const { units } = useReadersUnits()
  return (pa: number) =>
    units.pressure === 'bar'
      ? `${(pa / 1e5).toFixed(2).replace('-', '−')} bar`
      : `${(pa / 6894.757293).toFixed(1).replace('-', '−')} psi`
}
