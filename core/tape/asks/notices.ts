import { airShare, identify } from '../../identity'
import type { Trade } from '../../systems'
import { STANDARD_ATMOSPHERE_PA } from '../../units'
import { type Quantity, quantity } from '../../verdict'
import type { PressureNote } from '../chapters/readings'
import { TOGETHER_MS } from '../judging/check-readings'
import { clampAt, gaugeAt } from '../mass/instruments'
import { isEmpty } from '../mass/episodes'
import { leakKnown } from '../mass/leak-known'
import { levelHere } from '../mass/level'
import { gasAt } from '../envelope/gas-at'
import { type JobState, stepDone } from '../envelope/state'
import type { Transfer } from '../mass/weighings'

/** What a practitioner would notice in what is noted already. */
export type NoticeCode =
  /** The low side after the last pull stands above the level. */
  | 'low-above-level'
  /** The low side came back since the last pull. */
  | 'rebounds'
  /** The same, and it is too soon to tell. */
  | 'rebounds-early'
  /** A leak is known, and the system is below atmosphere: air comes in. */
  | 'air-through-leak'
  /** The cylinder's pressure is above what this gas can have at its temperature. */
  | 'cylinder-above'
  /** Below: another gas, or no liquid in it. */
  | 'cylinder-below'

export interface Notice {
  code: NoticeCode
  numbers: Quantity[]
  /** Where it likely comes from. */
  why?: AirSource[]
}

/** Where air in a cylinder comes from. */
export type AirSource = 'not-purged' | 'drawn-by-leak' | 'was-in-it'

/** What stands still, or comes back, earlier than this says nothing yet: liquid under oil takes minutes to boil off. */
const LEAST_WAIT_MS = 5 * 60_000

/**
 * What is noticed in the readings of a recovery. Pressures only count after the last pull, as long as no transfer runs.
 * @param chargeKg what should have been in the system; null: not known, then the level of a small one
 * @throws UnknownRefrigerantError
 */
export function notices(state: JobState, chargeKg: number | null, trade: Trade = 'stationary'): Notice[] {
  const last = state.transfers.at(-1)
  const gas = last ? gasAt(state, last.startedAt) : state.refrigerant
  if (!state.refrigerant || !gas) return []
  return [...afterThePull(state, chargeKg, trade), ...throughTheLeak(state), ...inTheCylinder(state, gas)]
}

function lowsSincePull(state: JobState): PressureNote[] {
  const open = state.transfers.some((each) => each.endedAt === undefined)
  const last = state.transfers.at(-1)
  if (open || last?.use !== 'recover') return []
  return state.pressureNotes.filter((each) => each.point === 'low' && each.order > last.order)
}

function afterThePull(state: JobState, chargeKg: number | null, trade: Trade): Notice[] {
  const lows = lowsSincePull(state)
  const newest = lows.at(-1)
  if (!newest) return []
  const atmospherePa = newest.atmospherePa ?? STANDARD_ATMOSPHERE_PA
  const level = levelHere(state, { chargeKg, trade }, atmospherePa)!.levelPa
  const found: Notice[] = []
  const gaugePa = gaugeAt(state, newest.at).value
  if (newest.value > level + gaugePa / 2)
    found.push({
      code: 'low-above-level',
      numbers: [quantity('level', newest.value, 'Pa'), quantity('limit', level, 'Pa')],
    })
  const first = lows.reduce((lowest, each) => (each.value < lowest.value ? each : lowest))
  if (newest.value > first.value + gaugePa / 4 && newest.at > first.at)
    found.push({
      code: newest.at - first.at < LEAST_WAIT_MS ? 'rebounds-early' : 'rebounds',
      numbers: [
        quantity('start', first.value, 'Pa'),
        quantity('end', newest.value, 'Pa'),
        quantity('held-for', (newest.at - first.at) / 1000, 's'),
      ],
    })
  return found
}

function throughTheLeak(state: JobState): Notice[] {
  const low = state.pressureNotes.findLast((each) => each.point === 'low')
  if (!leakKnown(state) || !low || isEmpty(state)) return []
  const below = (low.atmospherePa ?? STANDARD_ATMOSPHERE_PA) - gaugeAt(state, low.at).value / 4
  return low.value < below
    ? [{ code: 'air-through-leak', numbers: [quantity('level', low.value, 'Pa')] }]
    : []
}

/** While a cylinder was on the hoses the last time: what was read before or after that was read on another one. */
function onHoses({ transfers }: JobState, cylinderId: string | undefined): { fromAt: number; toAt: number } {
  const last = transfers.findLastIndex((each) => each.cylinderId === cylinderId)
  const other = (each: Transfer) => each.cylinderId !== cylinderId
  // What was read between two of them was still of the first.
  const before = transfers.slice(0, last + 1).findLastIndex(other)
  return {
    fromAt: before < 0 ? -Infinity : transfers[before + 1]!.startedAt,
    toAt: transfers.slice(last + 1).find(other)?.startedAt ?? Infinity,
  }
}

/** What a gauge and a clamp showed together, the last time, of the cylinder that was filled last, or of another one. */
export function cylinderRead(state: JobState, cylinderId = state.transfers.at(-1)?.cylinderId) {
  const { fromAt, toAt } = onHoses(state, cylinderId)
  const of = <Note extends { at: number; point: string }>(notes: readonly Note[]) =>
    notes.findLast((each) => each.point === 'cylinder' && each.at >= fromAt && each.at < toAt)
  const [pressure, temperature] = [of(state.pressureNotes), of(state.temperatureNotes)]
  if (!pressure || !temperature || Math.abs(pressure.at - temperature.at) > TOGETHER_MS) return undefined
  return { pressure, temperature }
}

function inTheCylinder(state: JobState, refrigerant: string): Notice[] {
  const read = cylinderRead(state)
  const seen = read && fitOf(state, refrigerant, read)
  if (!seen) return []
  const { fit, ofVapour } = seen
  return [
    {
      code: fit.fit === 'above' ? 'cylinder-above' : 'cylinder-below',
      numbers: [
        quantity('level', read.pressure.value, 'Pa'),
        quantity('expected', fit.saturationPa, 'Pa', fit.sigmaPa),
        ...(fit.fit === 'above' ? [quantity('air', ofVapour, 'share')] : []),
      ],
      ...(fit.fit === 'above' && { why: whereFrom(state) }),
    },
  ]
}

type CylinderRead = NonNullable<ReturnType<typeof cylinderRead>>

/** Where it does not fit its gas: how, and how much air that would be. */
function fitOf(state: JobState, refrigerant: string, { pressure, temperature }: CylinderRead) {
  const [fit] = identify(
    {
      pressurePa: pressure.value,
      tempK: temperature.value,
      gaugePa: gaugeAt(state, pressure.at).value,
      clampK: clampAt(state, temperature.at).value,
    },
    [refrigerant],
  )
  if (!fit || fit.fit === 'fits') return undefined
  return { fit, ofVapour: airShare(pressure.value, fit.saturationPa, fit.sigmaPa).ofVapour }
}

/** What a cylinder showed after its last pull: whether it was read at all, and the air in its vapour. */
export function airIn(state: JobState, cylinderId: string): { isMeasured: boolean; share?: number } {
  const last = state.transfers.findLast((each) => each.cylinderId === cylinderId && each.use === 'recover')
  const read = cylinderRead(state, cylinderId)
  const gas = last && gasAt(state, last.startedAt)
  if (!read || !gas) return { isMeasured: false }
  const seen = fitOf(state, gas, read)
  return {
    isMeasured: read.pressure.at >= (last.endedAt ?? Infinity),
    ...(seen?.fit.fit === 'above' && { share: seen.ofVapour }),
  }
}

/** What may have brought air along: a leak below zero draws it, hoses that nobody purged carry it. */
export function airBrought(state: JobState): Exclude<AirSource, 'was-in-it'>[] {
  return whereFrom(state).filter((each) => each !== 'was-in-it')
}

/** The likeliest first: a leak below zero draws it, hoses that nobody purged carry it; else it was in there. */
function whereFrom(state: JobState): AirSource[] {
  const found: AirSource[] = []
  const below = state.pressureNotes.some(
    (each) => each.point === 'low' && each.value < (each.atmospherePa ?? STANDARD_ATMOSPHERE_PA) - 10_000,
  )
  if (below && state.leakChecks.some((each) => each.found)) found.push('drawn-by-leak')
  if (!stepDone(state, 'purged-hoses') && !stepDone(state, 'purged-joint-by-joint')) found.push('not-purged')
  return found.length > 0 ? found : ['was-in-it']
}
