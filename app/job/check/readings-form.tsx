import { type FormEvent } from 'react'
import { Button } from 'react-bootstrap'
import { checkNotes, type PressurePoint, runningNow, type TemperaturePoint } from '#core/tape'
import { type Draft, draft } from '~/tape/draft'
import { MeasureInput } from '~/base/ui/measure-field'
import { useReadersUnits, useShow } from '~/base/ui/reader'
import { PRESSURE_POINT_WORDS, TEMPERATURE_POINT_WORDS } from '~/words/en'
import { useGiveVerdict } from '../verdict/give-verdict'
import { useJob, useJudging } from '../field/job-context'
import { pressureDraft } from '../field/pressure-draft'
import { useFigure } from '../field/use-figure'
import type { Read } from './use-read'

/** What is typed, in the order in which one goes round the machine. */
export function ReadingsForm({ read }: { read: Read }) {
  const { state, note, data } = useJob()
  const { metering } = useJudging()
  const service = runningNow(state)?.service
  const vehicle = service === 'vehicle' || data.system?.trade === 'vehicle'
  const { pressures: pressureNotes, temperatures: temperatureNotes } = checkNotes(state)
  const units = useReadersUnits()
  const show = useShow()
  const give = useGiveVerdict()
  const field = {
    low: useFigure('pressure', 'check low'),
    high: useFigure('pressure', 'check high'),
    suction: useFigure('temperature', 'check suction'),
    liquid: useFigure('temperature', 'check liquid'),
    ambient: useFigure('temperature', 'check ambient'),
    vent: useFigure('temperature', 'check vent'),
    'air-on': useFigure('temperature', 'check air-on'),
    'air-off': useFigure('temperature', 'check air-off'),
    'condenser-off': useFigure('temperature', 'check condenser-off'),
    'wet-bulb': useFigure('temperature', 'check wet-bulb'),
    'drier-in': useFigure('temperature', 'check drier-in'),
    'drier-out': useFigure('temperature', 'check drier-out'),
  }
  const pressures: (PressurePoint & keyof typeof field)[] = ['low', 'high']
  // Nobody clamps the lines of a vehicle: its vents and the air tell.
  const first: (TemperaturePoint & keyof typeof field)[] = vehicle
    ? ['vent', 'ambient']
    : ['suction', 'liquid', 'ambient', ...(service ? (['air-on', 'air-off'] as const) : (['vent'] as const))]
  const more: (TemperaturePoint & keyof typeof field)[] = vehicle
    ? ['liquid', 'condenser-off']
    : ['condenser-off', ...(metering === 'valve' ? [] : (['wet-bulb'] as const)), 'drier-in', 'drier-out']
  const temperatures = [...first, ...more]
  const typed = (): Draft[] => [
    ...pressures.flatMap((point) =>
      field[point].value === undefined ? [] : [pressureDraft(point, field[point].value, units)],
    ),
    ...temperatures.flatMap((point) =>
      field[point].value === undefined
        ? []
        : [draft('temperature-noted', { point, tempK: field[point].value })],
    ),
  ]
  const submit = (event: FormEvent) => {
    event.preventDefault()
    const drafts = typed()
    if (drafts.length === 0) return
    note(drafts)
    for (const point of [...pressures, ...temperatures])
      if (field[point].value !== undefined) field[point].clear()
  }
  const temperature = (point: TemperaturePoint & keyof typeof field) => (
    <MeasureInput
      key={point}
      {...field[point].field}
      label={labelOf(point, vehicle)}
      help={notedAs(temperatureNotes, point, (value) => show('temperature', value))}
    />
  )
  return (
    <form onSubmit={submit} className="stack" style={{ gap: '0.5rem' }}>
      <div className="form-grid">
        {pressures.map((point) => (
          <MeasureInput
            key={point}
            {...field[point].field}
            label={PRESSURE_POINT_WORDS[point]}
            help={notedAs(pressureNotes, point, (value, atmospherePa) =>
              show('pressure', value, atmospherePa),
            )}
          />
        ))}
        {first.map(temperature)}
      </div>
      {service && (
        <details open={more.some((point) => !field[point].empty)}>
          <summary>More that tells causes apart</summary>
          <div className="form-grid mt-2">{more.map(temperature)}</div>
        </details>
      )}
      <div className="row-of">
        <Button type="submit" className="btn-big">
          Note the readings
        </Button>
        {read.live && (
          <Button variant="outline-primary" className="live-key" onClick={() => note(read.noteLive())}>
            <span className="live-dot" aria-hidden /> Note what the instruments say
          </Button>
        )}
        <Button variant="outline-primary" className="btn-big" onClick={() => note(give('readings'))}>
          Judge the readings
        </Button>
      </div>
    </form>
  )
}

const labelOf = (point: TemperaturePoint, vehicle: boolean) =>
  vehicle && point === 'vent'
    ? 'Centre vent'
    : vehicle && point === 'ambient'
      ? 'Air going in'
      : TEMPERATURE_POINT_WORDS[point]

function notedAs(
  notes: { point: string; value: number; atmospherePa?: number }[],
  point: string,
  say: (value: number, atmospherePa?: number) => string,
): string | undefined {
  const noted = notes.findLast((each) => each.point === point)
  return noted && `noted: ${say(noted.value, noted.atmospherePa)}`
}
