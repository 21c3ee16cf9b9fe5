import Joi from 'joi'
import { useSyncExternalStore } from 'react'
import { Button } from 'react-bootstrap'
import { data, Form, redirect, useNavigation, useSearchParams } from 'react-router'
import { closeSession, findSession, findSignIn, inShop, nobodyYet, openSession, passwordHashOf } from '#db'
import { readForm, refuse, text } from '~/form/read.server'
import { openPage } from '~/offline/page/page'
import { formUnsent, sendForm, subscribeToForms } from '~/offline/page/send-form'
import { sessionCookie, sessionToken } from '~/session/cookie.server'
import { passwordFits } from '~/session/password.server'
import { ownPath } from '~/session/own-path'
import { addressKey, overLimit, slowBeyond } from '~/session/rate.server'
import { requestFacts } from '~/session/request-facts'
import { Field } from '~/ui/field'
import type { Route } from './+types/sign-in'

export function meta() {
  return [{ title: 'Sign in · Keg' }]
}

export async function loader({ request }: Route.LoaderArgs) {
  if (await nobodyYet()) throw redirect('/first-run')
  const token = await sessionToken(request)
  if (token && (await findSession(token))) throw redirect('/')
  return null
}

export const clientLoader = openPage<Awaited<ReturnType<typeof loader>>>()

const schema = Joi.object<{ signIn: string; password: string; to?: string }>({
  signIn: text('your sign-in name', 200).required(),
  password: Joi.string().max(500).empty('').required().messages({ '*': 'Enter your password.' }),
  to: Joi.string().allow(''),
})

export async function action({ request, context }: Route.ActionArgs) {
  const form = await readForm(request, schema)
  if (form.refused) return data(form.refused, { status: 400 })
  const { signIn, password, to } = form.value
  const { address } = context.get(requestFacts)
  const name = signIn.toLowerCase()
  const from = addressKey(address)
  const wait =
    (await overLimit('SIGN_IN_ADDRESS', from)) ?? (await overLimit('SIGN_IN', `${name} from ${from}`))
  if (wait) return data(refuse({ signIn }, { password: wait }), { status: 429 })
  await slowBeyond('SIGN_IN_NAME', name)
  const found = await findSignIn(signIn)
  const hash = found && (await inShop(found.shopId, (tx) => passwordHashOf(tx, found.userId)))
  if (!(await passwordFits(password, hash)) || !found)
    return data(
      refuse(
        { signIn },
        { password: 'Name or password is wrong: type both again, or ask a manager to reset it.' },
      ),
      {
        status: 400,
      },
    )
  // Who was signed in here before is not any more.
  const before = await sessionToken(request)
  if (before) await closeSession(before)
  const token = await openSession(found.shopId, found.userId)
  return redirect(ownPath(to), { headers: { 'set-cookie': await sessionCookie.serialize(token) } })
}

export async function clientAction(sent: Route.ClientActionArgs) {
  return sendForm(sent)
}

export default function SignIn({ actionData }: Route.ComponentProps) {
  const busy = useNavigation().state !== 'idle'
  const [search] = useSearchParams()
  const unsent = useSyncExternalStore(subscribeToForms, formUnsent, () => false)
  return (
    <main className="door">
      <div className="mark">Keg</div>
      <p className="quiet">Every gram accounted for, from the cylinder rack to the charge label.</p>
      <Form method="post" className="sheet stack">
        <h1 className="h2 mb-0">Sign in</h1>
        <input type="hidden" name="to" value={search.get('to') ?? ''} />
        <Field
          name="signIn"
          label="Sign-in name"
          value={actionData?.typed.signIn}
          error={actionData?.errors.signIn}
          autoComplete="username"
          autoFocus
        />
        <Field
          name="password"
          label="Password"
          type="password"
          error={actionData?.errors.password}
          autoComplete="current-password"
        />
        {unsent && (
          <p className="field-error mb-0" role="alert">
            No connection: nobody can sign in without one. Try again once it is back.
          </p>
        )}
        <Button type="submit" className="btn-big" disabled={busy}>
          {busy ? 'Signing in …' : 'Sign in'}
        </Button>
      </Form>
    </main>
  )
}
