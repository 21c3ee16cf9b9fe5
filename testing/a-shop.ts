// A shop of its own for each test file: row-level security keeps it apart from all others.
import { randomUUID } from 'node:crypto'
import type { Entry } from '#core/tape'
import {
  addCylinder,
  addPerson,
  addSystem,
  append,
  customerNamed,
  type CylinderData,
  foundShop,
  inShop,
  openJob,
  siteNamed,
  type SystemData,
} from '#db'
import { aCylinderRecord } from './a-cylinder-record'
import { anEntry, NOW } from './an-entry'

export interface AShop {
  shopId: string
  userId: string
  siteId: string
  customerId: string
}

export { anEntry, NOW }

/** With its manager, a customer and a site. */
export async function aShop(
  passwordHash = 'no password',
  signIn = `tester-${randomUUID()}`,
  preferences = {},
): Promise<AShop> {
  const ids = await anEmptyShop(passwordHash, signIn, preferences)
  await inShop(ids.shopId, async (tx) => {
    await customerNamed(tx, { customerId: ids.customerId, name: 'Cold quay', at: NOW })
    await siteNamed(tx, {
      siteId: ids.siteId,
      customerId: ids.customerId,
      name: 'Hall 1',
      altitudeM: 0,
      at: NOW,
    })
  })
  return ids
}

/** With nothing but its manager. */
export async function anEmptyShop(
  passwordHash = 'no password',
  signIn = `tester-${randomUUID()}`,
  preferences = {},
): Promise<AShop> {
  const ids = { shopId: randomUUID(), userId: randomUUID(), siteId: randomUUID(), customerId: randomUUID() }
  await inShop(ids.shopId, async (tx) => {
    await foundShop(tx, { shopId: ids.shopId, name: 'Test harbour', timeZone: 'UTC', at: NOW })
    await addPerson(tx, {
      userId: ids.userId,
      signIn,
      name: 'Robin Tester',
      role: 'manager',
      passwordHash,
      preferences,
      at: NOW,
    })
  })
  return ids
}

export async function aCylinder(shop: AShop, over: Partial<CylinderData> = {}): Promise<string> {
  const cylinderId = randomUUID()
  const record = aCylinderRecord({ label: `C-${cylinderId.slice(0, 8)}` })
  const data: CylinderData = { ...record, keepsAt: '', ...over }
  await inShop(shop.shopId, (tx) => addCylinder(tx, cylinderId, data, NOW))
  return cylinderId
}

export async function aSystem(shop: AShop, over: Partial<SystemData> = {}): Promise<string> {
  const systemId = randomUUID()
  const data: SystemData = {
    name: 'Bakery retarder',
    siteId: shop.siteId,
    trade: 'stationary',
    refrigerant: 'R-410A',
    plateMg: 3_000_000,
    plateText: '',
    panelTotalMg: null,
    lines: [],
    accessories: [],
    oilType: 'POE 32',
    registration: '',
    vin: null,
    compressor: '',
    metering: 'valve',
    subcoolingTargetK: null,
    maxTestPressurePa: null,
    ...over,
  }
  await inShop(shop.shopId, (tx) => addSystem(tx, systemId, data, NOW))
  return systemId
}

export async function aJob(shop: AShop): Promise<string> {
  const jobId = randomUUID()
  await inShop(shop.shopId, (tx) => openJob(tx, jobId, shop.userId, NOW))
  return jobId
}

export function note(shop: AShop, jobId: string, ...entries: Entry[]) {
  return inShop(shop.shopId, (tx) =>
    append(tx, {
      jobId,
      userId: shop.userId,
      entries,
      sentAt: entries.at(-1)?.at ?? 0,
      offsetMs: 0,
      now: new Date(),
      today: '2026-06-01',
    }),
  )
}
