import { takeRate } from '#db'

/** Tries allowed, as count/seconds; each limit can be set by its variable, for tests and large shops. */
const DEFAULTS = { SIGN_IN: '10/300', APPEND: '600/60' }

/** @returns a sentence when the limit is reached */
export async function overLimit(what: keyof typeof DEFAULTS, who: string): Promise<string | undefined> {
  const [count, seconds] = (process.env[`KEG_RATE_${what}`] ?? DEFAULTS[what]).split('/').map(Number)
  const wait = await takeRate(`${what} ${who}`, count!, seconds!)
  if (wait === 0) return undefined
  const minutes = Math.ceil(wait / 60)
  return `Too many tries: wait ${wait < 60 ? `${wait} seconds` : `${minutes} minute${minutes > 1 ? 's' : ''}`}, then try again.`
}
