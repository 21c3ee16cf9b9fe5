import { densestLiquid } from './fill'
import type { Cylinder } from './cylinder'
import { grossLimitMg, type LimitedCylinder } from './limit'
import { MG_PER_KG, MG_PER_LB } from '../units'

/** What is asked about a weight, before the books follow it. */
export type ReweighQuestion =
  /** The cylinder would be past its limit. */
  | 'beyond-limit'
  /** Less than the empty cylinder. */
  | 'below-tare'
  /** Far from what tare and books say. */
  | 'far-from-books'

export interface AskedReweigh {
  code: ReweighQuestion
  /** What may have been meant instead: the point elsewhere, or the other unit, where that raises no question. */
  insteadMg: number[]
}

/** A cap, a hose and a worn collar change a tare by less than this, mg. */
const TARE_SLACK_MG = 150_000
/** So far from the books, or a tenth of what they have in it, a scale may say without being asked, mg. */
export const FAR_MG = 300_000
const LB_PER_KG = MG_PER_KG / MG_PER_LB
/** A point that slipped, and pounds for kilograms. */
const MEANT = [0.1, 10, 1 / LB_PER_KG, LB_PER_KG]
/** Liquid this cold is denser than any in a shop, K. */
const COLD_K = 253.15

type Weighed = LimitedCylinder & Pick<Cylinder, 'balanceMg'>

/** Brimful of cold liquid, gross, mg: no cylinder weighs more. undefined: its water capacity is not known. */
export function brimfulMg({ tareMg, waterCapacityMg, refrigerant, condition }: Weighed): number | undefined {
  if (waterCapacityMg === null) return undefined
  const one = condition === 'clean' || condition === 'used' ? refrigerant : null
  return tareMg + Math.ceil((waterCapacityMg * densestLiquid(one, COLD_K)) / WATER_KG_M3)
}
const WATER_KG_M3 = 998.2

/** What cannot be so, or is unlikely, of a cylinder that was weighed again; undefined: the books follow the scale. */
export function askAboutReweigh(
  grossMg: number,
  cylinder: Weighed,
  marginPct: number,
): AskedReweigh | undefined {
  const limitMg = grossLimitMg(cylinder, cylinder.refrigerant, marginPct)
  const booksMg = cylinder.tareMg + cylinder.balanceMg
  const question = (mg: number): ReweighQuestion | undefined => {
    if (mg < cylinder.tareMg - TARE_SLACK_MG) return 'below-tare'
    // Past it already by the books: that alarm stands.
    if (limitMg !== undefined && mg > limitMg && booksMg <= limitMg) return 'beyond-limit'
    return isFarFromBooks(mg, cylinder) ? 'far-from-books' : undefined
  }
  return asked(grossMg, question)
}

/** The same of what is to be booked into a cylinder that comes full, net. */
export function askAboutArrival(
  netMg: number,
  cylinder: Weighed,
  marginPct: number,
): AskedReweigh | undefined {
  const limitMg = grossLimitMg(cylinder, cylinder.refrigerant, marginPct)
  if (limitMg === undefined) return undefined
  const emptyMg = cylinder.tareMg + cylinder.balanceMg
  return asked(netMg, (mg) => (emptyMg + mg > limitMg ? 'beyond-limit' : undefined))
}

/** So far from tare and books that somebody should look. */
export const isFarFromBooks = (
  grossMg: number,
  { tareMg, balanceMg }: Pick<Weighed, 'tareMg' | 'balanceMg'>,
) => Math.abs(grossMg - tareMg - balanceMg) > Math.max(FAR_MG, 0.1 * balanceMg)

function asked(
  typedMg: number,
  question: (mg: number) => ReweighQuestion | undefined,
): AskedReweigh | undefined {
  const code = question(typedMg)
  if (!code) return undefined
  const insteadMg = MEANT.map((times) => Math.round(typedMg * times)).filter(
    (mg) => question(mg) === undefined,
  )
  return { code, insteadMg }
}
