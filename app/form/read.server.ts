import Joi from 'joi'
import { REFRIGERANTS } from '#core/refrigerants'
import { measure, type MeasureKind, type Reading } from '~/ui/measure'

/** What was typed in each field, to show again. */
export type Typed = Record<string, string>

export interface Refused {
  errors: Record<string, string>
  typed: Typed
}

/**
 * Reads a form with a Joi schema. Every refusal is one sentence on its field; nothing typed is lost (passwords apart,
 * which are never sent back).
 */
export async function readForm<T>(
  request: Request,
  schema: Joi.ObjectSchema<T>,
): Promise<{ value: T; refused?: undefined } | { value?: undefined; refused: Refused }> {
  const form = await request.formData()
  const typed: Typed = {}
  for (const [name, value] of form) if (typeof value === 'string') typed[name] = value.replaceAll('\0', '')
  const { value, error } = schema.validate(typed, { abortEarly: false, stripUnknown: true })
  if (!error) return { value: value as T }
  return {
    refused: refuse(typed, Object.fromEntries(error.details.map((d) => [d.path.join('.'), d.message]))),
  }
}

/** A refusal found later than by the schema. */
export function refuse(typed: Typed, errors: Record<string, string>): Refused {
  return {
    errors,
    typed: Object.fromEntries(
      Object.entries(typed).filter(([name]) => !name.toLowerCase().includes('password')),
    ),
  }
}

/** Text of a length. @param what how the sentence names it: 'a label' */
export function text(what: string, most: number): Joi.StringSchema {
  return Joi.string()
    .trim()
    .max(most)
    .empty('')
    .messages({
      'any.required': `Enter ${what}.`,
      'string.max': `That is longer than ${most} characters: shorten it.`,
    })
}

/** A field in the notation of the trade, read in the person's units. */
export function measured(kind: MeasureKind, what: string, reading: Reading): Joi.Schema<number | undefined> {
  return Joi.string()
    .trim()
    .empty('')
    .custom((typed: string, helpers) => {
      const found = measure(kind, typed, reading)
      if (found.kind === 'one') return found.value
      const message =
        found.kind === 'choose'
          ? `"${typed}" can be read as ${found.readings.map((r) => r.notation).join(' or ')}: write which one you mean.`
          : found.kind === 'wrong'
            ? found.message
            : `Enter ${what}.`
      // Joi fills in braces of its own templates: none of ours has any.
      return helpers.message({ custom: message.replace(/[{}]/g, '') })
    })
    .messages({ 'any.required': `Enter ${what}.` }) as unknown as Joi.Schema<number | undefined>
}

export const id = Joi.string().guid().required().messages({ '*': 'This page is out of date: reload it.' })

export const optionalId = Joi.string().guid().empty('').messages({ '*': 'Choose from the list.' })

export const refrigerantField = Joi.string()
  .valid(...REFRIGERANTS)
  .empty('')
  .messages({ '*': 'Choose a refrigerant from the list.' })

export const ticked = Joi.boolean().truthy('on').falsy('').default(false)

export const dateField = Joi.string()
  .pattern(/^\d{4}-\d{2}-\d{2}$/)
  .empty('')
  .custom((value: string, helpers) => (isDay(value) ? value : helpers.error('string.pattern.base')))
  .messages({ 'string.pattern.base': 'Enter a date as year-month-day, such as 2026-03-31.' })

/** A day that exists: there is no 31st of February. */
export function isDay(text: string): boolean {
  const date = new Date(`${text}T00:00:00Z`)
  return !Number.isNaN(date.getTime()) && date.toISOString().startsWith(text)
}
