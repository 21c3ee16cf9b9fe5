import { randomUUID } from 'node:crypto'
import Joi from 'joi'
import { Button } from 'react-bootstrap'
import { data, Form, redirect, useNavigation } from 'react-router'
import { addPerson, foundShop, inShop, nobodyYet, openSession, takeFirstRun } from '#db'
import { readForm, refuse, text } from '~/base/form/read.server'
import { openPage } from '~/device/page/page'
import { now } from '~/base/session/clock.server'
import { sessionCookie } from '~/base/session/cookie.server'
import { hashPassword, LEAST_PASSWORD_LENGTH } from '~/base/session/password.server'
import { UNIT_SYSTEMS } from '~/base/session/preferences'
import { addressKey, overLimit } from '~/base/session/rate.server'
import { requestFacts } from '~/base/session/request-facts'
import { Field, SelectField } from '~/base/ui/field'
import type { Route } from './+types/first-run'

export function meta() {
  return [{ title: 'First run · Keg' }]
}

export async function loader() {
  if (!(await nobodyYet())) throw redirect('/sign-in')
  return { timeZones: Intl.supportedValuesOf('timeZone') }
}

export const clientLoader = openPage<Awaited<ReturnType<typeof loader>>>()

interface FirstRun {
  code: string
  shop: string
  timeZone: string
  name: string
  signIn: string
  password: string
  units: 'metric' | 'us'
}

const schema = Joi.object<FirstRun>({
  code: text('the code from the console', 20).required(),
  shop: text('the name of the shop', 200).required(),
  timeZone: Joi.string()
    .valid('UTC', ...Intl.supportedValuesOf('timeZone'))
    .required()
    .messages({ '*': 'Choose a time zone from the list, such as Europe/Lisbon.' }),
  name: text('your name', 200).required(),
  signIn: text('a sign-in name', 200).required(),
  password: Joi.string()
    .min(LEAST_PASSWORD_LENGTH)
    .max(500)
    .empty('')
    .required()
    .messages({
      'any.required': 'Choose a password.',
      '*': `Choose a password of at least ${LEAST_PASSWORD_LENGTH} characters.`,
    }),
  units: Joi.string().valid('metric', 'us').required(),
})

export async function action({ request, context }: Route.ActionArgs) {
  if (!(await nobodyYet())) throw redirect('/sign-in')
  const form = await readForm(request, schema)
  if (form.refused) return data(form.refused, { status: 400 })
  const { code, shop, timeZone, name, signIn, password, units } = form.value
  const refused = (sentence: string) => data(refuse(form.value as never, { code: sentence }), { status: 400 })
  const wait = await overLimit('SIGN_IN', `first run from ${addressKey(context.get(requestFacts).address)}`)
  if (wait) return refused(wait)
  const shopId = randomUUID()
  const userId = randomUUID()
  const passwordHash = await hashPassword(password)
  const taken = await inShop(shopId, async (tx) => {
    if (!(await takeFirstRun(tx, code.trim()))) return false
    await foundShop(tx, { shopId, name: shop, timeZone, at: now() })
    const preferences = { units: UNIT_SYSTEMS[units] }
    await addPerson(tx, { userId, signIn, name, role: 'manager', passwordHash, preferences, at: now() })
    return true
  })
  if (!taken && !(await nobodyYet())) throw redirect('/sign-in')
  if (!taken) return refused('This is not the code: read it from the console where Keg was started.')
  const token = await openSession(shopId, userId)
  return redirect('/', { headers: { 'set-cookie': await sessionCookie.serialize(token) } })
}

export default function FirstRun({ loaderData, actionData }: Route.ComponentProps) {
  const busy = useNavigation().state !== 'idle'
  const field = (name: keyof FirstRun) => ({
    name,
    value: actionData?.typed[name],
    error: actionData?.errors[name],
  })
  return (
    <main className="door">
      <div className="mark">Keg</div>
      <p className="quiet">Nobody has signed up here yet. You become the first manager.</p>
      <Form method="post" className="sheet stack">
        <h1 className="h2 mb-0">Open the shop</h1>
        <Field
          {...field('code')}
          label="Code"
          help="It stands on the console where Keg was started."
          autoComplete="one-time-code"
          inputMode="numeric"
        />
        <Field {...field('shop')} label="Name of the shop" autoComplete="organization" />
        <Field
          {...field('timeZone')}
          label="Time zone"
          list={loaderData.timeZones}
          help="Such as Europe/Lisbon."
        />
        <Field {...field('name')} label="Your name" autoComplete="name" />
        <Field {...field('signIn')} label="Sign-in name" autoComplete="username" />
        <Field {...field('password')} label="Password" type="password" autoComplete="new-password" />
        <SelectField
          {...field('units')}
          label="Your units"
          options={[
            ['metric', 'kg, bar, °C'],
            ['us', 'lb and oz, psi, °F'],
          ]}
        />
        <Button type="submit" className="btn-big" disabled={busy}>
          {busy ? 'Opening …' : 'Open the shop'}
        </Button>
      </Form>
    </main>
  )
}
