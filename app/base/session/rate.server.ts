import ipaddr from 'ipaddr.js'
import { lookAtRate, takeRate } from '#db'

/** Tries allowed, as count/seconds; each limit can be set by its variable, for tests and large shops. */
const DEFAULTS = {
  /** One address for any name: a shop's people may share one. */
  SIGN_IN_ADDRESS: '60/300',
  /**
   * One name from one address, or from one browser in which its person has signed in before: whoever guesses is stopped, and
   * nobody else.
   */
  SIGN_IN: '10/300',
  /** One name from anywhere: beyond it every try takes longer, for its owner too, but nobody is locked out. */
  SIGN_IN_NAME: '30/300',
  APPEND: '600/60',
  PHOTO: '120/600',
  /** One person's devices, and the tabs on them, asking what the shop has. */
  PACK: '120/60',
  /** One person asking for papers that take a moment to lay out. */
  PAPER: '60/60',
  /** One person asking an outside service. */
  VEHICLE_DATA: '30/60',
  /** One token. */
  API: '600/60',
  /** One address that comes with tokens nobody has. */
  API_STRANGER: '30/300',
  /** One address that comes with pairing codes that open nothing. */
  PAIRING: '30/300',
}

type Limit = keyof typeof DEFAULTS

/** @returns a sentence when the limit is reached */
export async function overLimit(what: Limit, who: string): Promise<string | undefined> {
  return sentence(await counted(takeRate, what, who))
}

/** The same where only what fails counts: looked at before, counted by `failed` afterwards. */
export async function overLimitOfFailures(what: Limit, who: string): Promise<string | undefined> {
  return sentence(await counted(lookAtRate, what, who))
}

/** One more that failed. */
export async function failed(what: Limit, who: string): Promise<void> {
  await counted(takeRate, what, who)
}

function sentence(wait: number): string | undefined {
  if (wait === 0) return undefined
  const minutes = Math.ceil(wait / 60)
  return `Too many tries: wait ${wait < 60 ? `${wait} seconds` : `${minutes} minute${minutes > 1 ? 's' : ''}`}, then try again.`
}

const SLOW_MS = 1_500

/** Takes longer once the limit is reached, and goes on all the same. */
export async function slowBeyond(what: Limit, who: string): Promise<void> {
  if ((await counted(takeRate, what, who)) > 0) await new Promise((resolve) => setTimeout(resolve, SLOW_MS))
}

/** @returns seconds to wait, by whichever asks */
function counted(ask: typeof takeRate, what: Limit, who: string): Promise<number> {
  const [count, seconds] = (process.env[`KEG_RATE_${what}`] ?? DEFAULTS[what]).split('/').map(Number)
  return ask(`${what} ${who}`, count!, seconds!)
}

/** What counts as one address: of the long ones, the half that one household or office gets whole. */
export function addressKey(address: string): string {
  if (!ipaddr.isValid(address)) return address.slice(0, 64)
  const known = ipaddr.process(address)
  if (known.kind() === 'ipv4') return known.toString()
  return `${(known as ipaddr.IPv6).parts
    .slice(0, 4)
    .map((part) => part.toString(16))
    .join(':')}::/64`
}
