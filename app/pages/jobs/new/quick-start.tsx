import { useRef, useState } from 'react'
import { Button } from 'react-bootstrap'
import { grossLimitMg, nearLabels } from '#core/cylinders'
import { askAboutStart } from '#core/tape'
import { askOrLook } from '~/device/page/ask-or-look'
import { Question } from '~/tape/question'
import { useQuestion } from '~/tape/use-question'
import type { JobKit } from '~/kit/job-kit'
import type { Refused } from '~/base/form/read.server'
import { Field, SelectField } from '~/base/ui/field'
import { measure, typed } from '~/base/ui/measure'
import { MeasureField, MeasureInput } from '~/base/ui/measure-field'
import { useReadersUnits } from '~/base/ui/reader'
import { sampleText } from '~/samples/sample-field'
import { TakeLive, useTaken } from '~/device/live/take-live'
import type { Tile } from '~/cylinders/tile'
import { Tiles } from './tiles'

interface QuickStartProps {
  tiles: Tile[]
  /** The shop's scales; the one in the person's van is taken as the usual one. */
  scales: JobKit[]
  /** Scales that weigh for a job that runs. */
  weighing: string[]
  van: string
  refrigerants: readonly string[]
  marginPct: number
  refused: Refused | undefined
  /** Carried here from the slide rule. */
  carried: { refrigerant: string; cylinder: string }
  newId: string
  busy: boolean
}

/** From the roof: tap the cylinder that stands on the scale, look whether the scale shows what it should, go. */
export function QuickStart(props: QuickStartProps) {
  const { refrigerants, marginPct, refused, carried, newId, busy, scales, weighing, van } = props
  const reading = useReadersUnits()
  const was = refused?.typed
  const [found, setFound] = useState<Tile[]>([])
  const all = [
    ...props.tiles,
    ...found.filter((each) => !props.tiles.some((t) => t.cylinderId === each.cylinderId)),
  ]
  const latest = useRef('')
  const [label, setLabel] = useState(was?.cylinder ?? carried.cylinder)
  const [pickedId, setPickedId] = useState(
    was?.cylinderId || labelled(all, was?.cylinder ?? carried.cylinder)?.cylinderId,
  )
  const picked = all.find((each) => each.cylinderId === pickedId)
  const [gas, setGas] = useState(was?.refrigerant ?? (carried.refrigerant || (picked?.refrigerant ?? '')))
  const gasChosen = useRef((was?.refrigerant ?? carried.refrigerant) !== '')
  const [weight, setWeight] = useState(
    was?.startWeight ?? (picked ? typed('weight', picked.expectedMg, reading) : ''),
  )
  // As they are when an answer arrives, not as they were when it was asked for.
  const weightTyped = useRef(was?.startWeight !== undefined && was.startWeight !== '')
  const [scaleId, setScaleId] = useState(was?.scaleId ?? usualScale(scales, van, weighing))
  const taken = useTaken((text) => {
    setWeight(text)
    weightTyped.current = true
  }, scaleId)
  const [mode, setMode] = useState(was?.mode ?? 'gross')
  const sure = useRef<HTMLInputElement>(null)
  const go = useRef<HTMLButtonElement>(null)

  // Of another gas the rules will say that it may not take it: its weight is no question then.
  const fitting = !picked?.refrigerant || gas === '' || gas === picked.refrigerant
  const measured = measure('weight', weight, reading)
  const weightMg = measured.kind === 'one' ? measured.value : undefined
  const { question, mayNote } = useQuestion(
    mode === 'gross' && picked && fitting ? weightMg : undefined,
    (mg) =>
      picked &&
      askAboutStart('recover', mg, {
        tareMg: picked.tareMg,
        bookedMg: picked.expectedMg,
        limitMg: grossLimitMg(picked, gas || picked.refrigerant, marginPct),
      }),
  )
  const take = (tile: Tile | undefined) => {
    setPickedId(tile?.cylinderId)
    if (!tile) return
    // What somebody has chosen stays: that it is another gas is for the rules to say.
    if (tile.refrigerant && !gasChosen.current) setGas(tile.refrigerant)
    // What was typed is what the scale shows, whichever cylinder it is.
    if (!weightTyped.current) setWeight(typed('weight', tile.expectedMg, reading))
  }
  const pick = (tile: Tile) => {
    setLabel('')
    take(tile)
  }
  const search = async (text: string) => {
    setLabel(text)
    latest.current = text
    const known = labelled(all, text)
    if (known?.cylinderId !== pickedId) take(known)
    if (known || text.trim() === '') return
    const answer = await askOrLook<{ tiles: Tile[] }>(
      `/cylinders/find?as=tiles&label=${encodeURIComponent(text.trim())}`,
      () => import('~/device/known/looks').then((each) => each.tilesLike),
    )
    // An answer to what was typed before comes too late.
    if (!answer || latest.current !== text) return
    setFound(answer.tiles)
    const there = labelled(answer.tiles, text)
    if (there) take(there)
  }
  const shown = label.trim() === '' ? all : nearLabels(all, label)
  const nobody = label.trim() !== '' && !picked && shown.length === 0
  const confirm = () => {
    sure.current!.value = String(weightMg)
    go.current!.form!.requestSubmit(go.current)
  }
  return (
    <fieldset className="group quick-start">
      <legend>Tap the cylinder on the scale</legend>
      <input type="hidden" name="sure" ref={sure} defaultValue={refused?.errors.sure ?? ''} />
      <input type="hidden" name="newId" value={newId} />
      <label className="visually-hidden" htmlFor="quick-label">
        Label of the cylinder on the scale
      </label>
      <input
        id="quick-label"
        name="cylinder"
        className="form-control mb-2"
        placeholder="or type its label: gul 4"
        value={label}
        maxLength={80}
        autoComplete="off"
        onChange={(event) => void search(event.target.value)}
      />
      {refused?.errors.cylinder && (
        <p className="field-error mb-2" role="alert">
          {refused.errors.cylinder}
        </p>
      )}
      <Tiles tiles={shown} picked={pickedId} pick={pick} />
      {(nobody || was?.tare) && (
        <div className="new-cylinder">
          <p className="mb-1">
            <strong>{label}</strong> is not in the rack: add it here, from its collar.
          </p>
          <div className="form-grid">
            <MeasureField
              name="tare"
              kind="weight"
              label="Tare weight (TW)"
              value={was?.tare}
              error={refused?.errors.tare}
            />
            <MeasureField
              name="waterCapacity"
              kind="weight"
              label="Water capacity (WC)"
              value={was?.waterCapacity}
              error={refused?.errors.waterCapacity}
            />
            <Field
              name="testedOn"
              label="Tested, month and year"
              value={was?.testedOn}
              error={refused?.errors.testedOn}
              help="As stamped: 03/25"
            />
            <MeasureField
              name="servicePressure"
              kind="pressure"
              label="Service pressure"
              value={was?.servicePressure}
              error={refused?.errors.servicePressure}
            />
          </div>
        </div>
      )}
      <div className="quick-go">
        <div className={picked?.refrigerant && fitting ? 'gas known' : 'gas'}>
          <SelectField
            key={`${pickedId} ${gas}`}
            name="refrigerant"
            label="Refrigerant"
            value={gas}
            error={refused?.errors.refrigerant}
            options={[['', 'Not known yet'], ...refrigerants.map((r): [string, string] => [r, r])]}
            onChange={(next) => {
              setGas(next)
              gasChosen.current = next !== ''
            }}
          />
        </div>
        <div className="weight">
          <MeasureInput
            name="startWeight"
            kind="weight"
            label="Start weight"
            value={weight}
            onChange={(text) => {
              setWeight(text)
              weightTyped.current = text !== ''
            }}
            error={refused?.errors.startWeight}
            hero
          />
        </div>
        <label className="form-check">
          <input
            type="checkbox"
            name="mode"
            value="net"
            className="form-check-input"
            checked={mode === 'net'}
            onChange={(event) => setMode(event.target.checked ? 'net' : 'gross')}
          />
          zeroed with it on
        </label>
        {scales.length > 0 && (
          <label className="which-scale">
            <span className="quiet">on</span>{' '}
            <select
              name="scaleId"
              className="form-select"
              aria-label="Scale"
              value={scaleId}
              onChange={(event) => setScaleId(event.target.value)}
            >
              <option value="">a scale that is not named</option>
              {scales.map(({ kitId, label, failed }) => (
                <option key={kitId} value={kitId}>
                  {label}
                  {weighing.includes(kitId) ? ': weighs at another job' : failed && ': failed its check'}
                </option>
              ))}
            </select>
          </label>
        )}
        <input
          type="hidden"
          name="sample"
          value={sampleText(weightMg === undefined ? undefined : taken.from(weightMg))}
        />
        <TakeLive taken={taken} />
        <Button
          ref={go}
          type="submit"
          name="way"
          value="quick"
          className="btn-big go"
          disabled={busy}
          onClick={(event) => {
            const sureOf = sure.current!.value === String(weightMg)
            if (
              picked &&
              fitting &&
              mode === 'gross' &&
              weightMg !== undefined &&
              !sureOf &&
              !mayNote(weightMg)
            )
              event.preventDefault()
          }}
        >
          {busy ? 'Opening …' : 'Go'}
        </Button>
        {question && weightMg !== undefined && (
          <Question
            asked={question}
            instead={(mg) => setWeight(typed('weight', mg, reading))}
            confirm={confirm}
          />
        )}
      </div>
    </fieldset>
  )
}

/** Of the van where there is one that is good, and weighs nothing for another job; none is guessed. */
const usualScale = (scales: JobKit[], van: string, weighing: string[]) =>
  scales.find(
    ({ kitId, keepsAt, failed }) =>
      van !== '' && keepsAt.toLowerCase() === van.toLowerCase() && !failed && !weighing.includes(kitId),
  )?.kitId ?? ''

const labelled = (tiles: Tile[], label: string) =>
  tiles.find((each) => each.label.toLowerCase() === label.trim().toLowerCase())
