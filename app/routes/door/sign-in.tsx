import { createHash, randomBytes } from 'node:crypto'
import Joi from 'joi'
import { useSyncExternalStore } from 'react'
import { Button } from 'react-bootstrap'
import { data, Form, redirect, useNavigation, useSearchParams } from 'react-router'
import {
  browserKnown,
  closeSession,
  findSession,
  findSignIn,
  inShop,
  keepBrowser,
  nobodyYet,
  openSession,
  passwordHashOf,
} from '#db'
import { readForm, refuse, text } from '~/base/form/read.server'
import { openPage } from '~/device/page/page'
import { formUnsent, sendForm, subscribeToForms } from '~/device/page/send-form'
import { marksIn, sessionCookie, sessionToken, withMark } from '~/base/session/cookie.server'
import { passwordFits } from '~/base/session/password.server'
import { ownPath } from '~/base/session/own-path'
import { addressKey, overLimit, slowBeyond } from '~/base/session/rate.server'
import { requestFacts } from '~/base/session/request-facts'
import { Field } from '~/base/ui/field'
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
  const found = await findSignIn(signIn)
  const marks = await marksIn(request)
  const known = found && (await markOf(marks, found.userId))
  const wait = await tooManyTries(signIn.toLowerCase(), addressKey(context.get(requestFacts).address), known)
  if (wait) return data(refuse({ signIn }, { password: wait }), { status: 429 })
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
  const mark = known ?? randomBytes(24).toString('base64url')
  await keepBrowser(mark, found.shopId, found.userId)
  const headers = new Headers()
  headers.append('set-cookie', await sessionCookie.serialize(token))
  headers.append('set-cookie', await withMark(marks, mark))
  return redirect(ownPath(to), { headers })
}

/** The mark of whoever wants in, where they have signed in before. */
async function markOf(marks: readonly string[], userId: string): Promise<string | undefined> {
  for (const mark of marks) if (await browserKnown(mark, userId)) return mark
  return undefined
}

/**
 * A browser that is known counts for itself: whoever guesses somebody's password beside them, or from their address, does
 * not lock them out. @returns a sentence
 */
async function tooManyTries(name: string, from: string, known: string | undefined) {
  if (known) return overLimit('SIGN_IN', `${name} in ${createHash('sha256').update(known).digest('hex')}`)
  const wait =
    (await overLimit('SIGN_IN_ADDRESS', from)) ?? (await overLimit('SIGN_IN', `${name} from ${from}`))
  if (!wait) await slowBeyond('SIGN_IN_NAME', name)
  return wait
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
