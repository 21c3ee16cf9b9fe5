import { type Tube, VALVE_CORE } from '../hoses'
import { waterPa } from '../refrigerants'
import { PA_PER_MICRON } from '../units'
import {
  effectiveSpeed,
  evacuationCurve,
  type EvacuationPoint,
  type EvacuationRig,
  NeverReachedError,
} from './evacuation'

export interface Range {
  least: number
  most: number
}

/** How it is pumped: what lies between system and pump, and what is pumped at. */
export interface SetUp {
  boreM: number
  lengthM: number
  /** Valve cores left in on the way. */
  cores: number
  pumpM3S: number
  ultimatePa: number
  /** A range where nobody knows it. */
  volumeM3: Range
}

/** Dry and tight plants take so much less and more than reckoned: hoses are not quite round, oil gives off gas. */
const ROUGH: Range = { least: 0.8, most: 1.5 }

export const rigOf = ({ boreM, lengthM, cores, pumpM3S, ultimatePa }: SetUp): EvacuationRig => ({
  tubes: [{ boreM, lengthM }, ...Array.from({ length: cores }, (): Tube => VALVE_CORE)],
  pumpM3s: pumpM3S,
  ultimatePa,
})

export interface Outlook {
  /** The soonest and the latest that a dry and tight system comes down; undefined where it never would. */
  soonest: EvacuationPoint[]
  latest: EvacuationPoint[]
}

/** The way down that is to be expected, as a band. undefined: this rig never gets there. */
export function outlook(setUp: SetUp, fromPa: number, toPa: number): Outlook | undefined {
  try {
    const of = (volumeM3: number, times: number) =>
      evacuationCurve(rigOf(setUp), volumeM3, fromPa, toPa).map(({ atS, pressurePa }) => ({
        atS: atS * times,
        pressurePa,
      }))
    return { soonest: of(setUp.volumeM3.least, ROUGH.least), latest: of(setUp.volumeM3.most, ROUGH.most) }
  } catch (error) {
    if (error instanceof NeverReachedError) return undefined
    throw error
  }
}

/** How long it takes from one pressure to another, s; undefined: never. */
export function timeDownS(setUp: SetUp, fromPa: number, toPa: number): Range | undefined {
  if (fromPa <= toPa) return { least: 0, most: 0 }
  const band = outlook(setUp, fromPa, toPa)
  return band && { least: band.soonest.at(-1)!.atS, most: band.latest.at(-1)!.atS }
}

export type BehindCause = 'core-in' | 'hose' | 'wet' | 'leak' | 'pump-oil' | 'gauge-at-pump' | 'volume'

export interface Behind {
  cause: BehindCause
  /** How well it explains how long it has taken: 1 wholly, 0 not at all. */
  fits: number
  /** What the cause would have to be: minutes it would take, Pa m3/s of a leak, Pa of the pump, m3. */
  value?: { seconds?: number; paM3S?: number; pa?: number; m3?: number }
}

export interface Progress {
  /** Since the pump began, s, and where it began, absolute Pa. */
  tookS: number
  fromPa: number
  nowPa: number
  /** How it went over the last minutes: share a minute by which the pressure falls. */
  fallsBy?: number
  ambientK?: number
  /** Something spoke of water: an earlier hold, or a flood. */
  wet?: boolean
  gaugeAtPump?: boolean
}

/** So much later than the latest is behind, s and times. */
const BEHIND_S = 60
const BEHIND_TIMES = 1.2
/** Falling by less than this a minute it has come to a stand. */
const STANDS = 0.08

/** Whether it lags behind the latest that was to be expected. */
export function isBehind(setUp: SetUp, { tookS, fromPa, nowPa }: Progress): boolean {
  const expected = timeDownS(setUp, fromPa, nowPa)
  return expected !== undefined && tookS > Math.max(expected.most * BEHIND_TIMES, expected.most + BEHIND_S)
}

/**
 * Why it may lag, the likeliest first, each with what it would have to be. A cause that would not make it late enough
 * fits badly; one that nothing speaks of is left out.
 */
export function whyBehind(setUp: SetUp, progress: Progress): Behind[] {
  const { tookS, fromPa, nowPa, fallsBy, ambientK = 293.15, wet = false, gaugeAtPump = false } = progress
  const middle = { ...setUp, volumeM3: middleOf(setUp.volumeM3) }
  const explained = (other: Partial<SetUp>): Pick<Behind, 'fits' | 'value'> | undefined => {
    const time = timeDownS({ ...middle, ...other }, fromPa, nowPa)
    if (!time) return undefined
    const seconds = Math.sqrt(time.least * time.most)
    return { fits: closeness(seconds / Math.max(1, tookS)), value: { seconds } }
  }
  const found: Behind[] = []
  const add = (cause: BehindCause, how: Pick<Behind, 'fits' | 'value'> | undefined) => {
    if (how) found.push({ cause, ...how })
  }
  if (setUp.cores === 0) add('core-in', explained({ cores: 1 }))
  if (setUp.boreM > 5e-3) add('hose', explained({ boreM: 4.8e-3 }))
  add('volume', largerVolume(middle, progress))
  const stands = fallsBy !== undefined && fallsBy < STANDS
  if (stands) {
    const carried = effectiveSpeed(rigOf(middle), nowPa) * Math.max(0, nowPa - setUp.ultimatePa)
    found.push({ cause: 'leak', fits: wet ? 0.5 : 0.7, value: { paM3S: carried } })
    const water = waterPa(ambientK)
    const ice = waterPa(273.15)
    if (nowPa < 1.1 * water && nowPa > 0.05 * ice)
      found.push({ cause: 'wet', fits: wet ? 0.9 : nowPa > 0.5 * ice ? 0.75 : 0.55 })
    if (nowPa < 2000 * PA_PER_MICRON) found.push({ cause: 'pump-oil', fits: 0.5, value: { pa: nowPa } })
  }
  // A gauge at the pump reads too low under flow, not too high: what it says is the worse for it.
  if (gaugeAtPump) found.push({ cause: 'gauge-at-pump', fits: 0.3 })
  return found.filter(({ fits }) => fits >= LEAST_FIT).sort((a, b) => b.fits - a.fits)
}

const LEAST_FIT = 0.25
/** 1 where the times agree, 0 where they differ by a factor of e or more. */
const closeness = (ratio: number): number => Math.max(0, 1 - Math.abs(Math.log(ratio)))
const middleOf = ({ least, most }: Range): Range => {
  const middle = Math.sqrt(least * most)
  return { least: middle, most: middle }
}

function largerVolume(
  setUp: SetUp,
  { tookS, fromPa, nowPa }: Progress,
): Pick<Behind, 'fits' | 'value'> | undefined {
  const time = timeDownS(setUp, fromPa, nowPa)
  if (!time) return undefined
  const times = tookS / Math.sqrt(time.least * time.most)
  // Twice what was thought is possible, ten times is not.
  return { fits: closeness(times / 2) * 0.6, value: { m3: setUp.volumeM3.least * times } }
}

/** Water that freezes: it stands where ice gives its vapour, and something spoke of water. */
export function mayFreeze({ nowPa, fallsBy, wet }: Progress): boolean {
  const ice = waterPa(273.15)
  return wet === true && fallsBy !== undefined && fallsBy < STANDS && nowPa > 0.3 * ice && nowPa < 1.15 * ice
}

/** Share a minute by which the last few minutes fell; undefined: too few readings. */
export function fallsBy(readings: readonly { atS: number; pressurePa: number }[]): number | undefined {
  const last = readings.at(-1)
  if (!last) return undefined
  const before = readings.findLast((each) => last.atS - each.atS >= OVER_S)
  if (!before || last.pressurePa <= 0) return undefined
  return (Math.log(before.pressurePa / last.pressurePa) * 60) / (last.atS - before.atS)
}
const OVER_S = 150

/** What a proof of pump, hoses and gauge alone says. */
export type KitProofCode = 'kit-proved' | 'kit-too-high' | 'kit-rises' | 'kit-proof-short'

/** Kit alone: below this, and no higher than that after the time, absolute Pa and s. Common practice. */
export const KIT_PROOF = { reachPa: 500 * PA_PER_MICRON, risePa: 200 * PA_PER_MICRON, forS: 120 }

/** Pump against closed valves: must go below 500 micron and stay there. */
export function judgeKitProof(reachedPa: number, heldPa: number, forS: number): KitProofCode {
  if (reachedPa > KIT_PROOF.reachPa) return 'kit-too-high'
  if (heldPa - reachedPa > KIT_PROOF.risePa || heldPa > KIT_PROOF.reachPa) return 'kit-rises'
  return forS < KIT_PROOF.forS ? 'kit-proof-short' : 'kit-proved'
}
