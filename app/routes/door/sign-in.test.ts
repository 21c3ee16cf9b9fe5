import { randomUUID } from 'node:crypto'
import { RouterContextProvider } from 'react-router'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { closeDatabase } from '#db'
import { hashPassword } from '~/base/session/password.server'
import { requestFacts } from '~/base/session/request-facts'
import { aShop } from '../../../testing/a-shop'
import { action } from './sign-in'

const PASSWORD = 'a long password'
const signIn = `harbour-${randomUUID()}`
beforeAll(async () => void (await aShop(await hashPassword(PASSWORD), signIn)))
afterAll(closeDatabase)

/** One try from an address, with what the browser has kept. */
async function tries(password: string, address: string, cookie = '') {
  const context = new RouterContextProvider()
  context.set(requestFacts, { nonce: 'n', reference: 'r', build: '', shell: false, address })
  const request = new Request('http://keg.test/sign-in', {
    method: 'POST',
    body: new URLSearchParams({ signIn, password }),
    headers: { cookie },
  })
  const answer = (await action({ request, context, params: {} } as never)) as
    Response | { init: { status: number } }
  if (!(answer instanceof Response)) return { status: answer.init.status, kept: '' }
  const kept = answer.headers.getSetCookie().find((each) => each.startsWith('keg_known='))
  return { status: answer.status, kept: kept?.split(';')[0] ?? '' }
}

it('ten wrong passwords from an address lock out whoever comes from there as a stranger, and nobody who is known in their browser', async () => {
  const address = `203.0.113.${Math.floor(Math.random() * 250)}`
  const mine = await tries(PASSWORD, address)
  expect(mine.status).toBe(302)
  expect(mine.kept).toMatch(/^keg_known=/)
  for (let i = 0; i < 12; i++) await tries('guessed at random', address)
  // The right password does not help a stranger there, for a while.
  expect((await tries(PASSWORD, address)).status).toBe(429)
  expect((await tries(PASSWORD, address, mine.kept)).status).toBe(302)
  // A browser in which a password is guessed is stopped, too, by itself; a mark of one's own making is none.
  for (let i = 0; i < 10; i++) await tries('guessed here', address, mine.kept)
  expect((await tries(PASSWORD, address, mine.kept)).status).toBe(429)
  expect((await tries(PASSWORD, address, 'keg_known=WyJtYWRlIHVwIl0%3D')).status).toBe(429)
})
