import { readFileSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import type { Channel } from '#core/samples'
import { playerOf, readScenario, type SensorChanges, sensorsOf, sensorsWith } from '../sim'
import { addDevice, inShop, moveChannel, takeSamples } from '#db'
import { idFor } from './ids'

/** A rig that the gateway plays: a device of the shop, whose channels are pieces of kit. */
export interface DemoRig {
  key: string
  name: string
  scenario: string
  seed: number
  /** How long it has gone already when the demo opens, s. */
  aheadS: number
  channels: Partial<Record<Channel, string>>
  sensors: SensorChanges
}

const file = (name: string) => fileURLToPath(new URL(`./rigs/${name}.json`, import.meta.url))

export const RIGS: DemoRig[] = [
  {
    key: 'bridge',
    name: 'Rig at the bridge unit',
    scenario: file('ferry-bridge'),
    seed: 11,
    aheadS: 210,
    channels: { weight: 'Scale 3', low: 'Gauges B', high: 'Gauges B', 'cylinder-pressure': 'Gauges B' },
    sensors: {
      scale: { tareKg: 9.24, divisionKg: 0.005 },
      low: { fullScalePa: 10e5 },
      high: { fullScalePa: 35e5 },
    },
  },
  {
    key: 'herring',
    name: 'Rig at the herring store',
    scenario: file('herring-store'),
    seed: 12,
    aheadS: 420,
    channels: { vacuum: 'Micron 1', ambient: 'Clamp 1' },
    sensors: { vacuum: { at: 'system', accuracyPct: 5 } },
  },
]

export interface Played {
  /** What a channel said so many seconds before the demo opened, by the sample's number. */
  at(channel: Channel, secondsBefore: number): { seq: number; value: number }
  samples: { channel: Channel; seq: number; at: number; value: number }[]
}

/** The rig up to now, once a second of its own time. */
export function playedUntil(rig: DemoRig, nowMs: number): Played {
  const scenario = readScenario(JSON.parse(readFileSync(rig.scenario, 'utf8')))
  const player = playerOf(scenario)
  const sensors = sensorsOf(sensorsWith(rig.sensors), rig.seed)
  const samples: Played['samples'] = []
  for (let second = 0; second <= rig.aheadS; second++) {
    while (player.state.seconds < second || player.state.seconds === 0) player.advance()
    const said = sensors.read(scenario.parameters, player.state)
    for (const channel of Object.keys(rig.channels) as Channel[]) {
      const value = said[channel]
      if (value !== undefined)
        samples.push({ channel, seq: second, at: nowMs - (rig.aheadS - second) * 1_000, value })
    }
  }
  return {
    samples,
    at: (channel, secondsBefore) => {
      const seq = rig.aheadS - secondsBefore
      return samples.find((each) => each.channel === channel && each.seq === seq)!
    },
  }
}

const BATCH = 1_000

/** Pairs the rigs as devices, and brings in what they have said so far. @returns what the gateway plays */
export async function loadRigs(shopId: string, now: Date): Promise<object[]> {
  const devices: object[] = []
  for (const rig of RIGS) {
    const { key, name, scenario, seed, aheadS, sensors } = rig
    const deviceId = idFor(`device ${key}`)
    const channels = Object.keys(rig.channels) as Channel[]
    const before = new Date(now.getTime() - 3_600_000)
    const token = await inShop(shopId, async (tx) => {
      const token = await addDevice(tx, { deviceId, name, channels, standIn: true }, idFor('mara'), before)
      for (const channel of channels)
        await moveChannel(tx, { deviceId, channel, kitId: idFor(`kit ${rig.channels[channel]!}`) }, before)
      return token
    })
    const { samples } = playedUntil(rig, now.getTime())
    for (let i = 0; i < samples.length; i += BATCH)
      await takeSamples(shopId, deviceId, samples.slice(i, i + BATCH), now)
    devices.push({
      deviceId,
      token,
      scenario,
      seed,
      speed: 10,
      aheadS,
      firstSeq: aheadS + 1,
      everyMs: 500,
      channels,
      sensors,
    })
  }
  return devices
}
