import { findApiToken, inShop } from '#db'
import { METRIC_UNITS, US_UNITS } from '#core/units'
import { now, todayIn } from '~/base/session/clock.server'
import { log } from '~/base/session/log.server'
import { addressKey, overLimit } from '~/base/session/rate.server'
import { requestFacts } from '~/base/session/request-facts'
import { answerHold } from '~/slide-rule/hold/api.server'
import { HOLD_TOOL } from '~/slide-rule/hold/outcome'
import { answer, inputProblems } from '~/slide-rule/answer.server'
import { cylindersFor } from '~/slide-rule/cylinders.server'
import { problem } from '~/api/problem.server'
import { workOut } from '~/slide-rule/work-out'
import { TOOLS, toolNamed } from '~/slide-rule/tools'
import type { Route } from './+types/calc'

const JSON_HEADERS = { 'cache-control': 'no-store' }

/** One calculation for a program: `GET /api/v1/calc/saturation?refrigerant=R-410A&t_C=31` with a token as bearer. */
export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { address, reference } = context.get(requestFacts)
  try {
    const holder = await holderOf(request, address)
    if (holder instanceof Response) return holder
    if (params.tool === HOLD_TOOL.name)
      return problem(405, 'Only POST', 'Send the readings of the hold as JSON with POST.', {
        headers: { allow: 'POST' },
      })
    const tool = toolNamed(params.tool)
    if (!tool)
      return problem(
        404,
        'No such tool',
        `There is no tool "${params.tool}": there are ${TOOLS.map((t) => t.name).join(', ')}.`,
      )
    const asked = new URL(request.url).searchParams
    const units = asked.get('units') === 'us' ? US_UNITS : METRIC_UNITS
    const { shop, scopes } = holder
    const cylinders = scopes.includes('cylinders')
      ? await inShop(shop.shopId, (tx) => cylindersFor(tx, tool, asked))
      : undefined
    const done = workOut(
      tool,
      asked,
      {
        reading: { units },
        today: todayIn(shop.timeZone),
        fillMarginPct: shop.fillMarginPct,
        ...(cylinders ? { cylinders } : {}),
      },
      true,
    )
    if (done.outcome)
      return Response.json(answer(tool, { ...done, outcome: done.outcome }), { headers: JSON_HEADERS })
    const errors = inputProblems(done)
    return problem(422, 'These inputs have no result', errors[0]!.sentence, { errors })
  } catch (error) {
    return failed(error, reference)
  }
}

/** A hold's readings are a list, which no address takes: it alone is asked with POST. */
export async function action({ request, params, context }: Route.ActionArgs) {
  const { address, reference } = context.get(requestFacts)
  if (params.tool !== HOLD_TOOL.name || request.method !== 'POST')
    return problem(405, 'Only GET', 'A calculation changes nothing: ask for it with GET.', {
      headers: { allow: 'GET, HEAD' },
    })
  try {
    const holder = await holderOf(request, address)
    return holder instanceof Response ? holder : await answerHold(request)
  } catch (error) {
    return failed(error, reference)
  }
}

function failed(error: unknown, reference: string) {
  log.error({ err: error, reference }, 'a calculation for a program failed')
  return problem(
    500,
    'Something went wrong in Keg',
    'Nothing was changed. Try again; if it stays, tell whoever runs Keg the reference.',
    { reference },
  )
}

async function holderOf(request: Request, address: string) {
  const [, token] = /^Bearer +(\S+)$/i.exec(request.headers.get('authorization') ?? '') ?? []
  const holder = token ? await findApiToken(token, now()) : undefined
  const over = holder
    ? await overLimit('API', holder.tokenId)
    : await overLimit('API_STRANGER', addressKey(address))
  if (over) return problem(429, 'Too many at once', over, { headers: { 'retry-after': '60' } })
  if (holder) return holder
  return problem(
    401,
    'No token, or one that is not in force',
    'Send a token as "Authorization: Bearer keg_…": a manager makes one under Settings.',
    { headers: { 'www-authenticate': 'Bearer' } },
  )
}
