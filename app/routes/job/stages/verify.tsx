import { type FormEvent } from 'react'
import { Button } from 'react-bootstrap'
import { OutOfRangeError, tableOf } from '#core/refrigerants'
import type { JobState, PressurePoint, TemperaturePoint } from '#core/tape'
import { formatTemperatureDifference } from '#core/units'
import { type CheckResult, judgeReadings, superheatAndSubcooling } from '#core/verify'
import { type Draft, draft } from '~/tape/use-tape'
import { MeasureInput } from '~/ui/measure-field'
import { useReading, useShow } from '~/ui/reader'
import { PRESSURE_POINT_WORDS, TEMPERATURE_POINT_WORDS } from '~/wording/en'
import { useJob } from '../job-context'
import { giveVerdict } from '../give-verdict'
import { VerdictOf } from '../verdict-of'
import { useFigure } from './use-figure'

/** The check readings: pressures, temperatures, and what they say together. */
export function Verify() {
  const { state, note, closed } = useJob()
  const { units } = useReading()
  const result = resultOf(state)
  const judge = () => {
    const { system } = job.data
    const verdict = judgeReadings(
      result ?? {},
      system?.metering ?? 'unknown',
      system?.subcoolingTargetK ?? null,
    )
    note([giveVerdict('readings', verdict)])
  }
  const job = useJob()
  const difference = (k: number | undefined) =>
    k === undefined ? '–' : formatTemperatureDifference(k, units.temperature)
  return (
    <>
      <div className="gauge-row">
        <div>
          <div className="quiet">Superheat</div>
          <div className="hero">{difference(result?.superheatK)}</div>
        </div>
        <div>
          <div className="quiet">Subcooling</div>
          <div className="hero">{difference(result?.subcoolingK)}</div>
        </div>
      </div>
      {!result && (
        <p className="field-error mb-0">
          A pressure lies outside the table of this refrigerant: check it, or the refrigerant.
        </p>
      )}
      <VerdictOf about="readings" />
      {!closed && <Readings />}
      {!closed && (
        <div>
          <Button variant="outline-primary" className="btn-big" onClick={judge}>
            Judge the readings
          </Button>
        </div>
      )}
    </>
  )
}

function Readings() {
  const { state, note } = useJob()
  const show = useShow()
  const low = useFigure('pressure')
  const high = useFigure('pressure')
  const suction = useFigure('temperature')
  const liquid = useFigure('temperature')
  const ambient = useFigure('temperature')
  const vent = useFigure('temperature')
  const pressures: [PressurePoint, typeof low][] = [
    ['low', low],
    ['high', high],
  ]
  const temperatures: [TemperaturePoint, typeof low][] = [
    ['suction', suction],
    ['liquid', liquid],
    ['ambient', ambient],
    ['vent', vent],
  ]
  const submit = (event: FormEvent) => {
    event.preventDefault()
    const drafts: Draft[] = []
    for (const [point, figure] of pressures)
      if (figure.value !== undefined)
        drafts.push(draft('pressure-noted', { point, pressurePa: figure.value }))
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
            help={state.pressures[point] && `noted: ${show('pressure', state.pressures[point].value)}`}
          />
        ))}
        {temperatures.map(([point, figure]) => (
          <MeasureInput
            key={point}
            {...figure.field}
            label={TEMPERATURE_POINT_WORDS[point]}
            help={
              state.temperatures[point] && `noted: ${show('temperature', state.temperatures[point].value)}`
            }
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

/** @returns undefined when a pressure lies outside the refrigerant's table */
export function resultOf(state: JobState): CheckResult | undefined {
  if (!state.refrigerant) return {}
  const { pressures, temperatures } = state
  try {
    return superheatAndSubcooling(
      {
        ...(pressures.low && { lowPa: pressures.low.value }),
        ...(pressures.high && { highPa: pressures.high.value }),
        ...(temperatures.suction && { suctionK: temperatures.suction.value }),
        ...(temperatures.liquid && { liquidK: temperatures.liquid.value }),
      },
      tableOf(state.refrigerant),
    )
  } catch (error) {
    if (error instanceof OutOfRangeError) return undefined
    throw error
  }
}
