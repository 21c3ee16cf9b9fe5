// What two people press at the same moment.
import { randomUUID } from 'node:crypto'
import { setTimeout as pause } from 'node:timers/promises'
import { afterAll, expect, it } from 'vitest'
import type { Entry } from '#core/tape'
import { aCylinder, aJob, anEntry, aShop, aSystem, note, NOW } from '../testing/a-shop'
import {
  append,
  bookReweigh,
  closeDatabase,
  customerNamed,
  customers,
  cylinderOf,
  inShop,
  openJob,
  siteNamed,
  sites,
  systemOf,
} from '.'

afterAll(closeDatabase)

it('a customer and a site that ten people enter at once are one customer and one site', async () => {
  const { shopId } = await aShop()
  const made = await Promise.all(
    Array.from({ length: 10 }, (_, i) =>
      inShop(shopId, async (tx) => {
        const name = i % 2 ? 'Ice Quay' : 'ice quay'
        const customerId = await customerNamed(tx, { customerId: randomUUID(), name, at: NOW })
        await pause(20)
        return siteNamed(tx, { siteId: randomUUID(), customerId, name: 'Hall 3', altitudeM: 0, at: NOW })
      }),
    ),
  )
  expect(new Set(made).size).toBe(1)
  const [all, places] = await inShop(shopId, async (tx) => [await customers(tx), await sites(tx)] as const)
  expect(all.filter((c) => c.name.toLowerCase() === 'ice quay')).toHaveLength(1)
  expect(places.filter((s) => s.name === 'Hall 3')).toHaveLength(1)
})

it('quick starts and bookings on one cylinder, and two jobs on one system, never wait for each other in a circle', async () => {
  const shop = await aShop()
  const [cylinder, other, system] = await Promise.all([aCylinder(shop), aCylinder(shop), aSystem(shop)])
  const pair = await Promise.all([aJob(shop), aJob(shop)])
  const deadlocks: string[] = []
  const warned = (warning: Error) => void (warning.name === 'KegDeadlock' && deadlocks.push(warning.message))
  process.on('warning', warned)
  const until = Date.now() + 4_000
  const going = () => Date.now() < until
  let done = 0

  /** A job opened and begun in one transaction, as the form does it. */
  const quickStart = () =>
    inShop(shop.shopId, async (tx) => {
      const jobId = randomUUID()
      await openJob(tx, jobId, shop.userId, NOW)
      await append(tx, { ...request(jobId), entries: transfer(cylinder, 1_000) })
    })
  const request = (jobId: string) => ({
    jobId,
    userId: shop.userId,
    sentAt: Date.now(),
    offsetMs: 0,
    now: new Date(),
    today: '2026-06-01',
  })
  const reweigh = () =>
    inShop(shop.shopId, (tx) =>
      bookReweigh(tx, {
        voucherId: randomUUID(),
        cylinderId: cylinder,
        grossMg: 12_000_000 + Math.round(Math.random() * 1e6),
        at: new Date(),
        now: new Date(),
        userId: shop.userId,
        text: '',
      }),
    )
  // Two jobs on one system, each with both cylinders, named in another order.
  const onSystem = (i: 0 | 1) => {
    const [first, second] = i ? [cylinder, other] : [other, cylinder]
    const described = anEntry('job-described', { systemId: system, refrigerant: 'R-410A' })
    return note(shop, pair[i], described, ...transfer(first!, 2_000), ...transfer(second!, 3_000))
  }
  const loop = async (work: () => Promise<unknown>) => {
    while (going()) {
      await work()
      done++
    }
  }
  await Promise.all([
    ...Array.from({ length: 3 }, () => loop(quickStart)),
    ...Array.from({ length: 2 }, () => loop(reweigh)),
    loop(() => onSystem(0)),
    loop(() => onSystem(1)),
  ])
  process.off('warning', warned)
  expect(deadlocks).toEqual([])
  expect(done).toBeGreaterThan(30)

  // And the books are what the tapes say.
  const sums = await inShop(shop.shopId, async (tx) => {
    const [row] = await tx<{ cylinder: number; system: number }[]>`
      select sum(case when to_cylinder = ${cylinder} then mass_mg when from_cylinder = ${cylinder} then -mass_mg else 0 end)::bigint as cylinder,
        sum(case when to_system = ${system} then mass_mg when from_system = ${system} then -mass_mg else 0 end)::bigint as system
      from movement`
    return [row!.cylinder, row!.system]
  })
  const balances = await inShop(shop.shopId, async (tx) => [
    (await cylinderOf(tx, cylinder))!.balanceMg,
    (await systemOf(tx, system))!.balanceMg,
  ])
  expect(balances).toEqual(sums)
})

function transfer(cylinderId: string, massMg: number): Entry[] {
  const runId = randomUUID()
  return [
    anEntry('run-started', { runId, use: 'recover', cylinderId, scale: '', mode: 'gross', weightMg: 12e6 }),
    anEntry('run-ended', { runId, weightMg: 12e6 + massMg, hoseMg: 0 }),
  ]
}
