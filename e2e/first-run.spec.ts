// An empty database of its own, and a server before it: the first-run page, guarded by the code on the console.
import { type ChildProcess, spawn } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { expect, test } from '@playwright/test'
import postgres from 'postgres'
import { prepareDatabase } from '../db/migrate'
import { ready } from './shop'

// One after the other, in one worker: they share the server.
test.describe.configure({ mode: 'default' })

const PORT = 4696
const database = `keg_first_${randomUUID().slice(0, 8)}`
const at = (url: string) => Object.assign(new URL(url), { pathname: `/${database}` }).href

const started: ChildProcess[] = []
let code = ''

/** Starts a server, and waits until it has said what is wanted. */
async function serve(
  port: number,
  databaseUrl: string,
  wanted: RegExp,
): Promise<{ found: string; said: () => string }> {
  const server = spawn('node', ['--import', 'tsx', 'server/listen.ts'], {
    env: { ...process.env, NODE_ENV: 'production', KEG_PORT: String(port), KEG_DATABASE_URL: databaseUrl },
    stdio: ['ignore', 'pipe', 'inherit'],
  })
  started.push(server)
  let said = ''
  const found = await new Promise<string>((resolve, reject) => {
    server.stdout.on('data', (part: Buffer) => {
      said += part.toString()
      const match = wanted.exec(said)
      if (match) resolve(match[1]!)
    })
    server.on('exit', () => reject(new Error(`the server ended: ${said}`)))
  })
  return { found, said: () => said }
}

test.beforeAll(async () => {
  const addresses = {
    adminUrl: at(process.env.KEG_ADMIN_DATABASE_URL!),
    ownerUrl: at(process.env.KEG_OWNER_DATABASE_URL!),
    appUrl: at(process.env.KEG_DATABASE_URL!),
  }
  await prepareDatabase(addresses)
  code = (await serve(PORT, addresses.appUrl, /enter this code: (\d+)/)).found
})

test.afterAll(async () => {
  for (const server of started) {
    const ended = new Promise<number | null>((resolve) => server.on('exit', resolve))
    server.kill('SIGTERM')
    expect(await ended).toBe(0)
  }
})

test('opens the shop for whoever has the code, once', async ({ page }) => {
  const origin = `http://127.0.0.1:${PORT}`
  await page.goto(`${origin}/ledger`)
  await expect(page).toHaveURL(/first-run/)
  const fill = async (with_: string) => {
    await page.getByLabel('Code').fill(with_)
    await page.getByLabel('Name of the shop').fill('Pier nine')
    await page.getByLabel('Time zone').fill('Europe/Lisbon')
    await page.getByLabel('Your name').fill('Pia Pier')
    await page.getByLabel('Sign-in name').fill('pia')
    await page.getByLabel('Password').fill('a long password')
    await page.getByRole('button', { name: 'Open the shop' }).click()
  }
  await fill('00000000')
  await expect(page.getByText('This is not the code')).toBeVisible()
  await expect(page.getByLabel('Name of the shop')).toHaveValue('Pier nine')
  await fill(code)
  await expect(page.getByRole('heading', { name: 'Bench' })).toBeVisible()
  await expect(page.getByText('No job is in hand.')).toBeVisible()
  await ready(page)
  await page.getByRole('link', { name: 'Add the first one' }).click()
  await expect(page.getByRole('heading', { name: 'Add a cylinder' })).toBeVisible()
  await page.goto(`${origin}/first-run`)
  await expect(page).toHaveURL(`${origin}/`)
})

test('of two who press at once one opens the shop, and every process gives the same code', async () => {
  const shops = () => withOwner((sql) => sql`select count(*)::int as count from shop`)
  const addresses = `keg_first_${randomUUID().slice(0, 8)}`
  const own = (url: string) => Object.assign(new URL(url), { pathname: `/${addresses}` }).href
  const appUrl = own(process.env.KEG_DATABASE_URL!)
  await prepareDatabase({
    adminUrl: own(process.env.KEG_ADMIN_DATABASE_URL!),
    ownerUrl: own(process.env.KEG_OWNER_DATABASE_URL!),
    appUrl,
  })
  const servers = await Promise.all([1, 2].map((n) => serve(PORT + 40 + n, appUrl, /enter this code: (\d+)/)))
  expect(new Set(servers.map((s) => s.found)).size).toBe(1)
  const press = (n: number) =>
    fetch(`http://127.0.0.1:${PORT + 41 + (n % 2)}/first-run`, {
      method: 'POST',
      redirect: 'manual',
      headers: { 'sec-fetch-site': 'same-origin' },
      body: new URLSearchParams({
        code: servers[0]!.found,
        shop: `Pier ${n}`,
        timeZone: 'UTC',
        name: `Pia ${n}`,
        signIn: `pia-${n}`,
        password: 'a long password',
        units: 'metric',
      }),
    })
  const answers = await Promise.all(Array.from({ length: 6 }, (_, n) => press(n)))
  const entered = answers.filter((a) => a.headers.get('location') === '/' && a.headers.has('set-cookie'))
  expect(entered).toHaveLength(1)
  expect(await shops()).toEqual([{ count: 1 }])
  expect((await press(7)).headers.get('location')).toBe('/sign-in')

  async function withOwner<T>(ask: (sql: postgres.Sql) => Promise<T>) {
    const sql = postgres(own(process.env.KEG_ADMIN_DATABASE_URL!), { max: 1 })
    return ask(sql).finally(() => sql.end())
  }
})

test('without its database Keg says what is safe, and logs the reference that it shows', async ({ page }) => {
  const nowhere = Object.assign(new URL(process.env.KEG_DATABASE_URL!), { pathname: '/keg_nowhere' }).href
  const origin = `http://127.0.0.1:${PORT + 20}`
  const { said } = await serve(PORT + 20, nowhere, /(Keg is ready)/)
  expect((await page.request.get(`${origin}/healthz`)).status()).toBe(503)
  const answer = await page.goto(origin)
  expect(answer!.status()).toBe(500)
  await expect(page.getByText('What you noted in jobs is on the server')).toBeVisible()
  const reference = await page.locator('strong').textContent()
  expect(reference).toMatch(/^[0-9a-f]{8}$/)
  expect(said()).toContain(reference!)
})
