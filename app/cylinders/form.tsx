import { useMemo, useState } from 'react'
import { Button } from 'react-bootstrap'
import { useNavigation } from 'react-router'
import type { Refused, Typed } from '~/base/form/read.server'
import { CheckedForm } from '~/base/ui/checked-form'
import { ErrorCount } from '~/base/ui/error-count'
import { Field, SelectField, TickField } from '~/base/ui/field'
import { measure } from '~/base/ui/measure'
import { MeasureField } from '~/base/ui/measure-field'
import { useReadersUnits, useShow } from '~/base/ui/reader'
import { CONDITION_WORDS, CYLINDER_KIND_WORDS } from '~/words/en'
import { cylinderSchema } from './schema'

/** Which day it is where the shop is, the server knows: here none lies in the future. */
const ANY_DAY = '9999-12-31'

interface CylinderFormProps {
  start: Typed
  refused?: Refused | undefined
  refrigerants: readonly string[]
  customers: { customerId: string; name: string }[]
  /** How what it holds may be marked. */
  conditions: readonly (keyof typeof CONDITION_WORDS)[]
  /** A new cylinder is asked what is in it. */
  isNew: boolean
  hidden?: Record<string, string>
}

/** The stamps on the collar, in the order in which they are read. */
export function CylinderForm({
  start,
  refused,
  refrigerants,
  customers,
  conditions,
  isNew,
  hidden = {},
}: CylinderFormProps) {
  const busy = useNavigation().state !== 'idle'
  const typed = refused?.typed ?? start
  const [askStamp, setAskStamp] = useState(false)
  const [tare, setTare] = useState(typed.tare ?? '')
  const [gross, setGross] = useState(typed.gross ?? '')
  const reading = useReadersUnits()
  const schema = useMemo(() => cylinderSchema(reading, ANY_DAY), [reading])
  const show = useShow()
  const [grossRead, tareRead] = [measure('weight', gross, reading), measure('weight', tare, reading)]
  const netMg =
    grossRead.kind === 'one' && tareRead.kind === 'one' ? grossRead.value - tareRead.value : undefined
  const field = (name: string) => ({ name, value: typed[name], error: refused?.errors[name] })
  const isAsked = (...names: string[]) => names.some((name) => refused?.errors[name] !== undefined)
  const stampAsked = askStamp || isAsked('waterCapacity', 'tare') || typed.stampChecked === 'on'
  return (
    <CheckedForm schema={schema} className="form-column">
      {Object.entries(hidden).map(([name, value]) => (
        <input key={name} type="hidden" name={name} value={typed[name] ?? value} />
      ))}
      <fieldset className="group">
        <legend>Which it is</legend>
        <div className="form-grid">
          <Field
            {...field('label')}
            label="Label"
            needed
            maxLength={80}
            help="As it is written on the cylinder."
          />
          <SelectField {...field('kind')} label="Kind" options={Object.entries(CYLINDER_KIND_WORDS)} />
          <SelectField
            {...field('refrigerant')}
            label="Refrigerant"
            options={[
              ['', 'None yet: empty and evacuated'],
              ...refrigerants.map((r): [string, string] => [r, r]),
            ]}
          />
          <SelectField
            {...field('condition')}
            label="What it holds is"
            options={conditions.map((c): [string, string] => [c, CONDITION_WORDS[c]])}
          />
        </div>
      </fieldset>
      <fieldset className="group">
        <legend>Stamped on the collar</legend>
        <div className="form-grid">
          <MeasureField {...field('tare')} kind="weight" label="Tare weight (TW)" needed onRead={setTare} />
          <div>
            <MeasureField
              {...field('waterCapacity')}
              kind="weight"
              label="Water capacity (WC)"
              help="The stamp, not the size in its name: a “30 lb” cylinder is not 30 lb of water."
              onRead={(text) =>
                setAskStamp(/^\s*\d+(\.0+)?\s*(lb|kg)?\s*$/.test(text) && /[05]\D*$/.test(text))
              }
            />
            {stampAsked && (
              <TickField
                name="stampChecked"
                ticked={typed.stampChecked === 'on'}
                label="I read it on the collar: it is stamped so"
              />
            )}
          </div>
          <MeasureField
            {...field('servicePressure')}
            kind="pressure"
            label="Service pressure"
            help="Such as 400 psi or 27.6 bar."
          />
          <Field
            {...field('fillingRatio')}
            label="Filling ratio, where one is stamped"
            inputMode="decimal"
            help="kg per kg of water capacity"
          />
          <SelectField
            {...field('ratioGas')}
            label="The ratio is stamped for"
            options={[['', 'what it holds'], ...refrigerants.map((r): [string, string] => [r, r])]}
          />
          <Field
            {...field('workingFillPct')}
            label="Station: working fill of the tank (%)"
            inputMode="numeric"
            help="50 to 60 is usual; left empty, 60 is taken. Other cylinders leave it empty."
          />
          <Field
            {...field('testedOn')}
            label="Last pressure test, month and year"
            help="As it is stamped: 03/25, or a whole day: 2025-03-14."
          />
          <Field
            {...field('testYears')}
            label="A test holds for (years)"
            inputMode="numeric"
            help="5 in the United States, commonly 10 in Europe: check the text in force where you work."
          />
          <TickField
            name="flammableOk"
            ticked={typed.flammableOk === 'on'}
            label="Fit for flammable refrigerants"
          />
        </div>
      </fieldset>
      <fieldset className="group">
        <legend>Whose, and where</legend>
        <div className="form-grid">
          <SelectField
            {...field('ownerCustomerId')}
            label="Whose gas"
            options={[
              ['', "The shop's own"],
              ...customers.map((c): [string, string] => [c.customerId, c.name]),
            ]}
          />
          <Field {...field('keepsAt')} label="Where it is kept" maxLength={120} />
          {isNew && (
            <>
              <MeasureField
                {...field('gross')}
                kind="weight"
                label="The scale shows now (gross)"
                onRead={setGross}
                help="What is in it follows, and is booked as its opening balance."
                follows={
                  netMg !== undefined &&
                  `That is ${show('weight', netMg)} in it, booked as its opening balance.`
                }
              />
              <MeasureField
                {...field('contents')}
                kind="weight"
                label="Or what is in it (net), where nothing was weighed"
              />
              {(isAsked('gross', 'contents') || typed.contentsChecked === 'on') && (
                <TickField
                  name="contentsChecked"
                  ticked={typed.contentsChecked === 'on'}
                  label="It does hold so much"
                />
              )}
            </>
          )}
        </div>
      </fieldset>
      <div className="form-foot">
        <Button type="submit" className="btn-big" disabled={busy}>
          {busy ? 'Saving …' : isNew ? 'Add the cylinder' : 'Save'}
        </Button>
        <ErrorCount errors={refused?.errors} />
      </div>
    </CheckedForm>
  )
}
