// A shop of its own for each worker, with a stored sign-in for each of its people.
import { randomUUID } from 'node:crypto'
import { hash } from '@node-rs/argon2'
import {
  type BrowserContext,
  type BrowserContextOptions,
  expect,
  type Page,
  test as base,
  type TestInfo,
} from '@playwright/test'
import { METRIC_UNITS, US_UNITS } from '#core/units'
import { addPerson, inShop, openSession } from '#db'
import { sessionOf } from '../testing/a-session'
import { aCylinder, type AShop, aShop, aSystem, NOW } from '../testing/a-shop'

type Who = 'metric' | 'us' | 'trainee'
export const PASSWORD = 'a long password'

export interface Harbour extends AShop {
  signIn: Record<Who, string>
  cookies: Record<Who, string>
}

interface Fixtures {
  /** Opens a page that is signed in: each person has one browser a worker, unless the test brings one of its own. */
  as: (who: Who, context?: BrowserContext) => Promise<Page>
  /** A page in a shop of its own, signed in as its manager: for what would be lost among what other tests have added. */
  alone: (options?: BrowserContextOptions) => Promise<{ page: Page; shop: AShop }>
}

interface WorkerFixtures {
  shop: Harbour
  browsers: (who: Who) => Promise<BrowserContext>
}

export const test = base.extend<Fixtures, WorkerFixtures>({
  shop: [
    // eslint-disable-next-line no-empty-pattern
    async ({}, use) => {
      const signIn = {
        metric: `metric-${randomUUID()}`,
        us: `us-${randomUUID()}`,
        trainee: `trainee-${randomUUID()}`,
      }
      const passwordHash = await hash(PASSWORD)
      const shop = await aShop(passwordHash, signIn.metric, { units: METRIC_UNITS })
      const add = async (who: 'us' | 'trainee', role: 'technician' | 'trainee') => {
        const userId = randomUUID()
        await inShop(shop.shopId, (tx) =>
          addPerson(tx, {
            userId,
            signIn: signIn[who],
            name: who === 'us' ? 'Uma Pounds' : 'Tam Trainee',
            role,
            passwordHash,
            preferences: { units: who === 'us' ? US_UNITS : METRIC_UNITS },
            at: NOW,
          }),
        )
        return openSession(shop.shopId, userId)
      }
      const cookies = {
        metric: await openSession(shop.shopId, shop.userId),
        us: await add('us', 'technician'),
        trainee: await add('trainee', 'trainee'),
      }
      await use({ ...shop, signIn, cookies })
    },
    { scope: 'worker' },
  ],
  browsers: [
    async ({ browser }, use) => {
      const opened = new Map<Who, Promise<BrowserContext>>()
      await use((who) => {
        const context =
          opened.get(who) ??
          browser.newContext({
            viewport: { width: 1280, height: 800 },
            timezoneId: 'UTC',
            reducedMotion: 'reduce',
            baseURL: process.env.KEG_TEST_ORIGIN ?? 'http://127.0.0.1:4699',
          })
        opened.set(who, Promise.resolve(context))
        return opened.get(who)!
      })
      for (const context of opened.values()) await (await context).close()
    },
    { scope: 'worker' },
  ],
  as: async ({ browsers, shop, baseURL }, use, info) => {
    const pages: Page[] = []
    await use(async (who, context) => {
      const browser = context ?? (await browsers(who))
      await browser.addCookies([sessionOf(shop.cookies[who], baseURL!)])
      const page = await browser.newPage()
      pages.push(page)
      watch(page)
      return page
    })
    for (const page of pages) {
      await tellWhere(page, info)
      const context = page.context()
      if (!page.isClosed()) await page.close()
      await context.setOffline(false).catch(() => {
        // The test has closed its own browser.
      })
    }
  },
  alone: async ({ browser, baseURL }, use, info) => {
    const contexts: BrowserContext[] = []
    await use(async (options) => {
      const shop = await aShop('no password', undefined, { units: METRIC_UNITS })
      const context = await browser.newContext({ ...options, baseURL: baseURL! })
      contexts.push(context)
      await context.addCookies([sessionOf(await openSession(shop.shopId, shop.userId), baseURL!)])
      const page = await context.newPage()
      watch(page)
      return { page, shop }
    })
    for (const context of contexts) {
      for (const page of context.pages()) await tellWhere(page, info)
      await context.close()
    }
  },
})

/** What a test that failed had before it, in its log: where it ran, often nothing else of it is left. */
async function tellWhere(page: Page, { title, status, expectedStatus }: TestInfo) {
  if (status === expectedStatus || page.isClosed()) return
  const said = await page
    .locator('body')
    .innerText({ timeout: 2_000 })
    .catch((error: Error) => `no text: ${error.message}`)
  const heard = troubles.get(page)?.join('; ') || 'nothing'
  console.error(
    `[${title}] failed at ${page.url()}\n${said.slice(0, 1_500)}\nThe browser complained of: ${heard}`,
  )
}

const troubles = new WeakMap<Page, string[]>()

/** Everything the browser complains about. A refused form is no complaint. */
function watch(page: Page) {
  const seen: string[] = []
  troubles.set(page, seen)
  page.on('pageerror', (error) => seen.push(error.message))
  page.on('console', (message) => {
    if (
      message.type() === 'error' &&
      !/status of (400|403|404|409|429|503)|ERR_INTERNET_DISCONNECTED|net::ERR/.test(message.text())
    )
      seen.push(message.text())
  })
}

export function expectNoTrouble(page: Page) {
  expect(troubles.get(page)).toEqual([])
}

/** Opens a page and waits until it answers to presses. */
export async function open(page: Page, path: string) {
  await page.goto(path, { waitUntil: 'commit' })
  await ready(page)
}

/** Waits until the page has come alive. */
export async function ready(page: Page) {
  await page.locator('html[data-alive]').waitFor({ state: 'attached' })
}

/** Shows every cylinder of this gas, those that fit and those that do not. */
export async function showAllCylinders(page: Page) {
  await expect(page.getByRole('heading', { name: /^Cylinder to/ })).toBeVisible()
  const fewer = page.getByRole('button', { name: 'Fewer' })
  const all = page.getByRole('button', { name: /and why not/ })
  // Where all of them are shown there is no such button.
  if ((await all.count()) > 0) {
    await all.click()
    await expect(fewer).toBeVisible()
  }
}

export { aCylinder, aSystem, expect, sessionOf }
