import { type Channel, CHANNEL_FACTS } from '#core/samples'
import { MG_PER_KG, STANDARD_ATMOSPHERE_PA } from '#core/units'
import type { MeasureKind, ReadersUnits } from '~/base/ui/measure'

/** A live value as the tape writes it: mg, absolute Pa, K. Undefined: the tape has no place for it. */
export function asNoted(
  channel: Channel,
  value: number,
  { atmospherePa = STANDARD_ATMOSPHERE_PA }: Pick<ReadersUnits, 'atmospherePa'>,
): { kind: MeasureKind; value: number } | undefined {
  switch (CHANNEL_FACTS[channel].quantity) {
    case 'weight':
      return { kind: 'weight', value: Math.round(value * MG_PER_KG) }
    case 'gauge-pressure':
      return { kind: 'pressure', value: Math.max(0, Math.round(value + atmospherePa)) }
    case 'vacuum':
      return { kind: 'vacuum', value: Number(value.toPrecision(4)) }
    case 'temperature':
      return { kind: 'temperature', value: Number(value.toFixed(2)) }
    default:
      return undefined
  }
}
