import { baselineOf, baselineReadings, figuresRead, runningNow, serviceFacts } from '#core/tape'
import { formatTemperatureDifference, STANDARD_ATMOSPHERE_PA } from '#core/units'
import { type Derived, type ShownFigure, type Healthy, healthyRange, type RangedFigure } from '#core/verify'
import { useReadersUnits, useShow } from '~/base/ui/reader'
import { WideTable } from '~/base/ui/wide-table'
import { QUANTITY_WORDS, VERDICT_WORDS, wordOf } from '~/words/en'
import { useJob, useJudging } from '../field/job-context'
import type { Read } from './use-read'

const HEROES = ['superheat', 'subcooling'] as const
const ORDER: ShownFigure[] = [
  'superheat',
  'subcooling',
  'td',
  'over-ambient',
  'air-drop',
  'low-gauge',
  'vent-drop',
  'approach',
  'air-rise-share',
  'drier-drop',
]
/** What a gauge of a vehicle shows needs no second name for others: they read TD. */
const VEHICLE_ONLY: ShownFigure[] = ['low-gauge', 'vent-drop']

/** Superheat and subcooling, large, each with what it should be. */
export function Heroes({ read }: { read: Read }) {
  const { state } = useJob()
  const figures = figuresRead(state, read.readings)
  const range = useRange()
  const say = useSay()
  const vehicle = runningNow(state)?.service === 'vehicle'
  const shown: ShownFigure[] = vehicle ? ['vent-drop', 'over-ambient'] : [...HEROES]
  return (
    <div className="gauge-row">
      {shown.map((name) => {
        const found = figures[name]
        const healthy = range(name)
        return (
          <div key={name}>
            <div className="quiet">
              {read.live && <span className="live-dot" aria-hidden />} {QUANTITY_WORDS[name]}
            </div>
            <div className="hero">{found ? say(name, found.value) : '–'}</div>
            <div className="quiet">
              {found && `± ${say(name, 2 * found.sigma)}`}
              {healthy && `${found ? ', ' : ''}healthy ${span(healthy, name, say)}`}
            </div>
          </div>
        )
      })}
    </div>
  )
}

/** Every figure against its healthy range, and what it was before the work. */
export function Figures({ read }: { read: Read }) {
  const { state } = useJob()
  const range = useRange()
  const say = useSay()
  const now = figuresRead(state, read.readings)
  const before = figuresRead(state, baselineReadings(state))
  const service = runningNow(state)?.service
  const shown = ORDER.filter(
    (name) =>
      (now[name] ?? before[name]) !== undefined &&
      (VEHICLE_ONLY.includes(name) === (service === 'vehicle') || range(name) === undefined || !service) &&
      (service === 'vehicle' || !VEHICLE_ONLY.includes(name)),
  )
  const hasBefore = Object.keys(before).length > 0
  const said = baselineOf(state, useJudging())
  if (shown.length === 0) return null
  return (
    <>
      {said && <p className="mb-0 quiet">Before the work: {wordOf(VERDICT_WORDS, said.verdict.code)}</p>}
      <WideTable label="Figures against what is healthy">
        <thead>
          <tr>
            <th>Figure</th>
            {hasBefore && <th className="number">Before</th>}
            <th className="number">Now</th>
            <th className="number">Healthy</th>
            <th>
              <span className="visually-hidden">Where it lies</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {shown.map((name) => {
            const healthy = range(name)
            const found = now[name]
            return (
              <tr key={name}>
                <th scope="row">{QUANTITY_WORDS[name]}</th>
                {hasBefore && (
                  <td className="number">{before[name] ? say(name, before[name].value) : '–'}</td>
                )}
                <td className="number">
                  <strong>{found ? say(name, found.value) : '–'}</strong>
                </td>
                <td className="number quiet">{healthy ? span(healthy, name, say) : ''}</td>
                <td>{found && healthy && <Where found={found} healthy={healthy} />}</td>
              </tr>
            )
          })}
        </tbody>
      </WideTable>
    </>
  )
}

/** Below, in or above its range, in a word and a bar. */
function Where({ found: { value }, healthy: { least, most } }: { found: Derived; healthy: Healthy }) {
  const word = value < least ? 'low' : value > most ? 'high' : 'in it'
  const wide = most - least
  // The range in the middle half of the bar.
  const at = Math.max(0, Math.min(1, 0.25 + (0.5 * (value - least)) / wide))
  return (
    <span className={`where where-${value < least ? 'down' : value > most ? 'up' : 'in'}`}>
      <span className="where-bar" aria-hidden>
        <span className="where-mark" style={{ left: `${100 * at}%` }} />
      </span>
      {word}
    </span>
  )
}

function useRange(): (name: ShownFigure) => Healthy | undefined {
  const { state } = useJob()
  const judging = useJudging()
  const service = runningNow(state)?.service
  if (!service) return () => undefined
  const facts = serviceFacts(state, service, judging)
  return (name) => healthyRange(name as RangedFigure, facts)
}

function useSay(): (name: ShownFigure, value: number) => string {
  const { units, atmospherePa = STANDARD_ATMOSPHERE_PA } = useReadersUnits()
  const show = useShow()
  return (name, value) => {
    if (name === 'low-gauge') return show('pressure', value + atmospherePa)
    if (name === 'air-rise-share') return `${Math.round(100 * value)} %`
    return formatTemperatureDifference(value, units.temperature)
  }
}

const span = (
  { least, most }: Healthy,
  name: ShownFigure,
  say: (name: ShownFigure, value: number) => string,
) => `${say(name, least)} to ${say(name, most)}`
