import { type FormEvent } from 'react'
import { Button, Form } from 'react-bootstrap'
import { runningNow } from '#core/tape'
import { draft } from '~/tape/draft'
import { MeasureInput } from '~/base/ui/measure-field'
import { useReadersUnits, useShow } from '~/base/ui/reader'
import { duration } from '~/base/ui/time'
import { useJob } from '../field/job-context'
import { useFigure, useWordsTyped } from '../field/use-figure'

/** Checks that are no reading of a running system: at rest, at the supply, over a whole cycle. */
export function Further() {
  const { state } = useJob()
  const service = runningNow(state)?.service
  return (
    <>
      <details>
        <summary>Off and equalised: is there air in it?</summary>
        <Standing />
      </details>
      {service !== 'vehicle' && (
        <details>
          <summary>Supply voltage and current</summary>
          <Supply />
        </details>
      )}
      {(service === 'freezer' || service === 'cold-store') && (
        <details>
          <summary>A whole cycle</summary>
          <Cycle />
        </details>
      )}
    </>
  )
}

function Standing() {
  const { state, note } = useJob()
  const pressure = useFigure('pressure', 'standing pressure')
  const temp = useFigure('temperature', 'standing temperature')
  const { atmospherePa } = useReadersUnits()
  const show = useShow()
  const last = state.standing.at(-1)
  const submit = (event: FormEvent) => {
    event.preventDefault()
    const [pressurePa, tempK] = [pressure.want(), temp.want()]
    if (pressurePa === undefined || tempK === undefined) return
    note([
      draft('standing-noted', {
        pressurePa,
        tempK,
        ...(atmospherePa !== undefined && { atmospherePa: Math.round(atmospherePa) }),
      }),
    ])
    pressure.clear()
    temp.clear()
  }
  return (
    <form onSubmit={submit} className="stack mt-2" style={{ gap: '0.5rem' }}>
      <p className="mb-0 quiet">
        Switch it off, let both sides equalise and everything come to the air’s temperature, out of the sun;
        then read one pressure and the coil.
      </p>
      <div className="form-grid">
        <MeasureInput
          {...pressure.field}
          label="Pressure at rest"
          help={last && `noted: ${show('pressure', last.pressurePa)}`}
        />
        <MeasureInput
          {...temp.field}
          label="Coil at rest"
          help={last && `noted: ${show('temperature', last.tempK)}`}
        />
      </div>
      <div>
        <Button type="submit" variant="outline-primary">
          Note it
        </Button>
      </div>
    </form>
  )
}

/** A plain number with a point or a comma; undefined: none. */
const plainNumber = (text: string): number | undefined => {
  const value = Number(text.trim().replace(',', '.'))
  return text.trim() === '' || !Number.isFinite(value) || value < 0 ? undefined : value
}

function Supply() {
  const { state, note } = useJob()
  const [volts, setVolts] = useWordsTyped('volts')
  const [amps, setAmps] = useWordsTyped('amps')
  const last = state.supply.at(-1)
  const [voltsRead, ampsRead] = [plainNumber(volts), plainNumber(amps)]
  const wrong = [volts, amps].some((text) => text.trim() !== '' && plainNumber(text) === undefined)
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (wrong || (voltsRead === undefined && ampsRead === undefined)) return
    note([
      draft('supply-noted', {
        ...(voltsRead !== undefined && { volts: voltsRead }),
        ...(ampsRead !== undefined && { amps: ampsRead }),
      }),
    ])
    setVolts('')
    setAmps('')
  }
  return (
    <form onSubmit={submit} className="row-of mt-2" style={{ alignItems: 'end' }}>
      <Form.Group className="field">
        <Form.Label htmlFor="volts">Volts while it runs</Form.Label>
        <Form.Control
          id="volts"
          inputMode="decimal"
          value={volts}
          onChange={(e) => setVolts(e.target.value)}
        />
      </Form.Group>
      <Form.Group className="field">
        <Form.Label htmlFor="amps">Amperes</Form.Label>
        <Form.Control id="amps" inputMode="decimal" value={amps} onChange={(e) => setAmps(e.target.value)} />
      </Form.Group>
      <Button type="submit" variant="outline-primary">
        Note it
      </Button>
      {wrong && <span className="field-error">Plain numbers: 230 or 4,5.</span>}
      {last && (
        <span className="quiet">
          noted:{' '}
          {[last.volts !== undefined && `${last.volts} V`, last.amps !== undefined && `${last.amps} A`]
            .filter(Boolean)
            .join(', ')}
        </span>
      )}
    </form>
  )
}

function Cycle() {
  const { state, note } = useJob()
  const show = useShow()
  const [ran, setRan] = useWordsTyped('cycle ran')
  const [stood, setStood] = useWordsTyped('cycle stood')
  const [defrosted, setDefrosted] = useWordsTyped('cycle defrost')
  const coldest = useFigure('temperature', 'cycle coldest')
  const [runMin, offMin, defrostMin] = [plainNumber(ran), plainNumber(stood), plainNumber(defrosted)]
  const missing = runMin === undefined || offMin === undefined
  const submit = (event: FormEvent) => {
    event.preventDefault()
    if (missing) return
    note([
      draft('cycle-noted', {
        runS: Math.round(60 * runMin),
        offS: Math.round(60 * offMin),
        ...(defrostMin !== undefined && { defrostS: Math.round(60 * defrostMin) }),
        ...(coldest.value !== undefined && { coldestK: coldest.value }),
      }),
    ])
    setRan('')
    setStood('')
    setDefrosted('')
    coldest.clear()
  }
  const minutes = (id: string, label: string, value: string, set: (text: string) => void) => (
    <Form.Group className="field">
      <Form.Label htmlFor={id}>{label}</Form.Label>
      <Form.Control id={id} inputMode="decimal" value={value} onChange={(e) => set(e.target.value)} />
    </Form.Group>
  )
  return (
    <form onSubmit={submit} className="stack mt-2" style={{ gap: '0.5rem' }}>
      <p className="mb-0 quiet">From one start to the next, in minutes. Not the one after a defrost.</p>
      <div className="form-grid">
        {minutes('cycle-ran', 'Ran, min', ran, setRan)}
        {minutes('cycle-stood', 'Stood, min', stood, setStood)}
        {minutes('cycle-defrost', 'Defrost, min (may stay empty)', defrosted, setDefrosted)}
        <MeasureInput {...coldest.field} label="Coldest air" />
      </div>
      <div className="row-of">
        <Button type="submit" variant="outline-primary" disabled={missing}>
          Note the cycle
        </Button>
        {missing && (ran !== '' || stood !== '') && (
          <span className="quiet">How long it ran and how long it stood, both in minutes.</span>
        )}
      </div>
      {state.cycles.map((cycle) => (
        <p key={cycle.at} className="mb-0 quiet">
          Ran {duration(cycle.runS)}, stood {duration(cycle.offS)}: it runs{' '}
          {Math.round((100 * cycle.runS) / Math.max(1, cycle.runS + cycle.offS))} % of the time
          {cycle.coldestK !== undefined && `, down to ${show('temperature', cycle.coldestK)}`}
        </p>
      ))}
    </form>
  )
}
