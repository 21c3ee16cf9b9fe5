import { type FormEvent } from 'react'
import { Button } from 'react-bootstrap'
import { checkNotes, checkResult, type PressurePoint, type TemperaturePoint } from '#core/tape'
import { formatTemperatureDifference } from '#core/units'
import { type Draft, draft } from '~/tape/use-tape'
import { MeasureInput } from '~/ui/measure-field'
import { useReadersUnits, useShow } from '~/ui/reader'
import { PRESSURE_POINT_WORDS, TEMPERATURE_POINT_WORDS } from '~/wording/en'
import { useGiveVerdict } from '../verdict/give-verdict'
import { useJob } from '../job-context'
import { VerdictOf } from '../verdict/verdict-of'
import { pressureDraft } from '../pressure-draft'
import { useFigure } from './use-figure'

/** The check readings: pressures, temperatures, and what they say together. */
export function Verify() {
  const { state, note, closed } = useJob()
  const { units } = useReadersUnits()
  const give = useGiveVerdict()
  const result = checkResult(state)
  const difference = (k: number | undefined) =>
    k === undefined ? '–' : formatTemperatureDifference(k, units.temperature)
  return (
    <>
      <div className="gauge-row">
        <div>
          <div className="quiet">Superheat</div>
          <div className="hero">{difference(result.superheatK)}</div>
        </div>
        <div>
          <div className="quiet">Subcooling</div>
          <div className="hero">{difference(result.subcoolingK)}</div>
        </div>
      </div>
      <p className="quiet mb-0">
        Only what is noted after the last gas moved counts, and within 10 minutes of each other.
      </p>
      {result.outside && (
        <p className="field-error mb-0">
          A pressure lies outside the table of this refrigerant: above its critical point there is no
          subcooling. Check it, or the refrigerant.
        </p>
      )}
      <VerdictOf about="readings" />
      {!closed && <Readings />}
      {!closed && (
        <div>
          <Button variant="outline-primary" className="btn-big" onClick={() => note(give('readings'))}>
            Judge the readings
          </Button>
        </div>
      )}
    </>
  )
}

function Readings() {
  const { state, note, data } = useJob()
  const vehicle = data.system?.trade === 'vehicle'
  const { pressures: pressureNotes, temperatures: temperatureNotes } = checkNotes(state)
  const reading = useReadersUnits()
  const show = useShow()
  const low = useFigure('pressure', 'check low')
  const high = useFigure('pressure', 'check high')
  const suction = useFigure('temperature', 'check suction')
  const liquid = useFigure('temperature', 'check liquid')
  const ambient = useFigure('temperature', 'check ambient')
  const vent = useFigure('temperature', 'check vent')
  const pressures: [PressurePoint, typeof low][] = [
    ['low', low],
    ['high', high],
  ]
  // Nobody clamps the lines of a vehicle: its vents and the air tell.
  const temperatures: [TemperaturePoint, typeof low][] = vehicle
    ? [
        ['vent', vent],
        ['ambient', ambient],
      ]
    : [
        ['suction', suction],
        ['liquid', liquid],
        ['ambient', ambient],
        ['vent', vent],
      ]
  const submit = (event: FormEvent) => {
    event.preventDefault()
    const drafts: Draft[] = []
    for (const [point, figure] of pressures)
      if (figure.value !== undefined) drafts.push(pressureDraft(point, figure.value, reading))
    for (const [point, figure] of temperatures)
      if (figure.value !== undefined) drafts.push(draft('temperature-noted', { point, tempK: figure.value }))
    if (drafts.length === 0) return
    note(drafts)
    for (const [, figure] of [...pressures, ...temperatures]) if (figure.value !== undefined) figure.clear()
  }
  return (
    <form onSubmit={submit} className="stack" style={{ gap: '0.5rem' }}>
      <div className="form-grid">
        {pressures.map(([point, figure]) => (
          <MeasureInput
            key={point}
            {...figure.field}
            label={PRESSURE_POINT_WORDS[point]}
            help={notedAs(pressureNotes, point, (value, atmospherePa) =>
              show('pressure', value, atmospherePa),
            )}
          />
        ))}
        {temperatures.map(([point, figure]) => (
          <MeasureInput
            key={point}
            {...figure.field}
            label={TEMPERATURE_POINT_WORDS[point]}
            help={notedAs(temperatureNotes, point, (value) => show('temperature', value))}
          />
        ))}
      </div>
      <div>
        <Button type="submit" className="btn-big">
          Note the readings
        </Button>
      </div>
    </form>
  )
}

function notedAs(
  notes: { point: string; value: number; atmospherePa?: number }[],
  point: string,
  say: (value: number, atmospherePa?: number) => string,
): string | undefined {
  const noted = notes.findLast((each) => each.point === point)
  return noted && `noted: ${say(noted.value, noted.atmospherePa)}`
}
