import { RateLimiterMemory } from 'rate-limiter-flexible'
import { deviceOf, inForce, inShop, type ShopTx } from '#db'
import { addressKey, overLimit } from '~/base/session/rate.server'
import { problem } from '~/api/problem.server'

/** Requests of one device, as count/seconds: ten batches a second are more than any instrument needs. */
const PER_DEVICE = '100/10'

let limiter: RateLimiterMemory | undefined

/** Counted in this process: a count in the database would cost as much as what it guards. */
function limits(): RateLimiterMemory {
  if (limiter) return limiter
  const [points, duration] = (process.env.KEG_RATE_DEVICE ?? PER_DEVICE).split('/').map(Number)
  return (limiter = new RateLimiterMemory({ points: points!, duration: duration! }))
}

export interface DeviceCall {
  shopId: string
  deviceId: string
  /**
   * Does something in the device's name, in one transaction in which it is looked at whether it is in force: the one way
   * to do anything as a device. What is long done and only answered late is asked again, and refused.
   */
  within: <T>(work: (tx: ShopTx) => Promise<T>) => Promise<T | Response>
}

/**
 * The one door for devices: which one asks, by its token; what it is answered instead when it may not.
 * @param wanted the device in the address, where it has one
 */
export async function deviceCall(
  authorization: string | null,
  address: string,
  wanted?: string,
): Promise<DeviceCall | Response> {
  const [, token] = /^Bearer +(\S+)$/i.exec(authorization ?? '') ?? []
  const device = token?.startsWith('kegdev_') ? await deviceOf(token) : undefined
  if (!device) {
    const over = await overLimit('API_STRANGER', addressKey(address))
    return over ? tooMany(over) : noDevice()
  }
  try {
    await limits().consume(device.deviceId)
  } catch {
    return tooMany(
      'This device sends more than ten batches a second: put more samples into each, and send it after a pause.',
      1,
    )
  }
  const { shopId, deviceId } = device
  if (wanted !== undefined && wanted !== deviceId)
    return problem(403, 'Another device', 'The token belongs to another device than the address says.')
  return {
    shopId,
    deviceId,
    within: (work) => inShop(shopId, async (tx) => ((await inForce(tx, deviceId)) ? work(tx) : noDevice())),
  }
}

export const noDevice = () =>
  problem(
    401,
    'No device token, or one that is not in force',
    'Send the token as "Authorization: Bearer kegdev_…". A manager makes a pairing code under Kit; POST /api/v1/pairings trades it for a token.',
    { headers: { 'www-authenticate': 'Bearer' } },
  )

const tooMany = (detail: string, seconds = 60) =>
  problem(429, 'Too many at once', detail, { headers: { 'retry-after': String(seconds) } })
