import type Joi from 'joi'

// The parts of schemas that browsers check forms with as well.
export * from './schema-parts'

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
export async function readForm<T>(request: Request, schema: Joi.ObjectSchema<T>): Promise<ReadForm<T>> {
  return checkForm(await typedIn(request), schema)
}

export type ReadForm<T> =
  { value: T; typed: Typed; refused?: undefined } | { value?: undefined; typed: Typed; refused: Refused }

/** The same for what was read already. */
export function checkForm<T>(typed: Typed, schema: Joi.ObjectSchema<T>): ReadForm<T> {
  const { value, error } = schema.validate(typed, { abortEarly: false, stripUnknown: true })
  if (!error) return { value: value as T, typed }
  return {
    typed,
    refused: refuse(typed, Object.fromEntries(error.details.map((d) => [d.path.join('.'), d.message]))),
  }
}

/** What was typed in each field of a form. @throws Response 400 when what came is no form */
export async function typedIn(request: Request): Promise<Typed> {
  const form = await request.formData().catch(() => undefined)
  if (!form)
    throw new Response('What arrived is not a form: go back, reload the page, and send it again.', {
      status: 400,
    })
  return Object.fromEntries(
    [...form].flatMap(([name, value]) =>
      typeof value === 'string' && name !== '__proto__'
        ? [[name, value.replaceAll('\0', '').toWellFormed()]]
        : [],
    ),
  )
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
