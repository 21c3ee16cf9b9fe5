import { takeRate } from '#db'

/** Tries allowed, as count/seconds; each limit can be set by its variable, for tests and large shops. */
const DEFAULTS = {
  /** One name from one address. */
  SIGN_IN: '10/300',
  /** One name from anywhere: slows down guessing from many places without locking its owner out quickly. */
  SIGN_IN_NAME: '50/900',
  /** One address for any name: a shop's people may share one. */
  SIGN_IN_ADDRESS: '60/300',
  APPEND: '600/60',
  /** One token. */
  API: '600/60',
  /** One address that comes with tokens nobody has. */
  API_STRANGER: '30/300',
}

/** @returns a sentence when the limit is reached */
export async function overLimit(what: keyof typeof DEFAULTS, who: string): Promise<string | undefined> {
  const [count, seconds] = (process.env[`KEG_RATE_${what}`] ?? DEFAULTS[what]).split('/').map(Number)
  const wait = await takeRate(`${what} ${who}`, count!, seconds!)
  if (wait === 0) return undefined
  const minutes = Math.ceil(wait / 60)
  return `Too many tries: wait ${wait < 60 ? `${wait} seconds` : `${minutes} minute${minutes > 1 ? 's' : ''}`}, then try again.`
}
