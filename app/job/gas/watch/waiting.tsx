import type { FormEvent } from 'react'
import { Button } from 'react-bootstrap'
import { type At, judgeWait, type Wait } from '#core/recovery'
import { clocksOf, type Transfer } from '#core/tape'
import { MG_PER_KG, PA_PER_BAR, PA_PER_PSI, STANDARD_ATMOSPHERE_PA } from '#core/units'
import { waitedAfter, waitOf } from '#core/watching'
import { asNoted } from '~/samples/in-units'
import { sampleOf } from '~/device/live/live-context'
import { serverNow } from '~/tape/device'
import { useServerNow } from '~/tape/use-server-now'
import { draft, readOff } from '~/tape/draft'
import { MeasureInput } from '~/base/ui/measure-field'
import { useReadersUnits, useShow } from '~/base/ui/reader'
import { duration } from '~/base/ui/time'
import { VerdictCard } from '~/words/verdict/verdict-card'
import { Drawn } from '~/base/ui/drawing/drawn'
import type { ReboundInput } from '~/job/chart/rebound-drawing'
import { useJob } from '~/job/field/job-context'
import { LOW_ASKED, useAsked } from '~/job/live/live-answer'
import { pressureDraft } from '~/job/field/pressure-draft'
import { StartWatch } from '~/job/field/start-watch'
import { useFigure } from '~/job/field/use-figure'
import { useJudgedNow } from '~/job/moving/use-place'

/** After a pull: the valve is shut, one waits, and the pressure says what comes next. */
export function Waiting() {
  const { state } = useJob()
  const pull = waitedAfter(state)
  return pull ? <WaitingAfter key={pull.transferId} pull={pull} /> : null
}

interface Seen {
  wait: Wait
  low: readonly At[]
  levelPa: number
  nowS: number
}

function WaitingAfter({ pull }: { pull: Transfer & { endedAt: number } }) {
  const { state, data, closed } = useJob()
  const show = useShow()
  const now = useServerNow(state) ?? data.loadedAt
  const { wait, low, levelPa, nowS } = useJudgedNow(state, null, (lines, place): Seen => {
    const asked = waitOf(state, pull, lines, place)
    return { wait: judgeWait(asked), low: asked.low, levelPa: asked.levelPa, nowS: asked.nowS }
  })
  const clock = clocksOf(state, null).find((each) => each.what === 'pull')
  const since = low.filter(({ atS }) => atS >= 0)
  return (
    <section className="stack waiting" aria-label="Stop, wait, look again">
      <div className="spread">
        <h3 className="mb-0">Stop, wait, look again</h3>
        <span role="timer" className="big digits">
          {clock?.dueAt ? dueWords(clock.dueAt, now) : `${duration(nowS)} since the stop`}
        </span>
      </div>
      {!closed && !clock && <StartWatch what="pull" />}
      <VerdictCard verdict={wait.verdict}>
        {wait.returnedKg && wait.nextKg && wait.nextKg.most > 0 && (
          <p className="mb-0 mt-1">
            Returned about {range(wait.returnedKg, show)}; another pull would bring {range(wait.nextKg, show)}
            . <span className="quiet">Reckoned from the charge: 3 to 7 litres a kilogram.</span>
          </p>
        )}
      </VerdictCard>
      {since.length > 1 && <Curve low={since} levelPa={levelPa} nowS={nowS} />}
      {!closed && <NoteLow />}
    </section>
  )
}

function dueWords(dueAt: number, now: number): string {
  return dueAt > now
    ? `${duration((dueAt - now) / 1000)} left`
    : `due since ${duration((now - dueAt) / 1000)}`
}

function range({ least, most }: { least: number; most: number }, show: ReturnType<typeof useShow>): string {
  const of = (kg: number) => show('weight', Math.round(kg * 1_000) * (MG_PER_KG / 1_000))
  return of(least) === of(most) ? of(most) : `${of(least)} to ${of(most)}`
}

const loadRebound = () => import('~/job/chart/rebound-drawing').then(({ reboundIn }) => reboundIn)
/** No more points than there is room for. */
const DRAWN = 150

function Curve({ low, levelPa, nowS }: { low: readonly At[]; levelPa: number; nowS: number }) {
  const { units, atmospherePa = STANDARD_ATMOSPHERE_PA } = useReadersUnits()
  const show = useShow()
  const bar = units.pressure === 'bar'
  const gauge = (pa: number) => (pa - atmospherePa) / (bar ? PA_PER_BAR : PA_PER_PSI)
  const every = Math.max(1, Math.ceil(low.length / DRAWN))
  const input: ReboundInput = {
    points: low
      .filter((_, i) => i % every === 0 || i === low.length - 1)
      .map(({ atS, value }) => [atS / 60, gauge(value)] as const),
    level: gauge(levelPa),
    levelName: 'down to here',
    unit: bar ? 'bar g' : 'psig',
    until: Math.max(10, Math.ceil(nowS / 60)),
    noted: low.length <= 20,
  }
  const label = `Low side since the stop: from ${show('pressure', low[0]!.value)} to ${show('pressure', low.at(-1)!.value)}`
  return <Drawn className="rebound" label={label} input={input} load={loadRebound} />
}

/** What the gauge reads now: typed, or taken from one that speaks. It ends the clock, where that is due. */
function NoteLow() {
  const { state, note } = useJob()
  const units = useReadersUnits()
  const show = useShow()
  const figure = useFigure('pressure', 'low while waiting')
  const live = useAsked(LOW_ASKED)
  const clock = clocksOf(state, null).find((each) => each.what === 'pull')
  const ends = () =>
    clock?.dueAt && clock.dueAt <= serverNow(state) ? [draft('watch-ended', { watchId: clock.clockId })] : []
  const submit = (event: FormEvent) => {
    event.preventDefault()
    const value = figure.want()
    if (value === undefined) return
    note([pressureDraft('low', value, units), ...ends()])
    figure.clear()
  }
  const spoken = live?.state === 'live' ? asNoted('low', live.value, units) : undefined
  return (
    <form onSubmit={submit} className="row-of note-low">
      <div className="field-grow">
        <MeasureInput {...figure.field} label="The low side reads" />
      </div>
      <Button type="submit" variant="outline-primary" className="btn-big">
        Note it
      </Button>
      {live && spoken && (
        <Button
          className="live-key btn-big"
          onClick={() =>
            note([readOff(pressureDraft('low', spoken.value, units), sampleOf(live)), ...ends()])
          }
        >
          <span className="live-dot" aria-hidden /> Note{' '}
          <strong className="digits">{show('pressure', spoken.value)}</strong>
        </Button>
      )}
    </form>
  )
}
