import Joi from 'joi'
import { REFRIGERANTS } from '#core/refrigerants'
import { METRIC_UNITS, STANDARD_ATMOSPHERE_PA } from '#core/units'
import { type Field, type Slot, slots } from './fields'
import { KINDS, type Variant } from './kinds'
import { edgesOf, isRequired, variantName } from './limits'
import type { Tool } from './tool'

const schemas = new Map<string, Joi.ObjectSchema<Record<string, unknown>>>()

/** What a tool takes, in the terms of its JSON interface: for its documentation. What is given is checked alike (check). */
export function schemaOf(tool: Tool): Joi.ObjectSchema<Record<string, unknown>> {
  let schema = schemas.get(tool.name)
  if (!schema) schemas.set(tool.name, (schema = build(tool)))
  return schema
}

function build(tool: Tool): Joi.ObjectSchema<Record<string, unknown>> {
  const keys: Joi.SchemaMap = {}
  const oneOf: { names: string[]; required: boolean }[] = []
  for (const slot of slots(tool.inputs)) {
    const { name, field, row } = slot
    if (field.type !== 'measure') {
      keys[name] = plain(slot)
      continue
    }
    const { variants } = KINDS[field.kind!]
    for (const variant of variants) keys[variantName(name, variant)] = numeric(field, variant)
    const required = isRequired(field, row !== undefined)
    if (variants.length > 1 || required)
      oneOf.push({ names: variants.map((v) => variantName(name, v)), required })
  }
  let schema = Joi.object<Record<string, unknown>>(keys)
  for (const { names, required } of oneOf)
    schema = required ? schema.xor(...(names as [string])) : schema.oxor(...(names as [string]))
  return schema
}

function plain({ field, row }: Slot): Joi.Schema {
  switch (field.type) {
    case 'gas': {
      const schema = Joi.string()
        .valid(...REFRIGERANTS)
        .description(field.label)
      return field.optional || row ? schema : schema.required()
    }
    case 'choice':
      return Joi.string()
        .valid(...field.options!.map(([value]) => value))
        .default(field.fallback)
        .description(
          `${field.label}: ${field.options!.map(([value, words]) => `${value} (${words})`).join(', ')}`,
        )
    case 'day':
      return Joi.string()
        .pattern(/^\d{4}-\d{2}-\d{2}$/)
        .description(`${field.label}, year-month-day`)
    case 'flag':
      return Joi.boolean().truthy('on', 'yes').falsy('off', 'no').default(false).description(field.label)
    case 'measure':
      throw new Error('a measure has variants')
  }
}

function numeric(field: Field, variant: Variant): Joi.Schema {
  const [least, most] = edgesOf(field, variant, STANDARD_ATMOSPHERE_PA)
  const { label, help, fallback, kind } = field
  const usual =
    typeof fallback === 'number'
      ? ` Taken when nothing is given: ${KINDS[kind!].show(fallback, { units: METRIC_UNITS })}.`
      : ''
  return Joi.number()
    .min(least)
    .max(most)
    .description(`${label}.${help ? ` ${help}` : ''}${usual}`)
}
