import type { Channel } from '#core/samples'
import { ZERO_CELSIUS_K } from '#core/units'
import { type Dice, dice, seedFor } from '../dice'
import { fluidOf } from '../fluid'
import { cylinderPa, type PlantParameters, type PlantState } from '../plant'

export interface ScaleSetup {
  tareKg: number
  divisionKg: number
  noiseKg: number
  driftKgPerHour: number
  /** A hose that pulls on the cylinder: a steady part, and as much again that swings. */
  hoseKg: number
  /** Somebody's knee: at this time it jumps by this much, for good. */
  nudge?: { atS: number; kg: number }
  /** From this time it stays where it was, jumps about, or says nothing at all. */
  failing?: { atS: number; how: 'stuck' | 'jumps' | 'silent' }
}

export interface GaugeSetup {
  fullScalePa: number
  classPct: number
  offZeroPa: number
  divisionPa: number
  /** No gauge on this side. */
  missing?: boolean
  /** At the machine it reads low while gas flows. */
  at: 'system' | 'machine'
}

export interface ClampSetup {
  accuracyK: number
  divisionK: number
  /** How slowly it follows, s. */
  lagS: number
}

export interface VacuumGaugeSetup {
  at: 'system' | 'pump'
  accuracyPct: number
  leastPa: number
  mostPa: number
}

export interface SensorSetup {
  scale: ScaleSetup
  low: GaugeSetup
  high: GaugeSetup
  /** On the cylinder's vapour valve. */
  cylinder: Omit<GaugeSetup, 'at'>
  clamp: ClampSetup
  vacuum: VacuumGaugeSetup
  /** How far its nose is from the leak, m; undefined: not near one. */
  detectorM?: number
}

const USUAL_SENSORS: SensorSetup = {
  scale: { tareKg: 9, divisionKg: 0.005, noiseKg: 0.002, driftKgPerHour: 0, hoseKg: 0 },
  low: { fullScalePa: 8e5, classPct: 1, offZeroPa: 0, divisionPa: 1_000, at: 'machine' },
  high: { fullScalePa: 40e5, classPct: 1, offZeroPa: 0, divisionPa: 5_000, at: 'machine' },
  cylinder: { fullScalePa: 40e5, classPct: 1, offZeroPa: 0, divisionPa: 5_000 },
  clamp: { accuracyK: 0.5, divisionK: 0.1, lagS: 8 },
  vacuum: { at: 'system', accuracyPct: 10, leastPa: 0.1, mostPa: 2_700 },
}

/** What differs from the usual instruments, each by its parts. */
export type SensorChanges = { [K in keyof Omit<SensorSetup, 'detectorM'>]?: Partial<SensorSetup[K]> } & {
  detectorM?: number
}

/** The usual instruments with some of it changed. */
export function sensorsWith({ detectorM, ...changes }: SensorChanges = {}): SensorSetup {
  const usual = USUAL_SENSORS
  return {
    scale: { ...usual.scale, ...changes.scale },
    low: { ...usual.low, ...changes.low },
    high: { ...usual.high, ...changes.high },
    cylinder: { ...usual.cylinder, ...changes.cylinder },
    clamp: { ...usual.clamp, ...changes.clamp },
    vacuum: { ...usual.vacuum, ...changes.vacuum },
    ...(detectorM === undefined ? {} : { detectorM }),
  }
}

/** Reads every instrument of a setup; what is missing or silent is left out. */
export interface Sensors {
  read(parameters: PlantParameters, state: PlantState): Partial<Record<Channel, number>>
}

/** The same seed gives the same instruments, with the same errors. */
export function sensorsOf(setup: SensorSetup, seed: number): Sensors {
  const scale = scaleOf(setup.scale, dice(seedFor(seed, 'scale')))
  const low = gaugeOf(setup.low, dice(seedFor(seed, 'low')))
  const high = gaugeOf(setup.high, dice(seedFor(seed, 'high')))
  const held = gaugeOf(setup.cylinder, dice(seedFor(seed, 'cylinder-pressure')))
  const clamps = ['suction', 'liquid', 'vent', 'cylinder', 'ambient'].map((name) =>
    clampOf(setup.clamp, dice(seedFor(seed, name))),
  )
  const vacuum = vacuumGaugeOf(setup.vacuum, dice(seedFor(seed, 'vacuum')))
  return {
    read(parameters, state) {
      const { seen, seconds, system, cylinder } = state
      const { atmospherePa, ambientK } = parameters
      const running = seen.running
      const temperatures = [
        running?.suctionK ?? system.mainK,
        running?.liquidK ?? system.mainK,
        running?.airOffK ?? ambientK,
        cylinder.tempK,
        ambientK,
      ]
      const [suction, liquid, vent, shell, ambient] = clamps.map((clamp, i) =>
        clamp(temperatures[i]!, seconds),
      )
      const said: Partial<Record<Channel, number | undefined>> = {
        weight: scale(cylinder.kg, seconds),
        low: low((setup.low.at === 'machine' ? seen.suctionPa : seen.systemPa) - atmospherePa),
        high: high((setup.high.at === 'machine' && !running ? seen.dischargePa : seen.highPa) - atmospherePa),
        'cylinder-pressure': held(pressureIn(parameters, state) - atmospherePa),
        vacuum: vacuum(setup.vacuum.at === 'pump' && seen.pumpPa > 0 ? seen.pumpPa : seen.systemPa),
        suction: suction!,
        liquid: liquid!,
        vent: running ? vent! : undefined,
        cylinder: shell!,
        ambient: ambient!,
        purity: purity(state),
        detector: setup.detectorM === undefined ? undefined : detected(parameters, setup.detectorM),
      }
      return Object.fromEntries(Object.entries(said).filter(([, value]) => value !== undefined))
    },
  }
}

function scaleOf(setup: ScaleSetup, own: Dice) {
  let swing = 0
  let stuck: number | undefined
  return (contentsKg: number, seconds: number): number | undefined => {
    swing = 0.9 * swing + 0.1 * own.normal()
    const failing = setup.failing && seconds >= setup.failing.atS ? setup.failing.how : undefined
    const nudged = setup.nudge && seconds >= setup.nudge.atS ? setup.nudge.kg : 0
    const drift = (setup.driftKgPerHour * seconds) / 3_600
    const jump = failing === 'jumps' && own.even() < 0.3 ? 5 * own.normal() : 0
    const onIt = setup.tareKg + contentsKg + nudged + drift + setup.hoseKg * (1 + swing) + jump
    const reads = rounded(onIt + setup.noiseKg * own.normal(), setup.divisionKg)
    if (failing === 'silent') return undefined
    if (failing === 'stuck') return (stuck ??= reads)
    return reads
  }
}

/** What a gauge on the cylinder's valve sees, Pa absolute. */
function pressureIn({ refrigerant, cylinder: shell }: PlantParameters, { cylinder }: PlantState): number {
  const { refrigerantPa, airPa } = cylinderPa(fluidOf(refrigerant), shell, cylinder)
  return refrigerantPa + airPa
}

function gaugeOf(
  { fullScalePa, classPct, offZeroPa, divisionPa, missing }: Omit<GaugeSetup, 'at'>,
  own: Dice,
) {
  // A gauge's error belongs to it: within its class, and steady.
  const slope = 1 + ((own.even() * 2 - 1) * classPct) / 100 / 2
  const zero = ((own.even() * 2 - 1) * classPct * fullScalePa) / 100 / 2
  return (gaugePa: number): number | undefined =>
    missing ? undefined : rounded(Math.min(gaugePa * slope + zero, fullScalePa) + offZeroPa, divisionPa)
}

function clampOf({ accuracyK, divisionK, lagS }: ClampSetup, own: Dice) {
  const off = (own.even() * 2 - 1) * accuracyK
  let shownK: number | undefined
  let lastS = 0
  return (tempK: number, seconds: number): number => {
    const follow = lagS > 0 ? 1 - Math.exp(-(seconds - lastS) / lagS) : 1
    shownK = shownK === undefined ? tempK : shownK + (tempK - shownK) * follow
    lastS = seconds
    return ZERO_CELSIUS_K + rounded(shownK - ZERO_CELSIUS_K + off, divisionK)
  }
}

function vacuumGaugeOf({ accuracyPct, leastPa, mostPa }: VacuumGaugeSetup, own: Dice) {
  const slope = 1 + ((own.even() * 2 - 1) * accuracyPct) / 100
  return (pa: number): number => {
    const reads = Math.max(leastPa, Math.min(mostPa, pa * slope * (1 + 0.005 * own.normal())))
    // Three digits, as such gauges have.
    return Number(reads.toPrecision(3))
  }
}

/** Share of refrigerant in what would come out, by the mole; all of it where there is no air. */
function purity({ system, cylinder }: PlantState): number {
  const air = system.airMol + cylinder.airMol
  if (air <= 0) return 1
  const vapour = Math.max(1e-9, system.vapourKg + system.liquidKg + cylinder.kg) / 0.08
  return Math.round((vapour / (vapour + air)) * 1_000) / 1_000
}

/** 0 to 9, as detectors show: with the size of the hole, and the square of the way from it. */
function detected({ system }: PlantParameters, metres: number): number {
  const strength = ((system.holeM / 1e-4) ** 2 * 0.05 ** 2) / Math.max(0.01, metres) ** 2
  return Math.max(0, Math.min(9, Math.round(3 * Math.log10(1 + 10 * strength))))
}

function rounded(value: number, division: number): number {
  if (division <= 0) return value
  // Through its decimals, so that 14.105 does not become 14.104999.
  return Number((Math.round(value / division) * division).toFixed(9))
}
