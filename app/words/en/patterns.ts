import type { Cause, MachineState, NextCheck, PatternCode, PatternReason, Service } from '#core/verify'
import type { SettlingCode, SettlingReason } from '#core/tape'

export const SERVICE_WORDS: Record<Service, string> = {
  comfort: 'Comfort cooling',
  'cold-store': 'Cold store, about +2 °C',
  freezer: 'Freezer, about −20 °C',
  vehicle: 'Vehicle air conditioning',
}

/** What is asked where a healthy machine would read the same, with both answers as the tape says them. */
export const STATE_WORDS: Record<MachineState, { asks: string; yes: string; no: string }> = {
  'part-load': {
    asks: 'At which load does it run?',
    yes: 'Runs at part load',
    no: 'Runs at full load',
  },
  'head-held': {
    asks: 'Is its head held up in the cold?',
    yes: 'Head held up',
    no: 'Head not held',
  },
  heating: { asks: 'Does it heat?', yes: 'It heats', no: 'It cools' },
  humid: { asks: 'How is the air in the room?', yes: 'Humid room', no: 'Dry room' },
}

const CAUSE_WORDS: Record<Cause, string> = {
  'all-right': 'nothing wrong that these readings show',
  'charge-low': 'charge low',
  'charge-high': 'charge too high',
  air: 'air or another gas that does not condense',
  condenser: 'too little air over the condenser, or dirt on it',
  restriction: 'a restriction in the liquid line (drier, screen)',
  'valve-starved': 'expansion device starved (stuck, bulb lost, screen)',
  'valve-flooded': 'expansion device flooding',
  'evaporator-air': 'too little air over the evaporator',
  compressor: 'a weak compressor',
  'part-load': 'a healthy machine at part load',
  'head-held': 'a healthy machine whose head is held up in the cold',
  heating: 'a healthy heat pump that heats',
  humid: 'a healthy machine in a humid room',
}

/** What all readings together say. */
export const PATTERN_WORDS: Record<PatternCode | SettlingCode, string> = {
  'readings-not-settled': 'It has not run long enough to judge',
  'readings-box-warm': 'The box is still too warm to judge by',
  'pattern-all-right': 'All right, as far as these readings show',
  'pattern-charge-low': 'The readings say: charge low',
  'pattern-charge-high': 'The readings say: too much charge',
  'pattern-air': 'The readings say: air in it',
  'pattern-condenser': 'The readings say: the condenser gets too little air, or is dirty',
  'pattern-restriction': 'The readings say: the liquid line is restricted',
  'pattern-valve-starved': 'The readings say: the expansion device starves the evaporator',
  'pattern-valve-flooded': 'The readings say: the expansion device floods the evaporator',
  'pattern-evaporator-air': 'The readings say: too little air over the evaporator',
  'pattern-compressor': 'The readings say: the compressor is weak',
  'pattern-part-load': 'As it should be at part load',
  'pattern-head-held': 'As it should be with its head held up',
  'pattern-heating': 'As a heat pump should be that heats',
  'pattern-humid': 'As it should be in a humid room',
  'pattern-in-range': 'Nothing in these readings speaks of a fault; a small one could hide',
  'pattern-open': 'More than one cause fits these readings',
  'pattern-none': 'The readings fit no single cause',
  'superheat-negative': 'Superheat is below zero: that cannot be',
  'subcooling-negative': 'Subcooling is below zero',
  'liquid-below-ambient': 'The liquid line is colder than the air around: that cannot be',
  'air-warmed': 'The air leaves the evaporator warmer than it goes in',
  'suction-above-head': 'The low side stands above the high side: that cannot be',
  'readings-at-rest': 'Low and high side read the same: it does not run',
}

const CHECK_WORDS: Record<NextCheck, string> = {
  'drier-temperatures':
    'Next: clamp the liquid line before and after the drier. A drop of more than 1 to 2 K is a restriction there.',
  'standing-pressure':
    'Next: off, equalised, as warm as the air: pressure above saturation is air or another gas.',
  'condenser-coil':
    'Next: read the air that leaves the condenser and look at coil and fan. Air that leaves hot means too little of it.',
  'evaporator-filter':
    'Next: read the air off the evaporator and look at filter, fan and ice. Very cold air off means too little of it.',
  'pump-down':
    'Next: let it pump down, and read its current. A weak compressor does not pull down, and draws little.',
  'valve-bulb':
    'Next: look at the valve’s bulb: tight, insulated, in the right place; then at the valve’s size.',
  'take-some-out':
    'Next: take a little out into a cylinder on the scale, and read again: with too much charge the head falls.',
  'weigh-in': 'Next: weigh in a little, and read again; or take the charge out and weigh all of it.',
  'part-load':
    'Next: say whether it runs at full load. Inverters, stages and controlled compressors: at part load a healthy one reads like this.',
  'head-held':
    'Next: say whether its head is held up in the cold, by fans, a valve or a flooded condenser. Then a healthy one reads like this.',
  heating: 'Next: say whether it heats. Then room and outdoor air have changed sides.',
  humid:
    'Next: read the wet bulb of the air onto the coil, or say how humid the room is. Humid air is cooled less.',
  'read-without':
    'Next: now it looks the same. Read again where it is not so: at full load, in warm weather, in a dry room.',
  'read-again': 'Next: let it run on, and read everything again.',
}

export const PATTERN_REASONS: Record<PatternReason | SettlingReason, string> = {
  'let-it-settle': 'Let it run steadily, then read all of it again within a few minutes.',
  'wait-for-box':
    'A warm box loads the coil beyond what is usual. Doors shut, let it pull down, then read all of it again.',
  'start-it': 'At rest both sides equalise. Start it, let it settle, then read.',
  'hoses-swapped': 'The hoses are swapped, or a gauge is off.',
  'instruments-or-gas-first':
    'Look at instruments, clamps and refrigerant first: a gauge off zero, a clamp that does not touch, another gas.',
  'td-down': 'Evaporating close to the air: the evaporator hardly pulls it down.',
  'td-in': 'Evaporating as far below the air as usual.',
  'td-up': 'Evaporating far below the air.',
  'over-ambient-down': 'Condensing close to the air around: little heat comes.',
  'over-ambient-in': 'Condensing as far above the air around as usual.',
  'over-ambient-up': 'Condensing far above the air around.',
  'superheat-down': 'Superheat low.',
  'superheat-in': 'Superheat as it should be.',
  'superheat-up': 'Superheat high.',
  'subcooling-down': 'Subcooling low.',
  'subcooling-in': 'Subcooling as it should be.',
  'subcooling-up': 'Subcooling high.',
  'air-drop-down': 'The air is cooled little.',
  'air-drop-in': 'The air is cooled as it should be.',
  'air-drop-up': 'The air is cooled a lot.',
  'low-gauge-down': 'Low side low.',
  'low-gauge-in': 'Low side as usual.',
  'low-gauge-up': 'Low side high.',
  'vent-drop-down': 'The vent is not cold.',
  'vent-drop-in': 'The vent is cold.',
  'vent-drop-up': 'The vent is very cold.',
  'drier-cools': 'The liquid cools over the drier.',
  'drier-even': 'No drop over the drier.',
  'suction-warmed':
    'The suction line is warmer than the air onto the coil: it warms on its way, or the clamp does not touch. Clamp it at the evaporator’s outlet; its superheat was left out.',
  'stands-above': 'At rest it stands above saturation.',
  'stands-at-saturation': 'At rest it stands at saturation: no air to speak of.',
  ...(Object.fromEntries(
    Object.entries(CAUSE_WORDS).map(([cause, words]) => [`likely-${cause}`, `It may be ${words}.`]),
  ) as Record<`likely-${Cause}`, string>),
  ...(Object.fromEntries(
    Object.entries(CHECK_WORDS).map(([check, words]) => [`check-${check}`, words]),
  ) as Record<`check-${NextCheck}`, string>),
}
