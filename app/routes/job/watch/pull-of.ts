import { endLevel, type At, type Pull } from '#core/recovery'
import { tableOf } from '#core/refrigerants'
import { type Channel, type Point, SILENT_MS } from '#core/samples'
import { divisionMg } from '#core/scales'
import { gaugeAt, type JobState, type Transfer } from '#core/tape'
import { MG_PER_KG, STANDARD_ATMOSPHERE_PA, ZERO_CELSIUS_K } from '#core/units'

/** What instruments said on a channel, in its own unit; empty where none speaks. */
export type LinesOf = (channel: Channel) => readonly (Point | null)[]

interface Place {
  atmospherePa?: number | undefined
  /** What should be in the system; null: not known. */
  expected: { massMg: number } | null
  /** A stand-in plays faster than life: so many of its seconds go into one. */
  speed: number
  /** By the server's clock, ms. */
  nowMs: number
}

/** Where nobody has measured the air it is taken for an ordinary day's. */
const ORDINARY_K = 25 + ZERO_CELSIUS_K
/** Four samples are a stream: what is typed beside it is one of them, or older. */
const STREAMS = 4
/** And one that has said nothing for so long is silent, s. */
const SILENT_S = SILENT_MS / 1_000

/** A running pull as the judges see it: from instruments where they speak, else from what was noted. */
export function pullOf(state: JobState, transfer: Transfer, lines: LinesOf, place: Place): Pull {
  const { nowMs, speed, atmospherePa = STANDARD_ATMOSPHERE_PA } = place
  const index = transfer.segments.length - 1
  const segment = transfer.segments[index]!
  const own = transfer.weighings.filter((each) => each.segment === index && !each.doubt)
  const beganMs = own[0]?.at ?? transfer.startedAt
  // One clock, one zero; faster where a stand-in plays faster.
  const seconds = (ms: number) => ((ms - beganMs) / 1_000) * speed
  const heard = (channel: Channel, turn: (value: number) => number): At[] =>
    lines(channel).flatMap((point) =>
      point && point[0] >= beganMs ? [{ atS: seconds(point[0]), value: turn(point[1]) }] : [],
    )
  const either = (spoken: At[], noted: { at: number; value: number }[]): At[] => {
    const typed = inOrder(
      noted.filter(({ at }) => at >= beganMs).map(({ at, value }) => ({ atS: seconds(at), value })),
    )
    if (spoken.length < STREAMS) return typed
    // An instrument that has gone silent has had its say: what is typed since goes on from there.
    const endS = spoken.at(-1)!.atS
    return [...spoken, ...typed.filter(({ atS }) => atS > endS + SILENT_S * speed)]
  }
  const absolute = (pa: number) => pa + atmospherePa
  const pressures = (point: 'low' | 'cylinder') => state.pressureNotes.filter((each) => each.point === point)
  const ambients = [
    ...heard('ambient', (value) => value).map(({ value }) => value),
    ...state.temperatureNotes.filter((each) => each.point === 'ambient').map(({ value }) => value),
  ]
  const gas = state.refrigerant
  return {
    weights: either(
      heard('weight', (kg) => kg - segment.firstMg / MG_PER_KG),
      own.map(({ at, weightMg }) => ({ at, value: (weightMg - segment.firstMg) / MG_PER_KG })),
    ),
    low: either(heard('low', absolute), pressures('low')),
    cylinderPa: either(heard('cylinder-pressure', absolute), pressures('cylinder')),
    cylinderK: either(
      heard('cylinder', (value) => value),
      state.temperatureNotes.filter((each) => each.point === 'cylinder'),
    ),
    coilK: either(
      heard('suction', (value) => value),
      state.temperatureNotes.filter((each) => each.point === 'suction'),
    ),
    nowS: seconds(nowMs),
    divisionKg: divisionMg(segment.divisionMg, Math.abs(segment.highestMg)) / MG_PER_KG,
    // The limit of error of a gauge holds for nearly all: two standard deviations.
    gaugePa: gaugeAt(state, nowMs).value / 2,
    atmospherePa,
    ambientK: ambients.at(-1) ?? ORDINARY_K,
    levelPa: levelOf(state, place.expected, atmospherePa),
    table: gas ? tableOf(gas) : undefined,
  }
}

/** Down to here it must go, absolute Pa: the rule speaks of gauges, and its level moves with the atmosphere. */
export function levelOf(
  { refrigerant }: Pick<JobState, 'refrigerant'>,
  expected: { massMg: number } | null,
  atmospherePa: number = STANDARD_ATMOSPHERE_PA,
): number {
  if (!refrigerant) return atmospherePa
  const chargeKg = (expected?.massMg ?? 0) / MG_PER_KG
  return endLevel(refrigerant, chargeKg, 'appliance').levelPa - STANDARD_ATMOSPHERE_PA + atmospherePa
}

/** Of two at one time the later one counts. */
function inOrder(samples: At[]): At[] {
  return samples
    .toSorted((a, b) => a.atS - b.atS)
    .filter((each, i, all) => i === all.length - 1 || all[i + 1]!.atS > each.atS)
}
