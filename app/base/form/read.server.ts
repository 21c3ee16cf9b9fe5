import type Joi from 'joi'
import { checkForm, type ReadForm, type Typed, typedOf } from './check'

// The parts of schemas that browsers check forms with as well.
export * from './schema-parts'
export * from './check'

/**
 * Reads a form with a Joi schema. Every refusal is one sentence on its field; nothing typed is lost (passwords apart,
 * which are never sent back).
 */
export async function readForm<T>(request: Request, schema: Joi.ObjectSchema<T>): Promise<ReadForm<T>> {
  return checkForm(await typedIn(request), schema)
}

/** What was typed in each field of a form. @throws Response 400 when what came is no form */
export async function typedIn(request: Request): Promise<Typed> {
  const form = await request.formData().catch(() => undefined)
  if (!form)
    throw new Response('What arrived is not a form: go back, reload the page, and send it again.', {
      status: 400,
    })
  return typedOf(form)
}
