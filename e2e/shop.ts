// A shop of its own for each worker, with a stored sign-in for each of its people.
import { randomUUID } from 'node:crypto'
import { hash } from '@node-rs/argon2'
import { type BrowserContext, expect, type Page, test as base } from '@playwright/test'
import { METRIC_UNITS, US_UNITS } from '#core/units'
import { addPerson, inShop, openSession } from '#db'
import { aCylinder, type AShop, aShop, aSystem, NOW } from '../testing/a-shop'

type Who = 'metric' | 'us' | 'trainee'
export const PASSWORD = 'a long password'

export interface Harbour extends AShop {
  signIn: Record<Who, string>
  cookies: Record<Who, string>
}

interface Fixtures {
  /** Opens a page that is signed in. */
  as: (who: Who, context?: BrowserContext) => Promise<Page>
}

export const test = base.extend<Fixtures, { shop: Harbour }>({
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
  as: async ({ browser, shop, baseURL }, use) => {
    const opened: BrowserContext[] = []
    await use(async (who, context) => {
      if (!context) opened.push((context = await browser.newContext()))
      const value = encodeURIComponent(Buffer.from(JSON.stringify(shop.cookies[who])).toString('base64'))
      await context.addCookies([
        { name: 'keg_session', value, url: baseURL!, httpOnly: true, sameSite: 'Lax' },
      ])
      const page = await context.newPage()
      watch(page)
      return page
    })
    for (const context of opened) await context.close()
  },
})

const troubles = new WeakMap<Page, string[]>()

/** Everything the browser complains about. A refused form is no complaint. */
function watch(page: Page) {
  const seen: string[] = []
  troubles.set(page, seen)
  page.on('pageerror', (error) => seen.push(error.message))
  page.on('console', (message) => {
    if (
      message.type() === 'error' &&
      !/status of (400|403|404|429)|ERR_INTERNET_DISCONNECTED|net::ERR/.test(message.text())
    )
      seen.push(message.text())
  })
}

export function expectNoTrouble(page: Page) {
  expect(troubles.get(page)).toEqual([])
}

/** Opens a page and waits until it answers to presses. */
export async function open(page: Page, path: string) {
  await page.goto(path)
  await ready(page)
}

/** Waits until React has taken the page over. */
export async function ready(page: Page) {
  await page.waitForFunction(() =>
    Object.keys(document.querySelector('main') ?? {}).some((key) => key.startsWith('__reactFiber')),
  )
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

export { aCylinder, aSystem, expect }
