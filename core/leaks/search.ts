/** Places where it leaks, in the order of likelihood. */
export type Place =
  | 'cores-and-caps'
  | 'flares'
  | 'joints'
  | 'service-valves'
  | 'crimps'
  | 'coil-bends'
  | 'condenser-face'
  | 'shaft-seal'
  | 'compressor-case'
  | 'seams'
  | 'o-rings'
  | 'evaporator-drain'
  | 'vents'
  | 'capillary'
  | 'switches'

const STATIONARY: readonly Place[] = [
  'cores-and-caps',
  'flares',
  'joints',
  'service-valves',
  'coil-bends',
  'capillary',
  'switches',
  'compressor-case',
  'seams',
]
const VEHICLE: readonly Place[] = [
  'cores-and-caps',
  'crimps',
  'o-rings',
  'condenser-face',
  'shaft-seal',
  'switches',
  'seams',
  'evaporator-drain',
  'vents',
]

/** Where to look, the likeliest first. Leaky valve cores are the commonest of all. */
export const placesOf = (trade: 'stationary' | 'vehicle'): readonly Place[] =>
  trade === 'vehicle' ? VEHICLE : STATIONARY

export type FindsBy = 'vacuum-hold' | 'nitrogen-hold' | 'bubbles' | 'detector' | 'dye'

/** What a method finds at the best, kg a year of refrigerant: orders of magnitude that the trade reckons with. */
export const FINDS_KG_PER_YEAR: Record<FindsBy, number> = {
  'vacuum-hold': 5,
  'nitrogen-hold': 0.3,
  bubbles: 0.05,
  dye: 0.01,
  detector: 0.005,
}

/** Methods that can find a leak of this size at all, the roughest first. */
export function canFind(kgPerYear: number): FindsBy[] {
  return (Object.keys(FINDS_KG_PER_YEAR) as FindsBy[]).filter((each) => FINDS_KG_PER_YEAR[each] <= kgPerYear)
}

/** When a leak of this size has taken a tenth of the charge: a good day to look again. At least a week, at most a year. */
export function recheckDays(kgPerYear: number, chargeKg: number): number {
  if (kgPerYear <= 0) return 365
  return Math.round(Math.min(365, Math.max(7, (0.1 * chargeKg * 365) / kgPerYear)))
}
