import Joi from 'joi'
import { useState } from 'react'
import { Button, Form as BootstrapForm } from 'react-bootstrap'
import { data, Form, Link, redirect, useNavigation } from 'react-router'
import { v4 as uuid } from 'uuid'
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
import { found, idOf } from '~/form/ids.server'
import { checkForm, id, measured, type Refused, refuse, text, typedIn } from '~/form/read.server'
import { openPage } from '~/offline/page/page'
import { sendForm } from '~/offline/page/send-form'
import { now, todayIn } from '~/session/clock.server'
import { preferencesOf } from '~/session/preferences'
import { countersigners, signedFor } from '~/session/countersign.server'
import { signedIn } from '~/session/signed-in.server'
import { Field, SelectField } from '~/ui/field'
import { MeasureField } from '~/ui/measure-field'
import { typed as inUnits } from '~/ui/measure'
import { useReadersUnits, useShow, Value } from '~/ui/reader'
import { clockTime } from '~/ui/time'
import {
  CONDITION_WORDS,
  CYLINDER_KIND_WORDS,
  DECANT_QUESTIONS,
  DECANT_WORDS,
  REASON_WORDS,
  wordOf,
} from '~/wording/en'
import type { Route } from './+types/decant'

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
      sure?: DecantQuestion
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
      sure: Joi.string().valid('owner-onto-shops'),
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
        ...(sure && { sure: [sure] }),
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
      return data(refuse(typed, { sure: DECANT_QUESTIONS[error.code] }), { status: 400 })
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
          {upToMg !== null && (
            <>
              <div className="quiet">Fill it up to, on the scale</div>
              <div className="big">
                <Value kind="weight" of={upToMg} />
              </div>
              {cylinder.kind === 'station' && (
                <p className="quiet mb-2">
                  Its working fill: the room above it is for what comes out of a vehicle.
                </p>
              )}
            </>
          )}
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

function DecantForm({
  loaded: { cylinder, givers, fromMg, signers },
  refused,
}: {
  loaded: Route.ComponentProps['loaderData']
  refused: Refused | undefined
}) {
  const show = useShow()
  const units = useReadersUnits()
  const busy = useNavigation().state !== 'idle'
  const [voucherId] = useState(() => refused?.typed.voucherId ?? uuid())
  const [giverId, setGiverId] = useState(refused?.typed.giverId ?? '')
  const giver = givers.find((each) => each.cylinderId === giverId)
  const typed = refused?.typed
  const errors = refused?.errors ?? {}
  return (
    <Form method="post" className="stack">
      <input type="hidden" name="voucherId" value={voucherId} suppressHydrationWarning />
      <BootstrapForm.Group className="field">
        <BootstrapForm.Label htmlFor="giver">It comes from</BootstrapForm.Label>
        <BootstrapForm.Select
          id="giver"
          name="giverId"
          value={giverId}
          onChange={(event) => setGiverId(event.target.value)}
        >
          <option value="">Choose</option>
          {givers.map((each) => (
            <option key={each.cylinderId} value={each.cylinderId}>
              {each.label}: {each.refrigerant}, {CYLINDER_KIND_WORDS[each.kind].toLowerCase()},{' '}
              {CONDITION_WORDS[each.condition].toLowerCase()}, {show('weight', each.balanceMg)} by the books
            </option>
          ))}
        </BootstrapForm.Select>
        {errors.giverId && <div className="field-error">{errors.giverId}</div>}
        {giver?.kind === 'one-way' && (
          <div className="field-help">
            Upright, vapour only: an “empty” still holds 0.3 to 1 kg. Gloves and goggles.
          </div>
        )}
      </BootstrapForm.Group>
      <SelectField
        name="on"
        label="On the scale stands"
        value={typed?.on ?? 'taker'}
        options={[
          ['taker', `${cylinder.label}, which takes`],
          ['giver', 'the one that gives'],
        ]}
      />
      <MeasureField
        name="before"
        kind="weight"
        label="The scale showed before"
        value={typed?.before ?? (fromMg === null ? undefined : inUnits('weight', fromMg, units))}
        error={errors.before}
        help={`By the books ${cylinder.label} weighs ${show('weight', cylinder.tareMg + cylinder.balanceMg)}.`}
      />
      <MeasureField
        name="after"
        kind="weight"
        label="The scale showed after"
        value={typed?.after}
        error={errors.after}
      />
      {giver?.kind === 'one-way' && (
        <BootstrapForm.Check
          id="scrapped"
          name="scrapped"
          label="Rendered useless: relief disc opened with eye protection and a cheap tool, marked, metal to recycling"
        />
      )}
      <Field name="text" label="Remark" value={typed?.text} maxLength={500} />
      {signers && (
        <>
          <SelectField
            name="countersigner"
            label="Countersigned by"
            value={typed?.countersigner ?? ''}
            error={errors.countersigner}
            options={[['', 'Choose'], ...signers.map((each): [string, string] => [each.userId, each.name])]}
          />
          <Field
            name="countersignPassword"
            label="Their password"
            type="password"
            autoComplete="off"
            value=""
            error={errors.countersignPassword}
          />
        </>
      )}
      {errors.form && (
        <div className="field-error" role="alert">
          {errors.form}
        </div>
      )}
      {errors.sure && (
        <div className="field-error" role="alert">
          {errors.sure}
        </div>
      )}
      <div className="row-of">
        <Button type="submit" className="btn-big" disabled={busy}>
          Book it
        </Button>
        {errors.sure && (
          <Button
            type="submit"
            name="sure"
            value="owner-onto-shops"
            variant="outline-primary"
            className="btn-big"
            disabled={busy}
          >
            It is the shop’s now
          </Button>
        )}
      </div>
    </Form>
  )
}
