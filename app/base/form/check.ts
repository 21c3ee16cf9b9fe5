import type Joi from 'joi'

/** What was typed in each field, to show again. */
export type Typed = Record<string, string>

export interface Refused {
  errors: Record<string, string>
  typed: Typed
}

export type ReadForm<T> =
  { value: T; typed: Typed; refused?: undefined } | { value?: undefined; typed: Typed; refused: Refused }

/** Checks what was typed with a schema: on the server, and on a device without signal. */
export function checkForm<T>(typed: Typed, schema: Joi.ObjectSchema<T>): ReadForm<T> {
  const { value, error } = schema.validate(typed, { abortEarly: false, stripUnknown: true })
  if (!error) return { value: value as T, typed }
  return {
    typed,
    refused: refuse(typed, Object.fromEntries(error.details.map((d) => [d.path.join('.'), d.message]))),
  }
}

/** What stands in a field that was typed as text, read back from where it was kept. */
export const ownText = (typed: Typed, name: string): string =>
  Object.hasOwn(typed, name) ? typed[name]! : ''

/** A refusal found later than by the schema. */
export function refuse(typed: Typed, errors: Record<string, string>): Refused {
  return {
    errors,
    typed: Object.fromEntries(
      Object.entries(typed).filter(([name]) => !name.toLowerCase().includes('password')),
    ),
  }
}

/** The fields of a form as text, without what no database can keep. */
export const typedOf = (form: FormData): Typed =>
  Object.fromEntries(
    [...form].flatMap(([name, value]) =>
      typeof value === 'string' && name !== '__proto__'
        ? [[name, value.replaceAll('\0', '').toWellFormed()]]
        : [],
    ),
  )
