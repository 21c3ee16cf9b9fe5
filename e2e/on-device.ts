// What a browser has taken along, looked at from outside.
import { expect, type Page } from '@playwright/test'

/** The program is on the device. */
export const programKept = (page: Page) =>
  expect.poll(() => page.evaluate(() => navigator.serviceWorker.controller !== null)).toBe(true)

/** The program is on the device, and what the shop has, too. */
export async function takenAlong(page: Page) {
  await programKept(page)
  await packed(page)
}

/** What the shop has is on the device. */
export const packed = (page: Page) => expect.poll(() => page.evaluate(packs)).toBe(1)

/** How many shops are kept: run in the page. */
export async function packs(): Promise<number> {
  const found = (await indexedDB.databases()).some(({ name }) => name === 'keg-device')
  if (!found) return 0
  return new Promise((resolve) => {
    const opening = indexedDB.open('keg-device')
    opening.onsuccess = () => {
      const asked = opening.result.transaction('packs').objectStore('packs').count()
      asked.onsuccess = () => {
        resolve(asked.result)
        opening.result.close()
      }
    }
  })
}

/** How many rows a store of what waits has. */
export const rowsOf = (store: string) =>
  new Promise<number>((resolve, reject) => {
    const opening = indexedDB.open('keg')
    opening.onerror = () => reject(opening.error!)
    opening.onsuccess = () => {
      const all = opening.result.transaction(store).objectStore(store).count()
      all.onsuccess = () => {
        opening.result.close()
        resolve(all.result)
      }
    }
  })
