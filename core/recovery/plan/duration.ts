import {
  liquidDensity,
  OutOfRangeError,
  type SaturationTable,
  saturationPressurePa,
  vapourDensityAt,
} from '../../refrigerants'
import type { Range } from '../wait'

export type CylinderPort = 'vapour' | 'liquid'
export type HoseSize = '1/4' | '3/8' | '1/2'

export interface RigPlan {
  chargeKg: number
  /** All of it as vapour, or what the hose reaches as liquid first. */
  liquidFirst: boolean
  coresOut: boolean
  hose: HoseSize
  ambientK: number
  /** Down to here, absolute Pa. */
  levelPa: number
}

/** One run of this rig that is over. */
export interface PastRun {
  massKg: number
  seconds: number
}

export interface Expected {
  /** Seconds with gas moving; waits come on top. */
  seconds: Range
  /** How many runs of this rig it rests on; 0: on the model alone. */
  runs: number
}

/** Flow coefficients and machine of the model (docs/rig.md): m2 and m3/s. Plausible, not validated. */
const PORT_K = { in: 2e-6, out: 10e-6 }
const HOSE_K: Record<HoseSize, number> = { '1/4': 2.4e-6, '3/8': 14e-6, '1/2': 30e-6 }
const DISPLACEMENT_M3_S = 0.45e-3
/** Inner volume for a kilogram, m3: in the middle of what systems have. */
const M3_PER_KG = 4.7e-3
/**
 * Fitted to 911 recoveries on the simulated plant (six gases, half a kilogram to eight, 10 to 32 °C): of these 98 in a
 * hundred took between 0.7 and 1.6 times what this says.
 */
const FIT = {
  /** The pressure that is drawn from on the way, as a share of saturation: what boils cools what is left. */
  mean: 0.67,
  /** Vapour through core and hose, by the root of pressure times density. */
  vapour: 0.91,
  /** What limits more, hose or machine, counts more. */
  sharp: 2.19,
  /** The machine's power allows no more, kg/s. */
  powerKgS: 0.0238,
  /** Share of the charge that a liquid hose reaches, and of the pressure that drives it before it flashes. */
  reached: 0.79,
  flashes: 0.049,
  liquidKgS: 0.116,
  /** At the end the vapour leaves by shares: so many times the plain emptying of the volume. */
  last: 1.84,
}
/** What the model is worth before this rig has shown what it does. */
const ROUGH = { least: 0.6, most: 1.9 }
/** Of a few grams the beginning and the end are most of it, s: by recoveries of 55 g to 20 kg (`./keg bench left`). */
const AROUND_S = { before: 10, after: 30 }
/** The end, of which no scale tells, s. */
const LAST_S = 60
/** So many runs of its own are better than any model. */
const ENOUGH = 3

/**
 * How long a recovery takes with gas moving: by the model, or by what this rig did before where it has done so often.
 * @returns undefined where the refrigerant has no liquid at this temperature
 */
export function expectedDuration(
  plan: RigPlan,
  table: SaturationTable,
  molarMassG: number,
  past: readonly PastRun[] = [],
): Expected | undefined {
  const own = ownPace(past)
  if (own)
    return {
      seconds: { least: own.least * plan.chargeKg, most: own.most * plan.chargeKg + LAST_S },
      runs: past.length,
    }
  const seconds = byModel(plan, table, molarMassG)
  if (seconds === undefined) return undefined
  return {
    seconds: {
      least: Math.max(0, ROUGH.least * seconds - AROUND_S.before),
      most: ROUGH.most * seconds + AROUND_S.after,
    },
    runs: past.length,
  }
}

/** Seconds a kilogram, from the quickest tenth to the slowest. */
function ownPace(past: readonly PastRun[]): Range | undefined {
  const paces = past
    .filter(({ massKg, seconds }) => massKg > 0.2 && seconds > 30)
    .map(({ massKg, seconds }) => seconds / massKg)
    .sort((a, b) => a - b)
  if (paces.length < ENOUGH) return undefined
  const at = (share: number) => paces[Math.round(share * (paces.length - 1))]!
  return { least: at(0.1), most: at(0.9) }
}

function byModel(
  { chargeKg, liquidFirst, coresOut, hose, ambientK, levelPa }: RigPlan,
  table: SaturationTable,
  molarMassG: number,
): number | undefined {
  try {
    const saturationPa = saturationPressurePa(table, ambientK, 'bubble')
    const liquidKg = liquidFirst ? FIT.reached * chargeKg : 0
    const meanPa = Math.max(1.5 * levelPa, FIT.mean * saturationPa)
    const rig = { coresOut, hose }
    const liquidKgS = liquidRate(rig, saturationPa, liquidDensity(table, ambientK))
    const vapourKgS = vapourRate(rig, meanPa, vapourDensityAt(table, molarMassG, meanPa, ambientK))
    const emptyingS = (M3_PER_KG * chargeKg) / DISPLACEMENT_M3_S
    const lastS = FIT.last * emptyingS * Math.log(Math.max(1.2, meanPa / Math.max(levelPa, 20_000)))
    return liquidKg / liquidKgS + (chargeKg - liquidKg) / vapourKgS + lastS
  } catch (error) {
    if (error instanceof OutOfRangeError) return undefined
    throw error
  }
}

type Rig = Pick<RigPlan, 'coresOut' | 'hose'>

/** Core and hose in a row: their squares add as resistances do. */
function flowCoefficient({ coresOut, hose }: Rig): number {
  return 1 / Math.hypot(1 / (coresOut ? PORT_K.out : PORT_K.in), 1 / HOSE_K[hose])
}

function liquidRate(rig: Rig, pressurePa: number, density: number): number {
  return Math.min(FIT.liquidKgS, flowCoefficient(rig) * Math.sqrt(2 * density * FIT.flashes * pressurePa))
}

function vapourRate(rig: Rig, pressurePa: number, density: number): number {
  const hoseKgS = FIT.vapour * flowCoefficient(rig) * Math.sqrt(pressurePa * density)
  const drawnKgS = Math.min(DISPLACEMENT_M3_S * density, FIT.powerKgS)
  return (hoseKgS ** -FIT.sharp + drawnKgS ** -FIT.sharp) ** (-1 / FIT.sharp)
}

/** No machine of the trade takes more liquid, kg/s. */
const MACHINE_LIQUID_KG_S = 0.05

/**
 * What core, hose and machine pass at a pressure, kg/s: a rate far below it means that something else holds it back.
 * @returns undefined for a state outside the table
 */
export function canPassKgS(
  rig: Rig & Pick<RigPlan, 'liquidFirst' | 'ambientK'>,
  pressurePa: number,
  table: SaturationTable,
  molarMassG: number,
): number | undefined {
  try {
    return rig.liquidFirst
      ? Math.min(MACHINE_LIQUID_KG_S, liquidRate(rig, pressurePa, liquidDensity(table, rig.ambientK)))
      : vapourRate(rig, pressurePa, vapourDensityAt(table, molarMassG, pressurePa, rig.ambientK))
  } catch (error) {
    if (error instanceof OutOfRangeError) return undefined
    throw error
  }
}
