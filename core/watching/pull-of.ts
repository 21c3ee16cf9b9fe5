import { canPassKgS, type Pull } from '../recovery'
import { refrigerant, tableOf } from '../refrigerants'
import { divisionMg } from '../scales'
import { chargeKgOf, gaugeAt, type JobState, levelHere, stepDone, type Transfer } from '../tape'
import { MG_PER_KG, STANDARD_ATMOSPHERE_PA, ZERO_CELSIUS_K } from '../units'
import { type LinesOf, type Place, pressuresAt, readingsFrom, temperaturesAt } from './lines'

/** Where nobody has measured the air it is taken for an ordinary day's. */
export const ORDINARY_K = 25 + ZERO_CELSIUS_K

/** A running pull as the judges see it: from instruments where they speak, else from what was noted. */
export function pullOf(state: JobState, transfer: Transfer, lines: LinesOf, place: Place): Pull {
  const { nowMs, atmospherePa = STANDARD_ATMOSPHERE_PA } = place
  const index = transfer.segments.length - 1
  const segment = transfer.segments[index]!
  const own = transfer.weighings.filter((each) => each.segment === index)
  const beganMs = own[0]?.at ?? transfer.startedAt
  const { seconds, heard, either } = readingsFrom(beganMs, beganMs, lines, place)
  const absolute = (pa: number) => pa + atmospherePa
  const ambients = [...heard('ambient'), ...temperaturesAt(state, 'ambient')].map(({ value }) => value)
  const gas = state.refrigerant
  return {
    weights: either(
      heard('weight', (kg) => kg - segment.firstMg / MG_PER_KG),
      own.map(({ at, weightMg }) => ({ at, value: (weightMg - segment.firstMg) / MG_PER_KG })),
    ),
    low: either(heard('low', absolute), pressuresAt(state, 'low')),
    cylinderPa: either(heard('cylinder-pressure', absolute), pressuresAt(state, 'cylinder')),
    cylinderK: either(heard('cylinder'), temperaturesAt(state, 'cylinder')),
    coilK: either(heard('suction'), temperaturesAt(state, 'suction')),
    nowS: seconds(nowMs),
    divisionKg: divisionMg(segment.divisionMg, Math.abs(segment.highestMg)) / MG_PER_KG,
    // The limit of error of a gauge holds for nearly all: two standard deviations.
    gaugePa: gaugeAt(state, nowMs).value / 2,
    atmospherePa,
    ambientK: ambients.at(-1) ?? ORDINARY_K,
    chargeKg: chargeKgOf(place.expected) ?? undefined,
    levelPa: levelPaOf(state, place),
    table: gas ? tableOf(gas) : undefined,
    canPass: canPassOf(state, ambients.at(-1) ?? ORDINARY_K),
    waterCooled: stepDone(state, 'water-cooled'),
  }
}

/** What the planned rig passes at a pressure of the low side. */
function canPassOf({ plan, refrigerant: gas }: JobState, ambientK: number): Pull['canPass'] {
  if (!plan || !gas) return undefined
  const liquidFirst = plan.method === 'liquid-then-vapour' || plan.method === 'both-sides'
  const { molarMassG } = refrigerant(gas)
  return (lowPa) => canPassKgS({ ...plan, liquidFirst, ambientK }, lowPa, tableOf(gas), molarMassG)
}

/** Down to here it must go, absolute Pa; without a gas down to the air around. */
export function levelPaOf(
  state: JobState,
  { expected, trade, atmospherePa }: Pick<Place, 'expected' | 'trade' | 'atmospherePa'>,
): number {
  const level = levelHere(state, { chargeKg: chargeKgOf(expected), trade }, atmospherePa)
  return level?.levelPa ?? atmospherePa ?? STANDARD_ATMOSPHERE_PA
}

/** A plate is read to a hundredth, and systems are overcharged. */
const OVERCHARGED = 1.15

/**
 * What may still come out at the most, kg; undefined: nobody knows, or more has come already than was expected.
 * @param movedKg in this pull so far, noted or not
 */
export function mayStillComeKg(
  state: JobState,
  transfer: Transfer,
  { expected }: Pick<Place, 'expected'>,
  movedKg: number,
): number | undefined {
  if (!expected) return undefined
  const outKg = (state.recoveredMg - transfer.amountMg) / MG_PER_KG + movedKg
  const leftKg = (OVERCHARGED * expected.massMg) / MG_PER_KG - outKg
  return leftKg > 0 ? leftKg : undefined
}
