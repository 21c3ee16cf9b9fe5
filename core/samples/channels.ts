import type { KitKind } from '../kit'

/** What a live instrument may say. Each channel has one unit, SI. */
export const CHANNELS = [
  'weight',
  'low',
  'high',
  'vacuum',
  'suction',
  'liquid',
  'vent',
  'cylinder',
  'ambient',
  'purity',
  'detector',
] as const
export type Channel = (typeof CHANNELS)[number]

export type SampleQuantity = 'weight' | 'gauge-pressure' | 'vacuum' | 'temperature' | 'share' | 'signal'

interface ChannelFacts {
  quantity: SampleQuantity
  /** As the public interface writes it. */
  unit: string
  /** What no instrument of this kind can say, in the channel's unit: beyond it a value is refused. */
  least: number
  most: number
  /** Kit that it may belong to. */
  kit: readonly KitKind[]
}

const temperature: ChannelFacts = {
  quantity: 'temperature',
  unit: 'K',
  least: 150,
  most: 500,
  kit: ['thermometer'],
}
/** Gauges know what is above the air around; a full vacuum reads a little over one atmosphere below it. */
const gauge: ChannelFacts = {
  quantity: 'gauge-pressure',
  unit: 'Pa above the air around',
  least: -110_000,
  most: 20e6,
  kit: ['gauge', 'station'],
}

export const CHANNEL_FACTS: Record<Channel, ChannelFacts> = {
  weight: { quantity: 'weight', unit: 'kg', least: -500, most: 5_000, kit: ['scale', 'station'] },
  low: gauge,
  high: gauge,
  vacuum: { quantity: 'vacuum', unit: 'Pa absolute', least: 0, most: 120_000, kit: ['vacuum-gauge'] },
  suction: temperature,
  liquid: temperature,
  vent: temperature,
  cylinder: temperature,
  ambient: temperature,
  purity: { quantity: 'share', unit: 'share, 0 to 1', least: 0, most: 1, kit: ['identifier'] },
  detector: { quantity: 'signal', unit: '0 to 9', least: 0, most: 9, kit: ['detector'] },
}

export const isChannel = (text: unknown): text is Channel => (CHANNELS as readonly unknown[]).includes(text)
