import { aJob } from '../testing/a-shop'
import { expect, open, PASSWORD, ready, test } from './shop'

test('signing in keeps the name, leads back to where one was, and out again', async ({ page, shop }) => {
  await page.goto('/ledger')
  await expect(page).toHaveURL(/sign-in\?to=%2Fledger/)
  await page.getByLabel('Sign-in name').fill(shop.signIn.metric)
  await page.getByLabel('Password').fill('wrong')
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page.getByText('Name or password is wrong')).toBeVisible()
  await expect(page.getByLabel('Sign-in name')).toHaveValue(shop.signIn.metric)
  await page.getByLabel('Password').fill(PASSWORD)
  await page.getByRole('button', { name: 'Sign in' }).click()
  await expect(page).toHaveURL(/\/ledger$/)
  const cookie = (await page.context().cookies()).find((c) => c.name === 'keg_session')!
  expect(cookie).toMatchObject({ httpOnly: true, sameSite: 'Lax' })
  await page.getByRole('button', { name: 'Sign out' }).click()
  await expect(page.getByRole('heading', { name: 'Sign in' })).toBeVisible()
  await page.goto('/')
  await expect(page).toHaveURL(/sign-in/)
})

test('too many tries are refused for a while', async ({ page }) => {
  const name = `nobody-${crypto.randomUUID()}`
  await page.goto('/sign-in')
  for (let i = 0; i < 11; i++) {
    await page.getByLabel('Sign-in name').fill(name)
    await page.getByLabel('Password').fill(`guess ${i}`)
    const answered = page.waitForResponse((r) => r.request().method() === 'POST')
    await page.getByRole('button', { name: 'Sign in' }).click()
    await answered
  }
  await expect(page.getByText(/Too many tries: wait/)).toBeVisible()
})

test('answers carry their guards, and refuse what comes from elsewhere', async ({
  request,
  as,
  shop,
  baseURL,
}) => {
  const answer = await request.get('/sign-in')
  const policy = answer.headers()['content-security-policy']!
  expect(policy).toMatch(/script-src 'self' 'nonce-[^']+'/)
  expect(policy).toContain("frame-ancestors 'none'")
  const again = (await request.get('/sign-in')).headers()['content-security-policy']
  expect(again).not.toBe(policy)

  const page = await as('metric')
  await open(page, '/')
  const cookie = (await page.context().cookies()).map((c) => `${c.name}=${c.value}`).join('; ')
  for (const path of [
    '/jobs/00000000-0000-4000-8000-000000000000/tape',
    '/settings',
    '/sign-out',
    '/cylinders/new',
  ]) {
    const elsewhere = await request.post(path, {
      headers: { cookie, origin: 'http://elsewhere.test', 'sec-fetch-site': 'cross-site' },
      data: { entries: [], sentAt: 0 },
      maxRedirects: 0,
    })
    expect(elsewhere.status(), path).toBe(403)
  }
  expect((await request.get('/events', { maxRedirects: 0 })).status()).toBe(302)
  expect((await request.get(`${baseURL}/healthz`)).status()).toBe(200)
  void shop
})

test('what is a shop’s is kept by no cache, and belongs to its cookie', async ({
  as,
  request,
  baseURL,
  shop,
}) => {
  const page = await as('metric')
  const job = await aJob(shop)
  const cookie = (await page.context().cookies(baseURL)).map((c) => `${c.name}=${c.value}`).join('; ')
  for (const path of [
    '/',
    '/_root.data',
    '/ledger',
    '/ledger.csv',
    `/jobs/${job}/tape`,
    '/find?q=a',
    '/settings.data',
  ]) {
    const answer = await request.get(path, { headers: { cookie } })
    expect(answer.status(), path).toBe(200)
    expect(answer.headers()['cache-control'], path).toMatch(/^private, no-store/)
    expect(answer.headers().vary?.toLowerCase(), path).toContain('cookie')
  }
})

test('signing in over a session ends the old one', async ({ browser, shop, baseURL }) => {
  const context = await browser.newContext()
  const page = await context.newPage()
  const signIn = async () => {
    await page.goto('/sign-in')
    await page.getByLabel('Sign-in name').fill(shop.signIn.us)
    await page.getByLabel('Password').fill(PASSWORD)
    await page.getByRole('button', { name: 'Sign in' }).click()
    await expect(page.getByRole('heading', { name: 'Bench' })).toBeVisible()
    return (await context.cookies()).find((c) => c.name === 'keg_session')!.value
  }
  const first = await signIn()
  // The door stays shut to whoever is in: it is opened from another tab, sent from this one.
  const answer = await page.request.post('/sign-in', {
    headers: { 'sec-fetch-site': 'same-origin' },
    form: { signIn: shop.signIn.us, password: PASSWORD },
    maxRedirects: 0,
  })
  expect(answer.status()).toBe(302)
  const old = await fetch(`${baseURL}/ledger`, {
    headers: { cookie: `keg_session=${first}` },
    redirect: 'manual',
  })
  expect(old.headers.get('location')).toMatch(/sign-in/)
  await context.close()
})

test('a trainee reads everything and changes nothing', async ({ as, shop }) => {
  const page = await as('trainee')
  await open(page, '/')
  await expect(page.getByRole('link', { name: 'New job' })).toHaveCount(0)
  await page.goto('/jobs/new')
  await expect(page.getByText('Trainees may read everything')).toBeVisible()
  const status = await page.evaluate(async () => {
    const response = await fetch('/jobs/00000000-0000-4000-8000-000000000000/tape', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{}',
    })
    return response.status
  })
  expect(status).toBe(403)
  void shop
})

test('an address that is not there, or belongs to another shop, says so and nothing more', async ({ as }) => {
  const page = await as('metric')
  for (const path of [
    '/nowhere',
    '/jobs/not-an-id',
    '/jobs/00000000-0000-4000-8000-000000000000',
    '/cylinders/00000000-0000-4000-8000-000000000000',
    '/systems/00000000-0000-4000-8000-000000000000/change',
  ]) {
    const answer = await page.goto(path)
    expect(answer!.status(), path).toBe(404)
    await expect(page.getByRole('heading', { name: 'There is nothing here' })).toBeVisible()
  }
  const unknown = await page.request.post('/nowhere', { headers: { 'sec-fetch-site': 'same-origin' } })
  expect(unknown.status()).toBe(404)
  await page.getByRole('link', { name: 'To the Bench', exact: true }).click()
  await expect(page.getByRole('heading', { name: 'Bench' })).toBeVisible()
})

test('settings: units, people and password', async ({ as, shop, browser }) => {
  const page = await as('metric')
  await open(page, '/settings')
  const signIn = `new-${crypto.randomUUID()}`
  await page.getByLabel('Name', { exact: true }).last().fill('Nell Newly')
  await page.getByLabel('Sign-in name').fill(signIn)
  await page.getByLabel('First password').fill('short')
  await page.getByRole('button', { name: 'Add', exact: true }).click()
  await expect(page.getByText('at least 10 characters')).toBeVisible()
  await expect(page.getByLabel('Sign-in name')).toHaveValue(signIn)
  await page.getByLabel('First password').fill('long enough now')
  await page.getByRole('button', { name: 'Add', exact: true }).click()
  await expect(page.getByText(`can sign in as ${signIn}`)).toBeVisible()

  const context = await browser.newContext()
  const hers = await context.newPage()
  await hers.goto('/sign-in')
  await hers.getByLabel('Sign-in name').fill(signIn)
  await hers.getByLabel('Password').fill('long enough now')
  await hers.getByRole('button', { name: 'Sign in' }).click()
  await expect(hers.getByRole('heading', { name: 'Bench' })).toBeVisible()
  await hers.goto('/settings')
  await ready(hers)
  await expect(hers.getByText('The shop', { exact: true })).toHaveCount(0)
  await hers.getByLabel('Weight').selectOption('lb-oz')
  await hers.getByLabel('Look').selectOption('dark')
  await hers.getByRole('button', { name: 'Save', exact: true }).click()
  await expect(hers.getByText('Your units and your look are saved.')).toBeVisible()
  await expect(hers.locator('html')).toHaveAttribute('data-bs-theme', 'dark')
  await hers.getByLabel('Password now').fill('not this')
  await hers.getByLabel('New password').fill('another long one')
  await hers.getByRole('button', { name: 'Change it' }).click()
  await expect(hers.getByText('This is not the password you have now')).toBeVisible()
  await hers.getByLabel('Password now').fill('long enough now')
  await hers.getByLabel('New password').fill('another long one')
  await hers.getByRole('button', { name: 'Change it' }).click()
  await expect(hers.getByText('Your password is changed')).toBeVisible()

  // Disabled: the next press leads to the door.
  await open(page, '/settings')
  await page.locator('summary', { hasText: 'Nell Newly' }).click()
  await page.getByLabel('May sign in').locator('visible=true').selectOption('no, disabled')
  await page.getByRole('button', { name: 'Save', exact: true }).locator('visible=true').last().click()
  await expect(page.getByText('Saved.')).toBeVisible()
  await hers.goto('/')
  await expect(hers).toHaveURL(/sign-in/)
  await context.close()
  void shop
})
