import type { Channel } from '#core/samples'
import { addDevice, cylinderOf, inShop, moveChannel } from '#db'
import type { StationSetup } from '../sim'
import { idFor } from './ids'
import { KIT } from './kit'

const MG_PER_KG = 1e6
const CHANNELS: Channel[] = ['weight', 'low', 'high', 'vacuum', 'vent', 'ambient']

interface DemoStation {
  key: string
  label: string
  tank: string
  refrigerant: string
  seed: number
  vehicles: StationSetup['vehicles']
}

/** What comes to each of them: the second of the first has a leak, the second of the other another gas. */
const STATIONS: DemoStation[] = [
  {
    key: 'station 1',
    label: 'Station 1',
    tank: 'Tank 1',
    refrigerant: 'R-134a',
    seed: 21,
    vehicles: [{ chargeShare: 0.72 }, { chargeShare: 0.35, leakPaS: 15 }, {}],
  },
  {
    key: 'station 2',
    label: 'Station 2',
    tank: 'Tank 2',
    refrigerant: 'R-1234yf',
    seed: 22,
    vehicles: [{ chargeShare: 0.8, oilOutMl: 9 }, { gas: 'R-134a', purityPct: 96 }, {}],
  },
]

/** Pairs the service stations as devices. @returns what the gateway plays */
export async function loadStations(shopId: string, now: Date): Promise<object[]> {
  const before = new Date(now.getTime() - 3_600_000)
  return inShop(shopId, async (tx) => {
    const devices: object[] = []
    for (const { key, label, tank, refrigerant, seed, vehicles } of STATIONS) {
      const deviceId = idFor(`device ${key}`)
      const kitId = idFor(`kit ${label}`)
      const token = await addDevice(
        tx,
        { deviceId, name: label, channels: CHANNELS, standIn: true },
        idFor('mara'),
        before,
      )
      for (const channel of CHANNELS) await moveChannel(tx, { deviceId, channel, kitId }, before)
      const { tareMg, balanceMg, waterCapacityMg } = (await cylinderOf(tx, idFor(tank), idFor('no job')))!
      const { divisionMg = 5_000 } = KIT.find((each) => each.label === label)!.facts
      const station: StationSetup = {
        tank: {
          volumeM3: waterCapacityMg! / MG_PER_KG / 1_000,
          steelKg: 9,
          contentsKg: balanceMg / MG_PER_KG,
          tareKg: tareMg / MG_PER_KG,
          divisionKg: divisionMg / MG_PER_KG,
          refrigerant,
        },
        ambientK: 292.15,
        vehicles,
        oilMl: 210,
        dyeMl: 55,
      }
      devices.push({
        deviceId,
        token,
        station,
        seed,
        speed: 10,
        everyMs: 500,
        channels: CHANNELS,
      })
    }
    return devices
  })
}
