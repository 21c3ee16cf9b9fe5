// A service station of a shop: its tank in the rack, its bottles, and the device that speaks for it.
import { randomUUID } from 'node:crypto'
import type { KitFacts } from '#core/kit'
import type { Channel } from '#core/samples'
import { addDevice, addKit, bookArrival, type CylinderData, inShop, moveChannel } from '#db'
import type { StationConfig } from '../instruments/station'
import type { VehicleSetup } from '../sim/station'
import { aCylinder, type AShop, aSystem, aJob, anEntry, NOW, note } from './a-shop'

const KG = 1_000_000
const TARE_KG = 12.4
const HOLDS_KG = 8
const CHANNELS: Channel[] = ['weight', 'low', 'high', 'vacuum', 'vent', 'ambient']

export interface AStation {
  kitId: string
  label: string
  deviceId: string
  token: string
  tankId: string
  oilId: string
  dyeId: string
  /** As the gateway's file names it. */
  config: StationConfig
}

/** With 8 kg in a tank of 20 L. @param vehicle what comes onto its hoses */
export async function aStation(
  shop: AShop,
  {
    label = `Station ${randomUUID().slice(0, 4)}`,
    vehicle = {},
    speed = 1,
    tank = {},
    facts = {},
  }: {
    label?: string
    vehicle?: Partial<VehicleSetup>
    speed?: number
    tank?: Partial<CylinderData>
    facts?: KitFacts
  } = {},
): Promise<AStation> {
  const [kitId, oilId, dyeId, deviceId] = [randomUUID(), randomUUID(), randomUUID(), randomUUID()]
  const tankId = await aCylinder(shop, {
    kind: 'station',
    refrigerant: 'R-134a',
    condition: 'clean',
    tareMg: TARE_KG * KG,
    waterCapacityMg: 20 * KG,
    workingFillPct: 60,
    ...tank,
  })
  const token = await inShop(shop.shopId, async (tx) => {
    await bookArrival(tx, {
      kind: 'opening',
      voucherId: randomUUID(),
      cylinderId: tankId,
      massMg: HOLDS_KG * KG,
      at: NOW,
      now: NOW,
      userId: shop.userId,
      text: '',
    })
    const piece = (id: string, kind: 'station' | 'bottle', name: string, facts: KitFacts) =>
      addKit(tx, id, { kind, label: name, keepsAt: label, facts, state: 'in-use' }, NOW)
    await piece(kitId, 'station', label, { tankId, divisionMg: 5_000, accuracyMg: 10_000, ...facts })
    await piece(oilId, 'bottle', `PAG 46 ${oilId.slice(0, 4)}`, {
      contents: 'oil',
      oilType: 'PAG',
      viscosity: 46,
    })
    await piece(dyeId, 'bottle', `Dye ${dyeId.slice(0, 4)}`, { contents: 'dye' })
    const own = await addDevice(
      tx,
      { deviceId, name: label, channels: CHANNELS, standIn: true },
      shop.userId,
      NOW,
    )
    for (const channel of CHANNELS) await moveChannel(tx, { deviceId, channel, kitId }, NOW)
    return own
  })
  const config: StationConfig = {
    station: {
      tank: {
        volumeM3: 20e-3,
        steelKg: 9,
        contentsKg: HOLDS_KG,
        tareKg: TARE_KG,
        divisionKg: 0.005,
        refrigerant: 'R-134a',
      },
      ambientK: 298.15,
      vehicles: [vehicle],
      oilMl: 250,
      dyeMl: 60,
    },
    seed: 7,
    speed,
    channels: CHANNELS,
  }
  return { kitId, label, deviceId, token, tankId, oilId, dyeId, config }
}

/** A job on a vehicle of its own. */
export async function aVehicleJob(
  shop: AShop,
  {
    plateMg = 550_000,
    refrigerant = 'R-134a',
    title = 'Warm in the back',
    at = NOW.getTime(),
    siteId = shop.siteId,
  } = {},
): Promise<string> {
  const systemId = await aSystem(shop, {
    trade: 'vehicle',
    name: `Bus ${randomUUID().slice(0, 4)}`,
    refrigerant,
    plateMg,
    oilType: 'PAG 46',
    siteId,
  })
  const jobId = await aJob(shop)
  await note(shop, jobId, anEntry('job-described', { systemId, refrigerant, title }, { at }))
  return jobId
}
