import type { Condition, CylinderKind, FillRuleCode } from '#core/cylinders'
import type { KnownBy, PlaceKind } from '#core/ledger'
import type { SheetPart } from '#db'
import type { TargetBasis } from '#core/charging'
import type { CompressorDrive } from '#core/oil'
import type {
  Clock,
  JobStatus,
  LeakMethod,
  OilClearing,
  OilPlace,
  PressurePoint,
  TemperaturePoint,
  Watched,
} from '#core/tape'

export const CYLINDER_KIND_WORDS: Record<CylinderKind, string> = {
  recovery: 'Recovery, refillable',
  virgin: 'Virgin gas, refillable',
  'one-way': 'One-way',
  station: 'Tank of a service station',
}

export const CONDITION_WORDS: Record<Condition, string> = {
  clean: 'Clean',
  used: 'Recovered gas',
  doubtful: 'Doubtful',
  mixed: 'Mixed: reclaim',
}

export const FILL_RULE_WORDS: Record<FillRuleCode, string> = {
  'weight-80': '80 % of the water capacity by weight',
  'liquid-80-at-25': '80 % liquid-full at 25 °C',
  'not-full-at-55': 'not liquid-full at 55 °C, 2 % for oil',
  'stamped-ratio': 'the stamped filling ratio',
}

export const PLACE_WORDS: Record<PlaceKind, string> = {
  supplier: 'Supplier',
  cylinder: 'Cylinder',
  system: 'System',
  rig: 'Hoses and machine',
  reclaimer: 'Reclaimer',
  lost: 'Lost',
  outside: 'There before the books began',
  unexplained: 'Unexplained',
}

export const KNOWN_BY_WORDS: Record<KnownBy, string> = {
  weighed: 'weighed',
  computed: 'computed',
  declared: 'declared',
}

export const JOB_STATUS_WORDS: Record<JobStatus, string> = {
  open: 'In hand',
  waiting: 'Waiting',
  closed: 'Closed',
  cancelled: 'Cancelled',
}

export const LEAK_METHOD_WORDS: Record<LeakMethod, string> = {
  nitrogen: 'Nitrogen pressure',
  detector: 'Electronic detector',
  bubbles: 'Bubble solution',
  dye: 'UV dye',
  vacuum: 'Vacuum hold',
}

export const PRESSURE_POINT_WORDS: Record<PressurePoint, string> = {
  low: 'Low side',
  high: 'High side',
  cylinder: 'Cylinder pressure',
  test: 'Nitrogen in the circuit',
}

export const TEMPERATURE_POINT_WORDS: Record<TemperaturePoint, string> = {
  suction: 'Suction line',
  liquid: 'Liquid line',
  ambient: 'Ambient',
  cylinder: 'Cylinder',
  vent: 'Vent or room air',
  'air-on': 'Air onto the evaporator',
  'air-off': 'Air off the evaporator',
  'condenser-off': 'Air off the condenser',
  'wet-bulb': 'Wet bulb inside',
  'drier-in': 'Liquid before the drier',
  'drier-out': 'Liquid after the drier',
}

export const WATCH_WORDS: Record<Watched, string> = {
  pull: 'Low side watched',
  nitrogen: 'Nitrogen hold',
}

/** What runs, in the strip of clocks. */
export const CLOCK_WORDS: Record<Clock['what'], string> = {
  hold: 'vacuum hold',
  pull: 'low side watched',
  nitrogen: 'nitrogen hold',
  recover: 'recovering',
  charge: 'charging',
}

export const DRIVE_WORDS: Record<CompressorDrive, string> = {
  belt: 'Driven by a belt',
  'high-voltage': 'High voltage (electric, hybrid)',
  stationary: 'Stationary, on the mains',
}

export const OIL_CLEARING_WORDS: Record<OilClearing, string> = {
  'hoses-flushed': 'Hoses flushed',
  'own-tool': 'A tool of its own, for this oil only',
}

export const OIL_PLACE_WORDS: Record<OilPlace, string> = {
  bottle: 'Bottle',
  system: 'System',
  waste: 'Waste oil',
  part: 'Gone with the old part',
  unnamed: 'A bottle that was not named',
}

export const TARGET_BASIS_WORDS: Record<TargetBasis, string> = {
  recovered: 'what came out',
  expected: 'plate, lines and accessories',
  earlier: 'what an earlier job left in it',
  retrofit: 'the share of the plate for the new gas',
  typed: 'your own figure',
}

export const VOUCHER_WORDS: Record<string, string> = {
  opening: 'Opening balance',
  purchase: 'Purchase',
  shipment: 'Shipment to reclaimer',
  reweigh: 'Re-weigh',
  retire: 'Retired',
  recondition: 'Made free for another gas',
  explain: 'Scale and books explained',
  judge: 'Judged',
  purge: 'Purged',
  prepare: 'Prepared',
  decant: 'Decanted',
}

/** What a difference was booked for: a voucher, or what a job came upon. */
export const DIFFERENCE_WORDS: Record<string, string> = {
  ...VOUCHER_WORDS,
  opening: 'There when the records began',
  reweigh: 'A cylinder weighed again',
  retire: 'What a retired cylinder still held',
  purge: 'What a machine held when it was purged',
  decant: 'Decanting: what did not arrive',
  before: 'More came out of a system than the books knew',
  back: 'Came out after it had been booked as lost',
  rest: 'Missing from a system that was emptied',
  elsewhere: 'Recovered by somebody else',
  run: 'Systems without a name of their own',
  hose: 'In hoses that nobody named',
  kept: 'In a machine that was not purged',
}

export const ROLE_WORDS = { manager: 'Manager', technician: 'Technician', trainee: 'Trainee (reads only)' }

export const METERING_WORDS = {
  valve: 'Thermostatic or electronic valve',
  fixed: 'Fixed orifice or capillary',
  unknown: 'Not known',
}

export const TRADE_WORDS = { stationary: 'Stationary', vehicle: 'Vehicle' }

/** Belongs beside everything that can hurt someone. */
export const LOCAL_CODES = 'Local codes, the maker’s manual and licensed practice come first.'

/** The figures of the month sheet. */
export const SHEET_PART_WORDS: Record<SheetPart, string> = {
  bought: 'Bought',
  opening: 'There at the start of the books',
  recovered: 'Recovered',
  charged: 'Charged',
  shipped: 'Shipped to reclaim',
  lost: 'Lost',
  unexplained: 'Unexplained',
  rig: 'Left in hoses and machines',
}
