// A person at the door of a route: a session of its own, let in by the same middleware as everybody.
import { randomUUID } from 'node:crypto'
import { RouterContextProvider } from 'react-router'
import { addPerson, inShop, openSession, type Role } from '#db'
import { sessionCookie } from '~/base/session/cookie.server'
import { requestFacts } from '~/base/session/request-facts'
import { onlySignedIn } from '~/base/session/signed-in.server'
import { type AShop, NOW } from './a-shop'

export async function letIn(shop: AShop, role: Role, preferences = {}) {
  const userId = randomUUID()
  await inShop(shop.shopId, (tx) =>
    addPerson(tx, { userId, signIn: userId, name: role, role, passwordHash: 'x', preferences, at: NOW }),
  )
  return through(await openSession(shop.shopId, userId), '/')
}

/** @throws Response when the door stays shut */
export async function through(token: string | undefined, path: string, method = 'GET') {
  const headers = token ? { cookie: await sessionCookie.serialize(token) } : undefined
  const request = new Request(`http://keg.test${path}`, { method, ...(headers ? { headers } : {}) })
  const context = new RouterContextProvider()
  context.set(requestFacts, { nonce: 'n', reference: 'r', build: '', shell: false, address: '127.0.0.1' })
  await onlySignedIn({ request, context, params: {} } as never, async () => new Response())
  return context
}

export const sendForm = (fields: Record<string, string>) =>
  new Request('http://keg.test/', { method: 'POST', body: new URLSearchParams(fields) })

export const sendJson = (body: unknown) =>
  new Request('http://keg.test/', { method: 'POST', body: JSON.stringify(body) })

/** What a route answered, returned or thrown. */
export async function answered(
  work: Promise<unknown>,
): Promise<{ status: number; body: unknown; location: string | null }> {
  const answer = await work.catch((thrown: unknown) => thrown)
  if (answer instanceof Response) {
    const text = await answer.text()
    const isJson = answer.headers.get('content-type')?.includes('json')
    return {
      status: answer.status,
      body: isJson ? (JSON.parse(text) as unknown) : text,
      location: answer.headers.get('location'),
    }
  }
  if (answer instanceof Error) throw answer
  const { data, init } = answer as { data: unknown; init?: { status?: number } }
  return { status: init?.status ?? 200, body: data, location: null }
}
