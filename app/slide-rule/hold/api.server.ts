import Joi from 'joi'
import { METRIC_UNITS, PA_PER_MICRON, ZERO_CELSIUS_K } from '#core/units'
import type { HoldReading } from '#core/vacuum'
import { problem } from '~/api/problem.server'
import { HOLD_TOOL, judgedHold, reasonsOf } from './outcome'
import { MOST_READINGS } from './read'

interface Given {
  t_s: number
  p_micron?: number
  p_Pa_abs?: number
}

const number = (most: number) => Joi.number().strict().min(0).max(most)
const readings = Joi.array()
  .min(1)
  .max(MOST_READINGS)
  .items(
    Joi.object({
      t_s: number(10 * 86_400).required(),
      p_micron: number(800_000),
      p_Pa_abs: number(110_000),
    }).xor('p_micron', 'p_Pa_abs'),
  )
const schema = Joi.object<{
  readings: Given[]
  previous?: Given[]
  t_ambient_C?: number
  volume_L?: number
}>({
  readings: readings.required(),
  previous: readings,
  t_ambient_C: Joi.number().strict().min(-30).max(60),
  volume_L: Joi.number().strict().min(0.01).max(100_000),
})

/** `POST /api/v1/calc/vacuum-hold`: a hold from its readings, answered like the other calculations. */
export async function answerHold(request: Request): Promise<Response> {
  const body = await request.json().catch(() => undefined)
  if (body === undefined)
    return problem(400, 'No JSON', 'Send { "readings": [{ "t_s": 0, "p_micron": 420 }, …] }.')
  const { value, error } = schema.validate(body, { abortEarly: false })
  if (error) {
    const errors = error.details
      .slice(0, 20)
      .map(({ path, message }) => ({ name: path.join('.'), sentence: message }))
    return problem(422, 'These readings cannot be judged', errors[0]!.sentence, { errors })
  }
  const now = inOrder(value.readings)
  const before = value.previous && inOrder(value.previous)
  if (!now || before === null)
    return problem(
      422,
      'These readings cannot be judged',
      'Times must go on from reading to reading: t_s rises.',
    )
  const { judgement, working, uncertainty, source, caution } = judgedHold(
    {
      readings: now,
      ...(before && { previous: before }),
      ...(value.t_ambient_C !== undefined && { ambientK: value.t_ambient_C + ZERO_CELSIUS_K }),
      ...(value.volume_L !== undefined && {
        volumeM3: { least: value.volume_L / 1000, most: value.volume_L / 1000 },
      }),
    },
    { units: METRIC_UNITS },
  )
  const { pass, leak, moisture, cause, smallestPaS, knownAfterS, verdict } = judgement
  const flow = verdict.numbers.find(({ name }) => name === 'leak-flow')
  const perMinute = (paS: number) => (60 * paS) / PA_PER_MICRON
  return Response.json(
    {
      tool: HOLD_TOOL.name,
      result: {
        pass: pass ?? null,
        leak,
        moisture,
        ...(leak === 'yes' && cause && { leak_micron_per_min: 60 * cause.curve.slope }),
        ...(flow && { leak_Pa_L_s: 1000 * flow.value }),
        smallest_leak_micron_per_min: smallestPaS === undefined ? null : perMinute(smallestPaS),
        ...(knownAfterS !== undefined && { known_after_s: knownAfterS }),
        verdict: { outcome: verdict.outcome, code: verdict.code, reasons: reasonsOf(judgement) },
      },
      working: working.map(({ what, put, gives }) => ({ what, how: put, gives })),
      uncertainty,
      source,
      caution,
    },
    { headers: { 'cache-control': 'no-store' } },
  )
}

/** null: times that do not go on. */
function inOrder(given: Given[]): HoldReading[] | null {
  const list = given.map(({ t_s, p_micron, p_Pa_abs }) => ({
    atS: t_s - given[0]!.t_s,
    pressurePa: p_Pa_abs ?? p_micron! * PA_PER_MICRON,
  }))
  return list.every((each, i) => i === 0 || each.atS > list[i - 1]!.atS) ? list : null
}
