import Joi from 'joi'
import { data, Link, redirect } from 'react-router'
import { type DecantQuestion, type DecantRefusal, supplyLimitMg } from '#core/cylinders'
import {
  bookDecant,
  cylinderOf,
  DecantAsked,
  decantedInto,
  DecantRefused,
  givers,
  inShop,
  VoucherError,
} from '#db'
import { found, idOf } from '~/base/form/ids.server'
import { checkForm, id, measured, refuse, text, typedIn } from '~/base/form/read.server'
import { openPage } from '~/device/page/page'
import { sendForm } from '~/device/page/send-form'
import { now, todayIn } from '~/base/session/clock.server'
import { preferencesOf } from '~/base/session/preferences'
import { countersigners, signedFor } from '~/base/session/countersign.server'
import { signedIn } from '~/base/session/signed-in.server'
import { Value } from '~/base/ui/reader'
import { clockTime } from '~/base/ui/time'
import { DECANT_QUESTIONS, DECANT_WORDS, REASON_WORDS, wordOf } from '~/words/en'
import type { Route } from './+types/decant'
import { DecantForm } from '~/pages/cylinders/decant-form'

/** What was answered so far, one after the other. */
const questionsIn = (text: string) => text.split(',').filter((each) => Object.hasOwn(DECANT_QUESTIONS, each))

/** A batch of empties is an afternoon's work. */
const SINCE_MS = 12 * 3_600_000
const MOST_MG = 1e12

export function meta({ loaderData }: Route.MetaArgs) {
  return [{ title: loaderData ? `Fill ${loaderData.cylinder.label} · Keg` : 'Keg' }]
}

export async function loader({ request, params, context }: Route.LoaderArgs) {
  const { shop, person } = signedIn(context)
  const cylinderId = idOf(params.cylinderId)
  const signers = person.role === 'trainee' ? await countersigners(shop.shopId) : null
  const from = Number(new URL(request.url).searchParams.get('from') ?? NaN)
  return inShop(shop.shopId, async (tx) => {
    const cylinder = found(await cylinderOf(tx, cylinderId), 'cylinder')
    return {
      cylinder,
      /** The scale ends here, with the taker on it. */
      upToMg: supplyLimitMg(cylinder, cylinder.refrigerant, shop.fillMarginPct) ?? null,
      /** Who may sign for a trainee; null: this person signs for himself. */
      signers,
      givers: (await givers(tx, cylinderId)).filter((each) => !signers || each.kind === 'one-way'),
      taken: await decantedInto(tx, cylinderId, new Date(now().getTime() - SINCE_MS)),
      /** What the scale showed last, with the taker on it. */
      fromMg: Number.isSafeInteger(from) && Math.abs(from) <= MOST_MG ? from : null,
      timeZone: shop.timeZone,
    }
  })
}

export const clientLoader = openPage<Awaited<ReturnType<typeof loader>>>()

export async function action({ request, params, context }: Route.ActionArgs) {
  const signed = signedIn(context)
  const { shop, person } = signed
  const takerId = idOf(params.cylinderId)
  const { units } = preferencesOf(person.preferences)
  const typed = await typedIn(request)
  const form = checkForm(
    typed,
    Joi.object<{
      voucherId: string
      giverId: string
      on: 'taker' | 'giver'
      before: number
      after: number
      scrapped?: string
      sure: DecantQuestion[]
      text?: string
    }>({
      voucherId: id,
      giverId: Joi.string().uuid().required().messages({ '*': 'Choose the cylinder that gives.' }),
      on: Joi.string()
        .valid('taker', 'giver')
        .required()
        .messages({ '*': 'Say which one stands on the scale.' }),
      before: measured('weight', 'what the scale showed before', { units }).required(),
      after: measured('weight', 'what the scale showed after', { units }).required(),
      scrapped: Joi.string().valid('on', ''),
      sure: Joi.string().empty('').default([]).custom(questionsIn),
      text: text('a remark', 500),
    }),
  )
  if (form.refused) return data(form.refused, { status: 400 })
  const { voucherId, giverId, on, before, after, scrapped, sure, text: remark } = form.value
  const signer = await signedFor(signed, typed)
  if ('errors' in signer) return data(refuse(typed, signer.errors), { status: 400 })
  try {
    await inShop(shop.shopId, (tx) =>
      bookDecant(tx, {
        voucherId,
        giverId,
        takerId,
        massMg: on === 'taker' ? after - before : before - after,
        scrapped: scrapped === 'on',
        before: { on, grossMg: before },
        sure,
        exercise: person.role === 'trainee',
        at: now(),
        now: now(),
        today: todayIn(shop.timeZone),
        userId: signer.userId,
        text: signer.remark + (remark ?? ''),
      }),
    )
  } catch (error) {
    if (error instanceof VoucherError) return data(refuse(typed, { form: error.message }), { status: 400 })
    if (error instanceof DecantAsked)
      return data(
        { ...refuse(typed, { sure: DECANT_QUESTIONS[error.code] }), asked: error.code },
        { status: 400 },
      )
    if (!(error instanceof DecantRefused)) throw error
    const why = error.codes.map((code) =>
      Object.hasOwn(DECANT_WORDS, code) ? DECANT_WORDS[code as DecantRefusal] : wordOf(REASON_WORDS, code),
    )
    return data(refuse(typed, { form: why.join(' ') }), { status: 400 })
  }
  // What the scale shows now is where the next one begins.
  return redirect(`/cylinders/${takerId}/decant${on === 'taker' ? `?from=${after}` : ''}`)
}

export async function clientAction(sent: Route.ClientActionArgs) {
  return sendForm(sent)
}

/** Gas from other cylinders into this one, one after another, each weighed: a van cylinder, a station's tank, or a batch of empties. */
export default function Decant({ loaderData, actionData }: Route.ComponentProps) {
  const { cylinder, givers, taken, timeZone, upToMg } = loaderData
  const sumMg = taken.reduce((sum, each) => sum + each.massMg, 0)
  return (
    <>
      <div className="page-head">
        <h1>Fill {cylinder.label} from others</h1>
        <span className="tag tag-copper">{cylinder.refrigerant ?? 'no gas yet'}</span>
        <div className="actions">
          <Link className="btn btn-outline-secondary" to={`/cylinders/${cylinder.cylinderId}`}>
            Done
          </Link>
        </div>
      </div>
      {upToMg !== null && (
        <p className="mb-3">
          Fill it up to{' '}
          <strong className="digits h3">
            <Value kind="weight" of={upToMg} />
          </strong>{' '}
          on the scale
          {cylinder.kind === 'station'
            ? ': its working fill. The room above it is for what comes out of a vehicle.'
            : ', its limit.'}
        </p>
      )}
      <div className="two-columns">
        <section className="sheet">
          {givers.length === 0 ? (
            <p className="mb-0">
              No other cylinder holds {cylinder.refrigerant ?? 'a gas'}.{' '}
              <Link to="/cylinders/new">Enter the one that gives</Link>
            </p>
          ) : (
            // The next one is another one: with an id of its own, and nothing left of the last.
            <DecantForm key={taken.length} loaded={loaderData} refused={actionData} />
          )}
        </section>
        <section className="sheet" aria-labelledby="taken">
          <h2 id="taken">Taken lately</h2>
          {taken.length === 0 ? (
            <p className="mb-0 quiet">Nothing in the last twelve hours.</p>
          ) : (
            <>
              <div className="quiet">In all, from {taken.length}</div>
              <div className="hero">
                <Value kind="weight" of={sumMg} />
              </div>
              <ul className="due-list">
                {taken.map((each) => (
                  <li key={`${each.giver} ${String(each.at)}`}>
                    <span className="spread">
                      <span>
                        {each.giver}{' '}
                        <span className="quiet">
                          {clockTime(each.at, timeZone)}
                          {each.scrapped && ', scrapped'}
                        </span>
                      </span>
                      <Value kind="weight" of={each.massMg} />
                    </span>
                  </li>
                ))}
              </ul>
            </>
          )}
        </section>
      </div>
    </>
  )
}
