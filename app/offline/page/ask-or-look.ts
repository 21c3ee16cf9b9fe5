import { ask } from '~/live/ask'
import type { Device } from '~/offline/device/device'
import { openDevice, SLOW_MS } from './page'

/** How long a list that is being typed for may take before it is looked up here, ms. */
const PATIENCE_MS = 3 * SLOW_MS

/**
 * Asks Keg for something beside the page, and looks it up on the device where no answer comes in time.
 * @returns undefined: neither knows; `at`: since when it is so, ms, where the device knew it
 */
export async function askOrLook<T extends object>(
  address: string,
  look: () => Promise<(device: Device, search: URLSearchParams) => T>,
): Promise<(T & { at?: number }) | undefined> {
  const late = new Promise<undefined>((resolve) => setTimeout(() => resolve(undefined), PATIENCE_MS))
  const asked = ask<T>(address)
  const answer = await Promise.race([asked, late])
  if (answer) return answer
  const device = await openDevice()
  if (!device) return asked
  const found = (await look())(device, new URL(address, location.origin).searchParams)
  return { ...found, at: device.pack.at }
}
