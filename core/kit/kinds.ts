/** The kinds of kit, in the order in which a list shows them. */
export const KIT_KINDS = [
  'scale',
  'gauge',
  'thermometer',
  'vacuum-gauge',
  'identifier',
  'machine',
  'pump',
  'hoses',
  'core-tool',
  'detector',
  'uv-lamp',
  'nitrogen',
  'weights',
  'bottle',
  'station',
] as const
export type KitKind = (typeof KIT_KINDS)[number]

export type KitState = 'in-use' | 'repair' | 'retired'

/** What computing needs of a piece of kit, SI and mg. What is not known is left out. */
export interface KitFacts {
  /** Scale: most it may carry; what it counts in; how far it may be off over its range. */
  capacityMg?: number
  divisionMg?: number
  accuracyMg?: number
  /** Gauge set: full scale in gauge pressure, Pa; its class, percent of that. */
  fullScalePa?: number
  classPct?: number
  /** Clamp or thermometer: how far it may be off, K. */
  accuracyK?: number
  /** Vacuum gauge: what it can read, absolute Pa; how far it may be off, percent of the reading; where it usually sits. */
  leastPa?: number
  mostPa?: number
  accuracyPct?: number
  sitsAt?: 'system' | 'pump'
  /** Identifier: gas below this purity is not taken. */
  purityPct?: number
  /** Machine, station: rated for flammable refrigerants. */
  flammableOk?: boolean
  oilLess?: boolean
  /** Cuts out at this pressure; stops by itself at that one; both absolute Pa. */
  cutOutPa?: number
  stopsAtPa?: number
  takesLiquid?: boolean
  /** How it purges itself, and in which order its valves are shut: one step a line. */
  purgeWay?: string
  shutDown?: string
  /** What it holds before it is purged. */
  holdUpMg?: number
  /** What its filter-drier may pass. */
  filterLifeMg?: number
  /** Pump: displacement, m3/s; ultimate pressure, Pa; hours between changes of its oil. */
  flowM3s?: number
  ultimatePa?: number
  oilHours?: number
  /** Hoses: bore and length of each, m, and how many. */
  boreM?: number
  lengthM?: number
  count?: number
  /** Detector: how it works. */
  method?: 'heated-diode' | 'infrared' | 'ultrasonic' | 'other'
  /** Nitrogen: most that the regulator lets through, absolute Pa. */
  regulatorPa?: number
  /** Check weights: what they weigh in all. */
  massMg?: number
  /** Bottle: what is in it. */
  contents?: 'oil' | 'dye'
  oilType?: string
  viscosity?: number
  dyed?: boolean
  bottleMl?: number
  /** Station: its tank in the rack. */
  tankId?: string
  /** Days between two checks, where the shop wants others than usual. */
  checkDays?: number
}
export type FactName = keyof KitFacts

/** What can be done with a piece of kit, and is written down. */
export type ActCode =
  | 'scale-check'
  | 'zero-check'
  | 'temperature-check'
  | 'vacuum-check'
  | 'calibrated'
  | 'oil-changed'
  | 'hours-run'
  | 'filter-fitted'
  | 'seals-looked'
  | 'bottle-opened'
  | 'bottle-level'
  | 'purged'
  | 'decided'

/**
 * Days between two of an act, where the shop sets none of its own. Usage of the trade, no standard: scales and gauges
 * monthly, what is sent away yearly. Opened oil draws water from the air.
 */
export const USUAL_DAYS: Partial<Record<ActCode, number>> = {
  'scale-check': 30,
  'zero-check': 30,
  'temperature-check': 180,
  'vacuum-check': 180,
  calibrated: 365,
  'oil-changed': 90,
  'seals-looked': 90,
}
interface KindOfKit {
  /** What is asked of it, in the order of its form. */
  facts: readonly FactName[]
  acts: readonly ActCode[]
  /** Of this kind a job uses one at a time: another takes its place. */
  oneAtATime: boolean
}

const one = (facts: readonly FactName[], acts: readonly ActCode[]): KindOfKit => ({
  // Days between checks are asked where something is due by them.
  facts: acts.some((act) => act in USUAL_DAYS || act === 'bottle-opened') ? [...facts, 'checkDays'] : facts,
  acts,
  oneAtATime: true,
})
const some = (facts: readonly FactName[], acts: readonly ActCode[]): KindOfKit => ({
  ...one(facts, acts),
  oneAtATime: false,
})

/** Everything that a kind of kit is, once: form, file columns, checks and due dates follow from it. */
export const KINDS_OF_KIT: Record<KitKind, KindOfKit> = {
  scale: some(['capacityMg', 'divisionMg', 'accuracyMg'], ['scale-check', 'decided']),
  gauge: one(['fullScalePa', 'classPct'], ['zero-check']),
  thermometer: one(['accuracyK'], ['temperature-check']),
  'vacuum-gauge': one(['leastPa', 'mostPa', 'accuracyPct', 'sitsAt'], ['vacuum-check']),
  identifier: one(['purityPct'], ['calibrated']),
  machine: one(
    [
      'flammableOk',
      'oilLess',
      'takesLiquid',
      'cutOutPa',
      'stopsAtPa',
      'holdUpMg',
      'filterLifeMg',
      'purgeWay',
      'shutDown',
    ],
    ['filter-fitted', 'purged'],
  ),
  pump: one(['flowM3s', 'ultimatePa', 'oilHours'], ['oil-changed', 'hours-run']),
  hoses: some(['boreM', 'lengthM', 'count'], ['seals-looked', 'purged']),
  'core-tool': some([], ['seals-looked']),
  detector: one(['method'], ['calibrated']),
  'uv-lamp': one([], []),
  nitrogen: one(['regulatorPa'], ['calibrated']),
  weights: some(['massMg'], ['calibrated']),
  bottle: some(['contents', 'oilType', 'viscosity', 'dyed', 'bottleMl'], ['bottle-opened', 'bottle-level']),
  station: one(
    [
      'tankId',
      'capacityMg',
      'divisionMg',
      'accuracyMg',
      'flammableOk',
      'cutOutPa',
      'holdUpMg',
      'filterLifeMg',
      'purgeWay',
      'shutDown',
    ],
    ['scale-check', 'decided', 'filter-fitted', 'purged'],
  ),
}

/** Those that gas is weighed on. */
export const weighs = (kind: KitKind): boolean => KINDS_OF_KIT[kind].acts.includes('scale-check')
/** Those that gas goes through, and that may keep some. */
export const holdsGas = (kind: KitKind): boolean => KINDS_OF_KIT[kind].acts.includes('purged')
/** Those that pull gas out. */
export const recovers = (kind: KitKind): boolean => kind === 'machine' || kind === 'station'
