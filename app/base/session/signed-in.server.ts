import { createContext, type MiddlewareFunction, redirect, type RouterContextProvider } from 'react-router'
import { findSession, nobodyYet, type SignedIn } from '#db'
import { sessionToken } from './cookie.server'
import { pageOf } from './own-path'

const signedInContext = createContext<SignedIn>()

/** Nobody passes without a session; whoever has none is asked to sign in and comes back to the same page. */
export const onlySignedIn: MiddlewareFunction<Response> = async ({ request, context }, next) => {
  const token = await sessionToken(request)
  const found = token && (await findSession(token))
  if (!found) throw await toSignIn(request)
  context.set(signedInContext, found)
  return next()
}

/** Who asks. */
export function signedIn(context: Readonly<RouterContextProvider>): SignedIn {
  return context.get(signedInContext)
}

/** Trainees look on; whoever writes must be a technician or a manager. */
export function writer(context: Readonly<RouterContextProvider>): SignedIn {
  const who = signedIn(context)
  if (who.person.role === 'trainee')
    throw new Response('Trainees may read everything and change nothing: ask a technician to note this.', {
      status: 403,
    })
  return who
}

export function manager(context: Readonly<RouterContextProvider>): SignedIn {
  const who = signedIn(context)
  if (who.person.role !== 'manager')
    throw new Response('Only a manager may change this: ask one of them.', { status: 403 })
  return who
}

async function toSignIn(request: Request): Promise<Response> {
  if (await nobodyYet()) return redirect('/first-run')
  const back = pageOf(request.url)
  return redirect(
    request.method === 'GET' && back !== '/' ? `/sign-in?to=${encodeURIComponent(back)}` : '/sign-in',
  )
}
