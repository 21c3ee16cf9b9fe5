import { redirect } from 'react-router'
import { closeSession } from '#db'
import { sessionCookie, sessionToken } from '~/base/session/cookie.server'
import type { Route } from './+types/sign-out'

export function loader() {
  return redirect('/')
}

export async function action({ request }: Route.ActionArgs) {
  const token = await sessionToken(request)
  if (token) await closeSession(token)
  return redirect('/sign-in', { headers: { 'set-cookie': await sessionCookie.serialize('', { maxAge: 0 }) } })
}
