import { randomUUID } from 'node:crypto'
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest'
import { METRIC_UNITS } from '#core/units'
import { closeDatabase } from '#db'
import { letIn, through } from '../../../testing/a-request'
import { type AShop, aShop } from '../../../testing/a-shop'
import { now, todayIn } from './clock.server'
import { sessionCookie, sessionToken } from './cookie.server'
import { hashPassword, passwordFits } from './password.server'
import { preferencesOf } from './preferences'
import { addressKey, overLimit, slowBeyond } from './rate.server'
import { manager, signedIn, writer } from './signed-in.server'

let shop: AShop
beforeAll(async () => {
  shop = await aShop()
})
afterAll(closeDatabase)
afterEach(() => {
  delete process.env.KEG_NOW
  delete process.env.KEG_RATE_SIGN_IN
})

describe('onlySignedIn', () => {
  it('lets nobody in without a session, and leads back to the same page afterwards', async () => {
    const sent = async (path: string, method?: string) =>
      through('no such token', path, method).then(
        () => 'let in',
        (answer: Response) => answer.headers.get('location'),
      )
    expect(await sent('/')).toBe('/sign-in')
    expect(await sent('/ledger?refrigerant=R-22')).toBe('/sign-in?to=%2Fledger%3Frefrigerant%3DR-22')
    expect(await sent('/cylinders.data')).toBe('/sign-in?to=%2Fcylinders')
    expect(await sent('/settings', 'POST')).toBe('/sign-in')
    await expect(through(undefined, '/')).rejects.toMatchObject({ status: 302 })
  })
  it('knows who asks', async () => {
    expect(signedIn(await letIn(shop, 'technician'))).toMatchObject({
      shop: { shopId: shop.shopId },
      person: { role: 'technician' },
    })
  })
})

describe('roles', () => {
  it.each([
    ['manager', true, true],
    ['technician', true, false],
    ['trainee', false, false],
  ] as const)('a %s', async (role, writes, manages) => {
    const context = await letIn(shop, role)
    if (writes) expect(writer(context).person.role).toBe(role)
    else expect(() => writer(context)).toThrow(expect.objectContaining({ status: 403 }) as Error)
    if (manages) expect(manager(context).person.role).toBe(role)
    else expect(() => manager(context)).toThrow(expect.objectContaining({ status: 403 }) as Error)
  })
})

describe('the clock', () => {
  it('can be fixed, and knows the day where the shop is', () => {
    process.env.KEG_NOW = '2026-11-24T23:30:00Z'
    expect(now().toISOString()).toBe('2026-11-24T23:30:00.000Z')
    expect(todayIn('UTC')).toBe('2026-11-24')
    expect(todayIn('Asia/Tokyo')).toBe('2026-11-25')
    delete process.env.KEG_NOW
    expect(Math.abs(now().getTime() - Date.now())).toBeLessThan(1000)
  })
})

describe('passwords', () => {
  it('fit or do not, and nobody has none', async () => {
    const hash = await hashPassword('a long password')
    expect(hash).toMatch(/^\$argon2id\$/)
    expect(await passwordFits('a long password', hash)).toBe(true)
    expect(await passwordFits('another password', hash)).toBe(false)
    expect(await passwordFits('nobody has this password', undefined)).toBe(false)
  })
})

describe('overLimit', () => {
  it('says how long to wait, for each on its own', async () => {
    process.env.KEG_RATE_SIGN_IN = '2/3600'
    const who = randomUUID()
    expect([await overLimit('SIGN_IN', who), await overLimit('SIGN_IN', who)]).toEqual([undefined, undefined])
    expect(await overLimit('SIGN_IN', who)).toMatch(
      /^Too many tries: wait \d+ (minutes?|seconds), then try again\.$/,
    )
    expect(await overLimit('SIGN_IN', randomUUID())).toBeUndefined()
  })
})

describe('the cookie', () => {
  it('brings its token back, and nothing from a forged one', async () => {
    const request = (cookie: string) => new Request('http://keg.test/', { headers: { cookie } })
    const header = await sessionCookie.serialize('the token')
    expect(header).toMatch(/HttpOnly; SameSite=Lax/)
    expect(await sessionToken(request(header))).toBe('the token')
    expect(await sessionToken(request('keg_session=garbage'))).toBeUndefined()
    expect(await sessionToken(new Request('http://keg.test/'))).toBeUndefined()
  })
})

describe('preferencesOf', () => {
  it('fills in what is missing', () => {
    expect(preferencesOf({})).toEqual({ units: METRIC_UNITS, theme: 'auto', van: '', notify: true })
    expect(preferencesOf({ theme: 'dark', units: { weight: 'lb-oz' } })).toEqual({
      units: { ...METRIC_UNITS, weight: 'lb-oz' },
      theme: 'dark',
      van: '',
      notify: true,
    })
  })
})

describe('a stranger who tries a name', () => {
  it('is stopped where they are, and slows the name down elsewhere without shutting it', async () => {
    process.env.KEG_RATE_SIGN_IN_NAME = '2/3600'
    const name = randomUUID()
    const took = async () => {
      const started = performance.now()
      await slowBeyond('SIGN_IN_NAME', name)
      return performance.now() - started
    }
    expect(Math.max(await took(), await took())).toBeLessThan(1_000)
    expect(await took()).toBeGreaterThan(1_400)
    delete process.env.KEG_RATE_SIGN_IN_NAME
  })
  it('counts as one address, however many of a network they have', () => {
    expect(addressKey('203.0.113.7')).toBe('203.0.113.7')
    expect(addressKey('::ffff:203.0.113.7')).toBe('203.0.113.7')
    expect(addressKey('2001:db8:1:2:3:4:5:6')).toBe('2001:db8:1:2::/64')
    expect(addressKey('2001:db8:1:2::ffff')).toBe('2001:db8:1:2::/64')
    expect(addressKey('')).toBe('')
    expect(addressKey('x'.repeat(1000))).toHaveLength(64)
  })
})
