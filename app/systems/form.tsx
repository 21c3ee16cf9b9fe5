import { useMemo, useState } from 'react'
import { Button } from 'react-bootstrap'
import { useNavigation } from 'react-router'
import type { Refused, Typed } from '~/base/form/read.server'
import { CheckedForm } from '~/base/ui/checked-form'
import { ErrorCount } from '~/base/ui/error-count'
import { Field, SelectField } from '~/base/ui/field'
import { MeasureField, MeasureInput } from '~/base/ui/measure-field'
import { useReadersUnits } from '~/base/ui/reader'
import { METERING_WORDS, TRADE_WORDS } from '~/words/en'
import type { TypedAccessory, TypedLine } from './fields'
import { systemSchema } from './schema'
import { VehicleDataCheck } from './vehicle-data'

interface SystemFormProps {
  start: Typed
  refused?: Refused | undefined
  refrigerants: readonly string[]
  pipes: string[]
  customers: string[]
  sites: string[]
  isNew: boolean
  hidden?: Record<string, string>
}

/** What stands on the plate, and what was added to it since. */
export function SystemForm(props: SystemFormProps) {
  const { start, refused, refrigerants, pipes, customers, sites, isNew, hidden = {} } = props
  const busy = useNavigation().state !== 'idle'
  const typed = refused?.typed ?? start
  const reading = useReadersUnits()
  const schema = useMemo(() => systemSchema(reading), [reading])
  const [trade, setTrade] = useState(typed.trade)
  const vehicle = trade === 'vehicle'
  const field = (name: string) => ({ name, value: typed[name], error: refused?.errors[name] })
  return (
    <CheckedForm schema={schema} className="form-column">
      {Object.entries(hidden).map(([name, value]) => (
        <input key={name} type="hidden" name={name} value={typed[name] ?? value} />
      ))}
      <fieldset className="group">
        <legend>What and where</legend>
        <div className="form-grid">
          <SelectField
            {...field('trade')}
            label="Trade"
            options={Object.entries(TRADE_WORDS)}
            onChange={setTrade}
          />
          <Field
            {...field('name')}
            label="System"
            needed
            maxLength={200}
            help="Such as bakery retarder, or bus 12."
          />
          <Field {...field('customer')} label="Customer" needed list={customers} maxLength={200} />
          <Field {...field('site')} label="Site, or vehicle" needed list={sites} maxLength={200} />
          {vehicle && <Field {...field('registration')} label="Registration" maxLength={40} />}
          {vehicle && (
            <Field
              {...field('vin')}
              label="Vehicle identification number"
              maxLength={40}
              help="17 characters. Found by it or by the registration, its sticker is typed once."
            />
          )}
          {!vehicle && (
            <MeasureField
              {...field('altitude')}
              kind="height"
              label="Height above the sea"
              help="Gauges read against the air of the place."
            />
          )}
        </div>
        {vehicle && <VehicleDataCheck />}
      </fieldset>
      <fieldset className="group">
        <legend>Plate</legend>
        <div className="form-grid">
          <SelectField
            {...field('refrigerant')}
            label="Refrigerant"
            options={[['', 'Not known'], ...refrigerants.map((r): [string, string] => [r, r])]}
          />
          <MeasureField
            {...field('plate')}
            kind="plate"
            label="Charge on the plate"
            help="Unreadable or gone: leave it empty."
          />
          <Field
            {...field('plateText')}
            label="Words on the plate, as printed"
            maxLength={120}
            help="Left empty, what you type beside it is kept."
          />
          <MeasureField
            {...field('panelTotal')}
            kind="plate"
            label="Total written inside the panel"
            help="What whoever came before wrote down counts more than the plate."
          />
          <SelectField
            {...field('metering')}
            label="Metering device"
            options={Object.entries(METERING_WORDS)}
          />
          {vehicle ? (
            <Field
              {...field('compressor')}
              label="Kind of compressor"
              maxLength={60}
              help="Belt, clutchless, or electric and high-voltage: its oil follows from it."
            />
          ) : (
            <MeasureField {...field('subcooling')} kind="difference" label="Subcooling on the plate" />
          )}
          <Field {...field('oilType')} label="Oil" maxLength={60} />
          {!vehicle && (
            <MeasureField {...field('maxTestPressure')} kind="pressure" label="Highest test pressure" />
          )}
        </div>
      </fieldset>
      {!vehicle && <Lines start={typed.lines} pipes={pipes} errors={refused?.errors ?? {}} />}
      <Accessories start={typed.accessories} errors={refused?.errors ?? {}} />
      <div className="form-foot">
        <Button type="submit" className="btn-big" disabled={busy}>
          {busy ? 'Saving …' : isNew ? 'Add the system' : 'Save'}
        </Button>
        <ErrorCount errors={refused?.errors} />
      </div>
    </CheckedForm>
  )
}

function useList<T>(start: string | undefined) {
  const [list, setList] = useState<T[]>(() => (start ? (JSON.parse(start) as T[]) : []))
  return {
    list,
    add: (item: T) => setList([...list, item]),
    remove: (at: number) => setList(list.filter((_, i) => i !== at)),
    change: (at: number, change: Partial<T>) =>
      setList(list.map((item, i) => (i === at ? { ...item, ...change } : item))),
  }
}

interface ListProps {
  start: string | undefined
  errors: Record<string, string>
}

function Lines({ start, pipes, errors }: ListProps & { pipes: string[] }) {
  const { list, add, remove, change } = useList<TypedLine>(start)
  return (
    <fieldset className="group">
      <legend>Lines that were run to it</legend>
      {errors.lines && <div className="field-error">{errors.lines}</div>}
      <input type="hidden" name="lines" value={JSON.stringify(list)} />
      <p className="quiet">
        The plate of an outdoor unit speaks of that unit, and of the length printed on it. What is longer
        holds more.
      </p>
      <div className="list-editor">
        {list.map((line, i) => (
          <div key={i}>
            <div className="list-line">
              <label className="field">
                <span className="form-label">Line</span>
                <select
                  className="form-select"
                  value={line.kind}
                  onChange={(event) => change(i, { kind: event.target.value })}
                >
                  <option value="liquid">liquid</option>
                  <option value="suction">suction</option>
                </select>
              </label>
              <label className="field">
                <span className="form-label">Pipe, outside (in)</span>
                <select
                  className="form-select"
                  value={line.od}
                  onChange={(event) => change(i, { od: event.target.value })}
                >
                  {pipes.map((od) => (
                    <option key={od}>{od}</option>
                  ))}
                </select>
              </label>
              <MeasureInput
                kind="length"
                label="Length"
                value={line.length}
                onChange={(length) => change(i, { length })}
              />
              <MeasureInput
                kind="length"
                label="Covered by the plate"
                value={line.covered}
                onChange={(covered) => change(i, { covered })}
              />
              <label className="form-check">
                <input
                  type="checkbox"
                  className="form-check-input"
                  checked={line.guessed}
                  onChange={(event) => change(i, { guessed: event.target.checked })}
                />
                guessed
              </label>
              <Button variant="outline-secondary" onClick={() => remove(i)}>
                Take away
              </Button>
            </div>
            {errors[`line-${i}`] && <div className="field-error">{errors[`line-${i}`]}</div>}
          </div>
        ))}
      </div>
      <Button
        variant="outline-primary"
        className="mt-2"
        onClick={() => add({ kind: 'liquid', od: '3/8', length: '', covered: '', guessed: false })}
      >
        Add a line
      </Button>
    </fieldset>
  )
}

function Accessories({ start, errors }: ListProps) {
  const { list, add, remove, change } = useList<TypedAccessory>(start)
  return (
    <fieldset className="group">
      <legend>What was added since</legend>
      {errors.accessories && <div className="field-error">{errors.accessories}</div>}
      <input type="hidden" name="accessories" value={JSON.stringify(list)} />
      <p className="quiet">An oversized liquid-line drier can hold over a third of a kilogram.</p>
      <div className="list-editor">
        {list.map((item, i) => (
          <div key={i}>
            <div className="list-line">
              <label className="field">
                <span className="form-label">What</span>
                <input
                  className="form-control"
                  value={item.name}
                  maxLength={120}
                  onChange={(event) => change(i, { name: event.target.value })}
                />
              </label>
              <MeasureInput
                kind="weight"
                label="Holds"
                value={item.mass}
                onChange={(mass) => change(i, { mass })}
              />
              <Button variant="outline-secondary" onClick={() => remove(i)}>
                Take away
              </Button>
            </div>
            {errors[`accessory-${i}`] && <div className="field-error">{errors[`accessory-${i}`]}</div>}
          </div>
        ))}
      </div>
      <Button variant="outline-primary" className="mt-2" onClick={() => add({ name: '', mass: '' })}>
        Add an accessory
      </Button>
    </fieldset>
  )
}
