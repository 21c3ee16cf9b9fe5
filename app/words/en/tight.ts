import type { FindsBy, Place } from '#core/leaks'
import type { LookedWith, Part, PhotoOf, TestedPart, VacuumMethod } from '#core/tape'
import type { BehindCause, KitProofCode } from '#core/vacuum'

export const PART_WORDS: Record<Part, string> = {
  compressor: 'Compressor',
  drier: 'Filter-drier',
  valve: 'Expansion valve',
  evaporator: 'Evaporator coil',
  condenser: 'Condenser coil',
  accumulator: 'Accumulator or receiver',
  hose: 'Hose or pipe',
  cores: 'Valve cores',
  seal: 'Shaft seal or O-rings',
  contactor: 'Contactor or capacitor',
  fan: 'Fan or motor',
  sensor: 'Sensor or switch',
  other: 'Something else',
}

export const PHOTO_WORDS: Record<PhotoOf, string> = { before: 'Before', after: 'After', other: 'In between' }

export const TESTED_PART_WORDS: Record<TestedPart, string> = {
  whole: 'The whole circuit',
  condenser: 'The condenser alone',
  evaporator: 'The evaporator alone',
  lines: 'The lines alone',
}

export const LOOKED_WITH_WORDS: Record<LookedWith, string> = {
  detector: 'Electronic detector',
  bubbles: 'Bubble solution',
  dye: 'UV lamp and dye',
  stain: 'Eye: oil and dirt',
  ear: 'Ear: hissing',
}

export const VACUUM_METHOD_WORDS: Record<VacuumMethod, string> = {
  single: 'Once',
  deep: 'Deep, once',
  triple: 'Three times, nitrogen between',
  timed: 'By time (vehicle, manifold gauge)',
}

export const BEHIND_WORDS: Record<BehindCause, string> = {
  'core-in': 'A valve core is still in',
  hose: 'A narrower hose than was said, or one that is kinked',
  wet: 'Water boils off in there',
  leak: 'A leak feeds it',
  'pump-oil': 'The pump gets no lower: its oil is wet or old',
  'gauge-at-pump': 'The gauge sits at the pump: in the system it is worse',
  volume: 'The system is larger than was thought',
}

export const KIT_PROOF_WORDS: Record<KitProofCode, string> = {
  'kit-proved': 'Pump, hoses and gauge are good: what comes now is the system’s',
  'kit-too-high':
    'The kit alone does not get below 500 micron: change the pump oil, then look at hoses and seals',
  'kit-rises':
    'The kit alone does not hold: a hose, a seal or a valve leaks. Nothing can be said of a system with it',
  'kit-proof-short': 'It holds so far: two minutes make it a proof',
}

export const PLACE_WORDS_OF_LEAKS: Record<Place, string> = {
  'cores-and-caps': 'Valve cores and caps',
  flares: 'Flares and unions',
  joints: 'Brazed joints',
  'service-valves': 'Service valves, stems',
  crimps: 'Crimped hoses',
  'coil-bends': 'Bends and ends of the coils',
  'condenser-face': 'Face of the condenser, stone hits',
  'shaft-seal': 'Shaft seal, compressor nose',
  'compressor-case': 'Compressor case, terminals',
  seams: 'Seams of case and receiver',
  'o-rings': 'O-rings at fittings',
  'evaporator-drain': 'Evaporator, at its drain',
  vents: 'Cabin vents, fan slow',
  capillary: 'Capillary and rubbing pipes',
  switches: 'Pressure switches, sight glass, drier ends',
}

export const FINDS_BY_WORDS: Record<FindsBy, string> = {
  'vacuum-hold': 'vacuum hold',
  'nitrogen-hold': 'nitrogen hold',
  bubbles: 'bubbles',
  dye: 'dye, after weeks',
  detector: 'electronic detector',
}
