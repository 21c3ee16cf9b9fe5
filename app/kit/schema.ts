import Joi from 'joi'
import { type FactName, KIT_KINDS, type KitFacts, type KitKind, type KitState } from '#core/kit'
import { ID } from '~/base/form/id'
import { measured, text } from '~/base/form/schema-parts'
import type { ReadersUnits } from '~/base/ui/measure'
import { FACT_FIELDS, type FactField, factsOf } from './fields'

/** A fact as it is kept: on the tape, in files, in the database. */
function kept(field: FactField): Joi.Schema {
  switch (field.type) {
    case 'measure':
      return Joi.number()
        .min(field.least ?? 0)
        .max(field.most)
    case 'number':
      return Joi.number().min(0).max(1e9)
    case 'yes':
      return Joi.boolean()
    case 'choice':
      return Joi.string().valid(...Object.keys(field.options))
    case 'text':
      return Joi.string().max(field.most)
    case 'cylinder':
      return Joi.string().pattern(ID)
  }
}

/** The facts of any kind, as they are kept. */
export const kitFacts = Joi.object<KitFacts>(
  Object.fromEntries(Object.entries(FACT_FIELDS).map(([name, field]) => [name, kept(field)])),
)

/** A fact as it is typed. */
function asked(field: FactField, reading: ReadersUnits): Joi.Schema {
  const named = field.label.replace(/[{}]/g, '')
  switch (field.type) {
    case 'measure':
      return measured(field.kind, `“${named}”`, reading)
    case 'number': {
      const number = Joi.number().min(field.least).max(field.most).empty('')
      const range = `from ${field.least} to ${field.most}`
      return (field.whole ? number.integer() : number).messages({
        '*': `Enter “${named}” as a ${field.whole ? 'whole ' : ''}number ${range}, or leave it empty.`,
      })
    }
    case 'yes':
      return Joi.boolean().truthy('on').falsy('')
    case 'choice':
      return Joi.string()
        .valid(...Object.keys(field.options))
        .empty('')
        .messages({ '*': 'Choose from the list.' })
    case 'text':
      return text(`“${named}”`, field.most)
    case 'cylinder':
      return Joi.string().lowercase().pattern(ID).empty('').messages({ '*': 'Choose from the list.' })
  }
}

/** The form of a kind's facts. */
function factSchemas(kind: KitKind, reading: ReadersUnits): Joi.SchemaMap {
  return Object.fromEntries(factsOf(kind).map(([name, field]) => [name, asked(field, reading)]))
}

/** What was typed, as it is kept; what measures beyond reason is refused on its field. */
export function factsFrom(
  kind: KitKind,
  value: Record<string, unknown>,
): { facts: KitFacts; errors: Record<string, string> } {
  const facts: Record<string, unknown> = {}
  const errors: Record<string, string> = {}
  for (const [name, field] of factsOf(kind)) {
    const each = value[name]
    if (each === undefined || each === false) continue
    facts[name] = each
    if (field.type === 'measure' && ((each as number) > field.most || (each as number) < (field.least ?? 0)))
      errors[name] = 'That is more or less than there is: look at the unit.'
    else if (field.type === 'measure' && POSITIVE.includes(name) && (each as number) <= 0)
      errors[name] = 'It is more than nothing: leave it empty where it is not known.'
  }
  return { facts: facts as KitFacts, errors }
}

const POSITIVE: FactName[] = [
  'capacityMg',
  'divisionMg',
  'filterLifeMg',
  'boreM',
  'lengthM',
  'flowM3s',
  'accuracyK',
]

export interface KitForm extends Record<string, unknown> {
  label: string
  keepsAt?: string
  state: KitState
}

/** The whole form of a kind. */
export function kitSchema(kind: KitKind, reading: ReadersUnits): Joi.ObjectSchema<KitForm> {
  return Joi.object<KitForm>({
    label: text('a label, as it is written on it', 80).required(),
    keepsAt: text('where it is kept', 120),
    state: Joi.string()
      .valid('in-use', 'repair', 'retired')
      .default('in-use')
      .messages({ '*': 'Choose from the list.' }),
    ...factSchemas(kind, reading),
  })
}

/** A kind from an address or a form; undefined where there is no such. */
export const kindOf = (text: string | null): KitKind | undefined => KIT_KINDS.find((kind) => kind === text)
