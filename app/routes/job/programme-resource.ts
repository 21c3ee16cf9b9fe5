import { randomUUID } from 'node:crypto'
import Joi from 'joi'
import type { PlannedStep, ProgrammeQuestion } from '#core/programme'
import { dropPreset, inShop, savePreset } from '#db'
import { ID, idOf } from '~/base/form/ids.server'
import { ownText, typedIn } from '~/base/form/read.server'
import { beginProgramme, NotBegun } from '~/programme/begin.server'
import { giveHand, stopProgramme } from '~/programme/hands.server'
import { now } from '~/base/session/clock.server'
import { writer } from '~/base/session/signed-in.server'
import { plannedSteps } from '~/tape/chapters/programme.server'
import type { Route } from './+types/programme-resource'

const id = Joi.string().pattern(ID).required()
/** Text that a database can keep. */
const name = Joi.string()
  .trim()
  .max(60)
  .custom((text: string, helpers) =>
    text.isWellFormed() && !text.includes('\0') ? text : helpers.error('any.invalid'),
  )
const RELOAD = 'That cannot be read: reload the page, and try again.'

const BEGIN = Joi.object<{
  programmeId: string
  kitId: string
  steps: PlannedStep[]
  preset?: string
  allTheSame?: ProgrammeQuestion[]
}>({
  programmeId: id,
  kitId: id,
  steps: plannedSteps.required(),
  preset: name.allow(''),
  allTheSame: Joi.array().items(Joi.string().valid('charge-unproved')).max(5),
})
const HAND = Joi.object<{ askId: string; say: 'done' | 'no' }>({
  askId: id,
  say: Joi.string().valid('done', 'no').required(),
})
const SAVE = Joi.object<{ name: string; steps: PlannedStep[] }>({
  name: name.min(1).required(),
  steps: plannedSteps.required(),
})

/** Programmes of a job's station: begun, helped, stopped; and the shop's presets. */
export async function action({ request, params, context }: Route.ActionArgs) {
  const { shop, person } = writer(context)
  const jobId = idOf(params.jobId)
  const typed = await typedIn(request)
  const who = { shopId: shop.shopId, userId: person.userId }
  const sent = parsed(ownText(typed, 'sent'))
  try {
    switch (ownText(typed, 'act')) {
      case 'begin': {
        const { preset, ...order } = read(BEGIN, sent)
        await beginProgramme(who, { jobId, ...order, ...(preset && { preset }) }, now())
        return done()
      }
      case 'hand':
        await giveHand(who, { jobId, ...read(HAND, sent) }, now())
        return done()
      case 'stop':
      case 'leave':
        await stopProgramme(who, { jobId, leave: ownText(typed, 'act') === 'leave' }, now())
        return done()
      case 'save': {
        const preset = read(SAVE, sent, 'Give it a name of up to 60 letters.')
        await inShop(shop.shopId, (tx) =>
          savePreset(tx, { presetId: randomUUID(), ...preset }, person.userId, now()),
        )
        return done()
      }
      case 'drop':
        await inShop(shop.shopId, (tx) => dropPreset(tx, idOf(ownText(typed, 'presetId'))))
        return done()
      default:
        throw new NotBegun(RELOAD)
    }
  } catch (error) {
    if (error instanceof NotBegun) return Response.json({ error: error.message }, { status: 400 })
    throw error
  }
}

const done = () => Response.json({})

function read<T>(schema: Joi.ObjectSchema<T>, sent: unknown, sentence = RELOAD): T {
  const { value, error } = schema.required().validate(sent)
  if (error) throw new NotBegun(sentence)
  return value as T
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text) as unknown
  } catch {
    return undefined
  }
}
