import { type FormEvent, useState } from 'react'
import { Button } from 'react-bootstrap'
import { judgeAtRest } from '#core/identity'
import { clampAt, gaugeAt, type JobState, type PressurePoint, type TemperaturePoint } from '#core/tape'
import { draft } from '~/tape/draft'
import { MeasureInput } from '~/base/ui/measure-field'
import { useReadersUnits, useShow } from '~/base/ui/reader'
import { REST_WORDS } from '~/words/en'
import { useJob } from '~/job/field/job-context'
import { pressureDraft } from '~/job/field/pressure-draft'
import { useFigure } from '~/job/field/use-figure'

/** What is at rest, and where its two readings are noted. */
const VESSELS = {
  system: { title: 'The system, off and at rest', pressure: 'high', temperature: 'ambient' },
  cylinder: { title: 'The cylinder, at rest', pressure: 'cylinder', temperature: 'cylinder' },
} as const satisfies Record<string, { title: string; pressure: PressurePoint; temperature: TemperaturePoint }>
type Vessel = keyof typeof VESSELS
/** Readings that belong together. */
const TOGETHER_MS = 10 * 60_000

/** Is it what the plate says, and what the label on the cylinder says? By pressure and temperature at rest. */
export function AtRest() {
  return (
    <details className="at-rest">
      <summary>Is it what it is said to be? Pressure and temperature at rest</summary>
      <div className="side-by-side">
        <VesselAtRest vessel="system" />
        <VesselAtRest vessel="cylinder" />
      </div>
    </details>
  )
}

function VesselAtRest({ vessel }: { vessel: Vessel }) {
  const { state, note, closed } = useJob()
  const units = useReadersUnits()
  const { title, pressure, temperature } = VESSELS[vessel]
  const p = useFigure('pressure', `rest ${vessel} pressure`)
  const t = useFigure('temperature', `rest ${vessel} temperature`)
  const submit = (event: FormEvent) => {
    event.preventDefault()
    const [pressurePa, tempK] = [p.want(), t.want()]
    if (pressurePa === undefined || tempK === undefined) return
    note([
      pressureDraft(pressure, pressurePa, units),
      draft('temperature-noted', { point: temperature, tempK }),
    ])
    p.clear()
    t.clear()
  }
  return (
    <div className="stack">
      <strong>{title}</strong>
      <RestVerdictLine state={state} vessel={vessel} />
      {!closed && (
        <form onSubmit={submit} className="stack">
          <MeasureInput {...p.field} label={vessel === 'system' ? 'Either side reads' : 'Its pressure'} />
          <MeasureInput {...t.field} label={vessel === 'system' ? 'Air around it' : 'Its temperature'} />
          <div>
            <Button type="submit" variant="outline-primary">
              Note both
            </Button>
          </div>
        </form>
      )}
    </div>
  )
}

function RestVerdictLine({ state, vessel }: { state: JobState; vessel: Vessel }) {
  const show = useShow()
  const [all, setAll] = useState(false)
  const { pressure, temperature } = VESSELS[vessel]
  // Of the system only what was noted before anything was pulled: after that it is no more at rest.
  const before = state.transfers[0]?.startedAt ?? Infinity
  const counts = ({ at }: { at: number }) => vessel === 'cylinder' || at < before
  const p = state.pressureNotes.findLast((each) => each.point === pressure && counts(each))
  const t = state.temperatureNotes.findLast((each) => each.point === temperature && counts(each))
  if (!p || !t || Math.abs(p.at - t.at) > TOGETHER_MS) return null
  const found = judgeAtRest(
    {
      pressurePa: p.value,
      tempK: t.value,
      gaugePa: gaugeAt(state, p.at).value,
      clampK: clampAt(state, t.at).value,
    },
    state.refrigerant,
  )
  const { says, helps } = REST_WORDS[found.code]
  const shown = all ? found.others : found.others.slice(0, 4)
  const good = found.code === 'rest-sure' || found.code === 'rest-not-told-apart'
  return (
    <div className={`verdict ${good ? 'verdict-good' : 'verdict-caution'}`} role="status">
      <strong>{says}</strong>
      <p className="mb-1">{helps}</p>
      <p className="mb-0 quiet">
        It reads {show('pressure', p.value, p.atmospherePa)} at {show('temperature', t.value)}
        {found.saturationPa !== undefined &&
          `; ${state.refrigerant} with liquid: ${show('pressure', found.saturationPa)} ± ${show('pressure-difference', 2 * found.sigmaPa!)}`}
        .{' '}
        {found.air &&
          `As air that would be ${show('pressure-difference', found.air.airPa)}, ${(100 * found.air.ofVapour).toFixed(0)} % of the vapour. `}
        {shown.length > 0 &&
          `${found.code === 'rest-above' ? 'Others that would fit' : 'Like it here'}: ${shown.join(', ')}`}
        {found.others.length > shown.length && (
          <Button variant="link" className="p-0 ms-1" onClick={() => setAll(true)}>
            and {found.others.length - shown.length} more
          </Button>
        )}
      </p>
    </div>
  )
}
