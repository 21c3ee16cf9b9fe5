import Joi from 'joi'
import { ASKS, PROGRAMME_STEPS, STOPS } from '#core/programme'
import { type Reports, takeReports } from '~/programme/reports.server'
import { deviceCall } from '~/samples/device.server'
import { now } from '~/base/session/clock.server'
import { log } from '~/base/session/log.server'
import { requestFacts } from '~/base/session/request-facts'
import { problem } from '~/api/problem.server'
import type { Route } from './+types/programme'

const LARGEST = 200_000

const time = Joi.number()
  .integer()
  .min(0)
  .max(Date.UTC(2200, 0, 1))
  .required()
const temperature = Joi.number().min(170).max(580)
const gauge = Joi.number().min(-110_000).max(2e7)
const vacuumPa = Joi.number().min(0).max(120_000)
const volume = Joi.number().min(0).max(5_000)

const REPORTS = Joi.object<Reports>({
  programmeId: Joi.string().uuid().lowercase().required(),
  sentAt: time,
  reports: Joi.array()
    .min(1)
    .max(100)
    .items(
      Joi.object({
        nr: Joi.number().integer().min(1).max(100_000).required(),
        at: time,
        kind: Joi.string().valid('began', 'done', 'asks', 'ended').required(),
        step: Joi.string().valid(...PROGRAMME_STEPS),
        ask: Joi.string()
          .valid(...ASKS)
          .when('kind', { is: 'asks', then: Joi.required() }),
        how: Joi.string().valid('finished', 'stopped').when('kind', { is: 'ended', then: Joi.required() }),
        why: Joi.string().valid(...STOPS),
        readings: Joi.object({
          weightKg: Joi.number().min(-500).max(5_000),
          lowPa: gauge,
          highPa: gauge,
          vacuumPa,
          ambientK: temperature,
          ventK: temperature,
          gas: Joi.string()
            .max(40)
            .pattern(/^[\w./() -]*$/),
          purityPct: Joi.number().min(0).max(100),
          drainMl: volume,
          oilMl: volume,
          dyeMl: volume,
          ranS: Joi.number().min(0).max(604_800),
          curve: Joi.array()
            .max(400)
            .items(
              Joi.array().ordered(Joi.number().min(0).max(604_800).required(), vacuumPa.required()).length(2),
            ),
        }),
      }),
    )
    .required(),
}).required()

/** What is older than that nobody waits for; a clock that runs ahead of itself is none, ms. */
const OLDEST_MS = 7 * 86_400_000
const AHEAD_MS = 60_000

const untimely = ({ sentAt, reports }: Reports) =>
  reports.some(({ at }) => at < sentAt - OLDEST_MS || at > sentAt + AHEAD_MS)

/** What a service station says of the programme that it was given. */
export async function action({ request, params, context }: Route.ActionArgs) {
  const { address, reference } = context.get(requestFacts)
  try {
    if (request.method !== 'POST') return onlyPost()
    const device = await deviceCall(request.headers.get('authorization'), address, params.deviceId)
    if (device instanceof Response) return device
    const text = await request.text()
    const { value, error } = REPORTS.validate(text.length <= LARGEST ? parsed(text) : undefined)
    if (error)
      return problem(
        422,
        'These are no reports',
        `Send {"programmeId": "…", "sentAt": …, "reports": [{"nr": 1, "at": …, "kind": "began", "step": "recover", "readings": {…}}]}: ${error.message}. See docs/station.md.`,
      )
    if (untimely(value))
      return problem(
        422,
        'These are no reports',
        'A report is at most a week older than "sentAt", and not from after it: set the clock, and send what is true.',
      )
    const taken = await device.within((tx) => takeReports(tx, device.deviceId, value, now()))
    if (taken instanceof Response) return taken
    return taken
      ? new Response(null, { status: 204 })
      : problem(
          404,
          'No such programme',
          'This device was given no programme of that id: drop what it says of it.',
        )
  } catch (error) {
    log.error({ err: error, reference }, 'the reports of a station were not kept')
    return problem(503, 'Not now', 'Send them again in a few seconds.', {
      reference,
      headers: { 'retry-after': '3' },
    })
  }
}

export const loader = onlyPost

function onlyPost() {
  return problem(405, 'Only POST', 'Reports are sent with POST.', { headers: { allow: 'POST' } })
}

function parsed(text: string): unknown {
  try {
    return JSON.parse(text) as unknown
  } catch {
    return undefined
  }
}
