import { ask } from '~/base/ask'
import type { Device } from '../known/device'
import { openDevice, SLOW_MS } from './page'

/** How long a list that is being typed for may take before it is looked up here, ms. */
const PATIENCE_MS = 3 * SLOW_MS
/** What nobody here knows may have been made elsewhere a moment ago: "there is none" is the server's to say, ms. */
const NONE_HERE_MS = 6_000

/**
 * Asks Keg for something beside the page, and looks it up on the device where no answer comes in time.
 * @returns undefined: neither knows; `at`: since when it is so, ms, where the device knew it
 */
export async function askOrLook<T extends object>(
  address: string,
  look: () => Promise<(device: Device, search: URLSearchParams) => T>,
): Promise<(T & { at?: number }) | undefined> {
  const asked = ask<T>(address)
  const answer = await Promise.race([asked, late(PATIENCE_MS)])
  if (answer) return answer
  const device = await openDevice()
  if (!device) return asked
  const found = (await look())(device, new URL(address, location.origin).searchParams)
  const none = Object.values(found).every((each) => Array.isArray(each) && each.length === 0)
  return (none && (await Promise.race([asked, late(NONE_HERE_MS)]))) || { ...found, at: device.pack.at }
}

const late = (ms: number) => new Promise<undefined>((resolve) => setTimeout(() => resolve(undefined), ms))
