// Behind another server: whatever it makes of Host and X-Forwarded-*, people can sign in, and nobody is believed about
// where they come from who is not among those that are set.
import { request } from 'node:http'
import { aServer, type AServer } from '../testing/a-server'
import { expect, PASSWORD, test } from './shop'

test.describe.configure({ mode: 'default' })

let behind: AServer
let believing: AServer
test.beforeAll(async () => {
  const env = { KEG_ORIGIN: 'https://keg.harbour.test', KEG_RATE_SIGN_IN_ADDRESS: '4/3599' }
  ;[behind, believing] = await Promise.all([
    aServer(process.env.KEG_DATABASE_URL!, env),
    aServer(process.env.KEG_DATABASE_URL!, { ...env, KEG_TRUST_PROXY: 'loopback' }),
  ])
})
test.afterAll(() => Promise.all([behind.stop(), believing.stop()]))

/** What a server in between would send on. */
function signIn(server: AServer, name: string, headers: Record<string, string>) {
  const body = new URLSearchParams({ signIn: name, password: PASSWORD, to: '/ledger' }).toString()
  return new Promise<{ status: number; location: string; cookie: string }>((resolve, reject) => {
    const sent = request(
      `${server.origin}/sign-in`,
      {
        method: 'POST',
        headers: {
          origin: 'https://keg.harbour.test',
          'content-type': 'application/x-www-form-urlencoded',
          'content-length': String(body.length),
          ...headers,
        },
      },
      (answer) => {
        answer.resume()
        const { location = '', 'set-cookie': [cookie = ''] = [] } = answer.headers
        resolve({ status: answer.statusCode!, location, cookie })
      },
    )
    sent.on('error', reject)
    sent.end(body)
  })
}

test('people sign in, with Host kept or rewritten, with and without X-Forwarded-*', async ({ shop }) => {
  const forwarded = {
    'x-forwarded-for': '203.0.113.9',
    'x-forwarded-proto': 'https',
    'x-forwarded-host': 'keg.harbour.test',
  }
  const { host } = new URL(believing.origin)
  let address = 1
  for (const headers of [
    { host: 'keg.harbour.test' },
    { host },
    { host: 'keg.harbour.test', ...forwarded },
    { host, ...forwarded },
    { host, ...forwarded, 'x-forwarded-host': 'elsewhere.test', 'x-forwarded-proto': 'http' },
  ]) {
    const from = { 'x-forwarded-for': `203.0.113.${address++}` }
    const { status, location, cookie } = await signIn(believing, shop.signIn.metric, { ...headers, ...from })
    expect([status, location], JSON.stringify(headers)).toEqual([302, '/ledger'])
    expect(cookie).toContain('Secure')
  }
})

test('a form from elsewhere is refused there, too', async ({ shop }) => {
  const { status } = await signIn(believing, shop.signIn.metric, {
    origin: 'https://elsewhere.test',
    host: 'keg.harbour.test',
    'x-forwarded-for': '203.0.113.77',
  })
  expect(status).toBe(403)
})

test('X-Forwarded-For counts only from the servers that are set', async () => {
  const tries = async (server: AServer) => {
    const statuses: number[] = []
    for (let i = 0; i < 6; i++)
      statuses.push(
        (
          await signIn(server, `nobody-${i}`, {
            'x-forwarded-for': `198.51.100.${i}`,
            host: 'keg.harbour.test',
          })
        ).status,
      )
    return statuses
  }
  expect(await tries(behind)).toEqual([400, 400, 400, 400, 429, 429])
  expect(await tries(believing)).toEqual([400, 400, 400, 400, 400, 400])
})

test('what the supervised server prints is its address for browsers', () => {
  expect(behind.said()).toContain('Keg is ready: https://keg.harbour.test')
})
