export type CylinderKind = 'recovery' | 'virgin' | 'one-way' | 'station'

/** clean: fit to charge with; used: fit for its owner's system; doubtful and mixed: for reclaim. */
export type Condition = 'clean' | 'used' | 'doubtful' | 'mixed'

/** A cylinder as the rules see it. Masses in whole milligrams, pressures absolute. */
export interface Cylinder {
  cylinderId: string
  label: string
  kind: CylinderKind
  /** null: empty, not yet meant for one refrigerant. */
  refrigerant: string | null
  tareMg: number
  waterCapacityMg: number | null
  fillingRatio: number | null
  /** The gas that the ratio is stamped for: a ratio belongs to one gas. null: the one it holds. */
  ratioGas: string | null
  /** Station: how full its tank is worked with, percent of its capacity; null: 60. */
  workingFillPct: number | null
  servicePressurePa: number | null
  testedOn: string | null
  testYears: number
  flammableOk: boolean
  condition: Condition
  /** null: the shop's own. */
  ownerCustomerId: string | null
  balanceMg: number
  /** What a scale saw more (or less) in it than the books, not explained yet, mg; 0: they agree. */
  offMg: number
  retired: boolean
  /** Room that other jobs in hand count on. */
  reservedMg: number
}

/** The most that may be in it: the books, or the scale where it saw more. Room is reckoned from this. */
export const mostInMg = ({ balanceMg, offMg }: Pick<Cylinder, 'balanceMg' | 'offMg'>) =>
  balanceMg + Math.max(0, offMg)

/** The least that may be in it: the books, or the scale where it saw less. What it can give is reckoned from this. */
export const leastInMg = ({ balanceMg, offMg }: Pick<Cylinder, 'balanceMg' | 'offMg'>) =>
  balanceMg + Math.min(0, offMg)
