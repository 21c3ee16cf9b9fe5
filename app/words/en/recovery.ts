import type { EndLevel, EndLevelUse, MethodReason, RecoveryMethod, WaterfallStep } from '#core/recovery'

export const METHOD_WORDS: Record<RecoveryMethod, string> = {
  'run-over-first': 'Let it run over first, then the machine',
  'liquid-then-vapour': 'Liquid first, then vapour',
  'both-sides': 'Both sides at once',
  'vapour-only': 'Vapour only',
  'own-compressor': 'Its own compressor pushes, the machine takes the rest',
}

/** How it is done, in one line each. */
export const METHOD_HOW: Record<RecoveryMethod, string> = {
  'run-over-first':
    'Open the cylinder before the machine starts, until both sides are equal; then start the machine.',
  'liquid-then-vapour':
    'Hose on the liquid side first, inlet throttled so that the machine is not slugged; then the vapour side.',
  'both-sides': 'System off and at rest for a while, both sides open to the manifold.',
  'vapour-only': 'Hose on the vapour side only: dry, clean gas, and the oil stays where it is.',
  'own-compressor':
    'Let it push liquid out of the liquid line into the cylinder while it runs; stop at low pressure, the machine takes what is left.',
}

export const METHOD_REASONS: Record<MethodReason, string> = {
  fastest: 'the fastest',
  'draws-for-nothing': 'an empty, cold cylinder draws a tenth to a quarter for nothing',
  simple: 'simple',
  'oil-stays': 'the oil stays inside',
  'spares-machine': 'spares the machine',
  'clean-and-dry': 'clean, dry gas',
  'moves-most-of-it': 'moves most of it without the machine',
  'whole-blend': 'a blend: liquid keeps its composition',
  'small-charge': 'a small charge',
  'large-charge': 'a large charge',
  'vehicle-way': 'the usual way with vehicles',
  slow: 'slow',
  'oil-comes-out': 'takes oil out with it',
  'machine-no-liquid': 'this machine takes no liquid',
  'compressor-not-known': 'only if its compressor runs',
  'compressor-stands': 'its compressor does not run',
  'cylinder-not-empty': 'into a cylinder that holds warm liquid more than half stays behind',
  'more-joints-flammable': 'flammable: nothing that sparks should run',
  'little-to-gain': 'little to gain here',
}

export const LEVEL_USE_WORDS: Record<EndLevelUse, string> = {
  appliance: 'Stationary system',
  leaking: 'Leaking: stop at zero',
  'small-sealed': 'Small sealed appliance, 5 lb (2.3 kg) or less',
  vehicle: 'Vehicle',
}

/** Which line of the rule it is. */
export const LEVEL_RULE_WORDS: Record<EndLevel['rule'], string> = {
  'very-high-0': 'very high pressure gas: 0',
  'high-small-0': 'high pressure gas, under 200 lb: 0',
  'high-large-10': 'high pressure gas, 200 lb and over: 10 inHg below the air',
  'medium-small-10': 'medium pressure gas, under 200 lb: 10 inHg below the air',
  'medium-large-15': 'medium pressure gas, 200 lb and over: 15 inHg below the air',
  'low-25-mmhg': 'low pressure gas: 25 mm of mercury absolute',
  'leaking-0': 'it leaks: not below 0, lest it draw air',
  'small-sealed-4': 'small sealed: 4 inHg below the air, or 90 % with the compressor running, 80 % without',
  'vehicle-4': 'vehicles: 102 mm of mercury (4 inHg) below the air',
}
export const LEVEL_SOURCE =
  '40 CFR 82.158 table 1, machines made after 15 November 1993. Check the text in force where you work.'

/** The steps from what was expected to what came out. */
export const WATERFALL_WORDS: Record<WaterfallStep['what'], string> = {
  plate: 'Plate',
  line: 'Line',
  accessory: 'Accessory',
  'panel-total': 'Total in the panel',
  books: 'In it by the books',
  'added-here': 'Added in this job',
  expected: 'Expected',
  kept: 'Kept in the machine',
  'left-behind': 'May be left behind',
  missing: 'Missing',
  more: 'More than that',
  recovered: 'Recovered',
}
