import type { RuleCode } from '#core/verdict'

/** By which rule something was judged; a name in braces is a figure that it had. */
export const RULE_WORDS: Record<RuleCode, string> = {
  'against-expected':
    'Weight against plate, lines and accessories; a difference is judged at two standard deviations',
  'back-to-its-owner':
    '40 CFR 82.154: without reclaim only back to its owner; European Union 2024/573. Check the text in force where you work',
  'wait-for-a-rise':
    'A rise above the level within 10 minutes: go on; what returned is V (rho(p2, T) - rho(p1, T)), V from the charge',
  'wait-by-time': 'Time since the stop; no gauge was read',
  'vapour-that-returned': 'V (rho(p2, T) - rho(p1, T))',
  'hold-below-limit':
    'Common practice: down to {down-to}, pump valved off, at least {at-least}, must stay below {limit}; the maker’s figure wins',
  'hold-by-curve':
    'Common practice: down to {down-to}, pump valved off, at least {at-least}, must stay below {limit}; the maker’s figure wins. Leak and moisture by a fit of outgassing, water and leak to the curve',
  'hold-on-manifold':
    'By time, on a manifold gauge: down to the end of what it shows, then no more than a division of rise in at least {at-least}',
  'charge-tolerance':
    'Tolerance of the plate, else 15 g for vehicles and the larger of 1 % and 15 g for stationary systems',
  'kit-and-tare':
    'Kit and cylinder below {down-to}; weighed empty against the stamped tare, 50 g or three divisions',
  'gas-in-closed-volume':
    'Ideal gas law in a closed volume, p2 = p1 T2/T1; it tells something after {at-least}, when a leak that lets all out in three days would have shown',
  'oil-practice': 'Practice of the trade; the maker of the compressor decides',
  'superheat-and-subcooling':
    'Superheat from dew, subcooling from bubble; 4.5 to 7 K is common for valves when nothing is printed',
  patterns:
    'Patterns of the trade, for settled systems; certainty measured on a simulated running cycle; the maker’s figures win',
  'settled-first':
    '10 to 15 min of steady running for comfort cooling, stores at box temperature, vehicles 5 to 10 min',
  'vent-thumb': 'Rule of thumb: 15 K and more below the air that goes in; the maker’s table wins',
  'charge-over-room': 'Charge / (room volume x lower flammable limit)',
}

/** Reasons that have a figure with them, where it was given: what was judged by, not what is usual. */
export const FIGURED_REASONS: Readonly<Record<string, string>> = {
  'hold-longer': 'Hold for at least {at-least}.',
  'target-not-reached': 'The hold started above {down-to}: pump on, then hold again.',
}
