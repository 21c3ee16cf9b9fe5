import { useMemo } from 'react'
import { Button } from 'react-bootstrap'
import { useNavigation } from 'react-router'
import type { KitKind } from '#core/kit'
import type { Refused, Typed } from '~/base/form/read.server'
import { CheckedForm } from '~/base/ui/checked-form'
import { ErrorCount } from '~/base/ui/error-count'
import { Field, SelectField, TextField, TickField } from '~/base/ui/field'
import { MeasureField } from '~/base/ui/measure-field'
import { useReadersUnits } from '~/base/ui/reader'
import { KIT_STATE_WORDS } from '~/words/en'
import { type FactField, factsOf } from './fields'
import { kitSchema } from './schema'

interface KitFormProps {
  kind: KitKind
  start: Typed
  refused?: Refused | undefined
  /** Where kit is kept already, to choose from. */
  places: string[]
  tanks: { cylinderId: string; label: string }[]
  isNew: boolean
  hidden: Record<string, string>
}

/** What computing needs of a piece of kit, by its kind, in one column of reading order. */
export function KitForm({ kind, start, refused, places, tanks, isNew, hidden }: KitFormProps) {
  const busy = useNavigation().state !== 'idle'
  const reading = useReadersUnits()
  const schema = useMemo(() => kitSchema(kind, reading), [kind, reading])
  const typed = refused?.typed ?? start
  const field = (name: string) => ({ name, value: typed[name], error: refused?.errors[name] })
  return (
    <CheckedForm schema={schema} className="form-column">
      {Object.entries(hidden).map(([name, value]) => (
        <input key={name} type="hidden" name={name} value={typed[name] ?? value} />
      ))}
      <fieldset className="group">
        <legend>Which it is</legend>
        <Field
          {...field('label')}
          label="Label"
          needed
          maxLength={80}
          help="As it is written on it: Scale 2."
        />
        <Field
          {...field('keepsAt')}
          label="Where it is kept"
          maxLength={120}
          list={places}
          help="A van, or the shop. What is in one van is its usual set."
        />
        {!isNew && (
          <SelectField {...field('state')} label="It is" options={Object.entries(KIT_STATE_WORDS)} />
        )}
      </fieldset>
      <fieldset className="group">
        <legend>What it can tell, and do</legend>
        {factsOf(kind).map(([name, fact]) => (
          <AskedFact key={name} fact={fact} tanks={tanks} {...field(name)} />
        ))}
      </fieldset>
      <div className="form-foot">
        <Button type="submit" className="btn-big" disabled={busy}>
          {busy ? 'Saving …' : isNew ? 'Add it' : 'Save'}
        </Button>
        <ErrorCount errors={refused?.errors} />
      </div>
    </CheckedForm>
  )
}

interface AskedFactProps {
  name: string
  value: string | undefined
  error: string | undefined
  fact: FactField
  tanks: KitFormProps['tanks']
}

function AskedFact({ fact, tanks, ...field }: AskedFactProps) {
  const { label, help } = fact
  switch (fact.type) {
    case 'measure':
      return <MeasureField {...field} kind={fact.kind} label={label} help={help} />
    case 'number':
      return <Field {...field} label={label} help={help} inputMode="decimal" maxLength={20} />
    case 'yes':
      return <TickField name={field.name} ticked={field.value === 'on'} label={label} />
    case 'choice':
      return (
        <SelectField
          {...field}
          label={label}
          help={help}
          options={[['', 'Not known'], ...Object.entries(fact.options)]}
        />
      )
    case 'text':
      return fact.lines ? (
        <TextField {...field} label={label} help={help} maxLength={fact.most} />
      ) : (
        <Field {...field} label={label} help={help} maxLength={fact.most} />
      )
    case 'cylinder':
      return (
        <SelectField
          {...field}
          label={label}
          help={help}
          options={[['', 'Not in the rack'], ...tanks.map((t): [string, string] => [t.cylinderId, t.label])]}
        />
      )
  }
}
