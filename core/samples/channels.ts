import type { KitKind } from '../kit'

/** What a live instrument may say. Each channel has one unit, SI. */
export const CHANNELS = [
  'weight',
  'low',
  'high',
  'cylinder-pressure',
  'vacuum',
  'suction',
  'liquid',
  'vent',
  'cylinder',
  'ambient',
  'air-on',
  'air-off',
  'condenser-off',
  'wet-bulb',
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
  /** Where it measures, as the tape names it; of weights and vacua there is one place. */
  point?: SamplePoint
  /** Kit that it may belong to. */
  kit: readonly KitKind[]
}

type SamplePoint =
  | 'low'
  | 'high'
  | 'cylinder'
  | 'suction'
  | 'liquid'
  | 'vent'
  | 'ambient'
  | 'air-on'
  | 'air-off'
  | 'condenser-off'
  | 'wet-bulb'

const clampOn = (point: SamplePoint, kit: readonly KitKind[] = ['thermometer']): ChannelFacts => ({
  quantity: 'temperature',
  point,
  unit: 'K',
  least: 150,
  most: 500,
  kit,
})
/** Gauges know what is above the air around; a full vacuum reads a little over one atmosphere below it. */
const gaugeAt = (point: SamplePoint): ChannelFacts => ({
  quantity: 'gauge-pressure',
  point,
  unit: 'Pa above the air around',
  least: -110_000,
  most: 20e6,
  kit: ['gauge', 'station'],
})

export const CHANNEL_FACTS: Record<Channel, ChannelFacts> = {
  weight: { quantity: 'weight', unit: 'kg', least: -500, most: 5_000, kit: ['scale', 'station'] },
  low: gaugeAt('low'),
  high: gaugeAt('high'),
  'cylinder-pressure': gaugeAt('cylinder'),
  vacuum: {
    quantity: 'vacuum',
    unit: 'Pa absolute',
    least: 0,
    most: 120_000,
    kit: ['vacuum-gauge', 'station'],
  },
  suction: clampOn('suction'),
  liquid: clampOn('liquid'),
  vent: clampOn('vent', ['thermometer', 'station']),
  cylinder: clampOn('cylinder'),
  ambient: clampOn('ambient', ['thermometer', 'station']),
  'air-on': clampOn('air-on'),
  'air-off': clampOn('air-off'),
  'condenser-off': clampOn('condenser-off'),
  'wet-bulb': clampOn('wet-bulb'),
  purity: { quantity: 'share', unit: 'share, 0 to 1', least: 0, most: 1, kit: ['identifier', 'station'] },
  detector: { quantity: 'signal', unit: '0 to 9', least: 0, most: 9, kit: ['detector'] },
}

export const isChannel = (text: unknown): text is Channel => (CHANNELS as readonly unknown[]).includes(text)

/** The channel of a quantity at a place. */
export const channelAt = (quantity: SampleQuantity, point: string): Channel | undefined =>
  CHANNELS.find((each) => CHANNEL_FACTS[each].quantity === quantity && CHANNEL_FACTS[each].point === point)

/** The channels of a quantity. */
export const channelsOf = (quantity: SampleQuantity): Channel[] =>
  CHANNELS.filter((each) => CHANNEL_FACTS[each].quantity === quantity)
