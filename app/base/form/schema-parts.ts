import Joi from 'joi'
import { REFRIGERANTS } from '#core/refrigerants'
import { measure, type MeasureKind, type ReadersUnits } from '../ui/measure'
import { isDay } from './day'
import { ID } from './id'

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
export function measured(
  kind: MeasureKind,
  what: string,
  reading: ReadersUnits,
): Joi.Schema<number | undefined> {
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

export const id = Joi.string()
  .lowercase()
  .pattern(ID)
  .required()
  .messages({ '*': 'This page is out of date: reload it.' })

export const optionalId = Joi.string()
  .lowercase()
  .pattern(ID)
  .empty('')
  .messages({ '*': 'Choose from the list.' })

/** With which state of a row the form was opened. */
export const version = Joi.number()
  .integer()
  .min(1)
  .max(2 ** 31 - 1)
  .required()
  .messages({ '*': 'This page is out of date: reload it.' })

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
