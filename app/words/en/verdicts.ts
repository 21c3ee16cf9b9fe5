import type { ChargeCode, ChargeReason } from '#core/charging'
import type { PrepareCode, PrepareReason } from '#core/cylinders'
import type { GasCode, GasReason, RecoveryCode, RecoveryReason, WaitCode, WaitReason } from '#core/recovery'
import type { HoldCode, HoldReason } from '#core/vacuum'
import type { QuantityName, Verdict } from '#core/verdict'
import type { ChecksCode, ChecksReason } from '#core/tape'
import { CURVE_REASONS } from './curve'
import { type FindingCode, FINDINGS } from './findings'
import { PATTERN_REASONS, PATTERN_WORDS } from './patterns'

/** Codes that judges no longer give, and old tapes hold. */
type OldCode = 'readings-impossible'
type VerdictCode =
  PrepareCode | RecoveryCode | WaitCode | GasCode | HoldCode | ChargeCode | ChecksCode | FindingCode | OldCode
type VerdictReason =
  | PrepareReason
  | RecoveryReason
  | WaitReason
  | GasReason
  | HoldReason
  | ChargeReason
  | ChecksReason
  | FindingCode

const findings = (part: 0 | 1) =>
  Object.fromEntries(Object.entries(FINDINGS).map(([code, words]) => [code, words[part]])) as Record<
    FindingCode,
    string
  >

/** The words of a stored code: one that this version does not know stands for itself. */
export function wordOf(words: Readonly<Record<string, string>>, code: string): string {
  return Object.hasOwn(words, code) ? words[code]! : code
}

export const OUTCOME_WORDS: Record<Verdict['outcome'], string> = {
  good: 'Go on',
  caution: 'Look first',
  bad: 'Stop',
  open: 'Cannot tell',
}

export const VERDICT_WORDS: Record<VerdictCode, string> = {
  ...findings(0),
  ...PATTERN_WORDS,
  'nothing-recovered': 'Nothing to speak of came out',
  'no-expectation': 'No plate to compare with',
  'more-than-expected': 'More came out than should have been in there',
  'as-expected': 'What came out is what should have been in there',
  'not-emptied': 'Not emptied: this cannot be judged',
  'mostly-gone': 'Most of the charge is gone',
  'less-than-expected': 'Less came out than should have been in there',
  'cannot-tell-with-this-scale': 'Cannot tell with this scale',
  'expectation-in-doubt': 'Cannot tell: what should have been in there is a guess',
  'charge-shut-in': 'The charge stays, shut in',
  'recovered-elsewhere': 'Recovered elsewhere',
  'hold-failed': 'The vacuum did not hold',
  'too-soon': 'Too soon to tell',
  'too-near-to-tell': 'Too near its limit for this gauge to tell',
  'held-but-shallow': 'It held, but never was deep enough',
  'tight-and-dry': 'It held: tight and dry',
  held: 'It held',
  'held-by-manifold': 'It held, as far as a manifold gauge can see',
  'held-but-leaking': 'It stayed below the limit, and it leaks',
  'held-but-wet': 'It stayed below the limit, and there is water in it',
  'hold-not-readable': 'This is not a hold that can be judged',
  'readings-missing': 'Not enough readings to judge',
  'readings-impossible': 'These readings cannot be true together',
  'superheat-low': 'Superheat is low',
  'superheat-near-zero': 'Hardly any superheat: the orifice floods',
  'superheat-high': 'Superheat is high',
  'superheat-off-target': 'Superheat is not what this weather wants',
  'subcooling-low': 'Subcooling is low',
  'subcooling-high': 'Subcooling is high',
  'subcooling-far-off': 'Subcooling is far off',
  'metering-unknown': 'Which metering device it has is not known',
  'readings-fit': 'The readings fit',
  'readings-plausible': 'The readings are plausible',
  'charge-on-target': 'The charge is on target',
  'charge-short': 'Less is in it than the target',
  'charge-over': 'More is in it than the target',
  'wait-too-soon': 'Too soon to tell',
  'wait-again': 'Pull again',
  'wait-worth-it': 'Within the level; another pull is still worth it',
  'wait-done': 'Down, and it stays down: done',
  'wait-air': 'Air is coming in',
  prepared: 'Ready for gas',
  'kit-not-proved': 'The kit is not proved',
  'not-deep-enough': 'Not deep enough yet',
  'tare-off': 'Its weight is not what is stamped',
  'gas-not-yet': 'No word on the gas before the machine is purged',
  'gas-goes-back': 'It may go back into this system',
  'gas-recycle': 'Filter, dry and test it before it goes back',
  'gas-owner-open': 'Whose gas it lies with is not said',
  'gas-reclaim': 'For reclaim: not back into a system',
  'gas-measure-first': 'Measure it before it goes back',
  'wait-falls': 'It still goes down: this is no wait',
  'wait-by-time': 'Without a gauge: by time and weight only',
}

export const VERDICT_REASONS: Record<VerdictReason, string> = {
  ...findings(1),
  'limit-within-gauge':
    'The limit lies within what the vacuum gauge may be off: look whether it levels off, or use a better gauge.',
  'charge-gone': 'The charge was gone before you came, so there is no over or under to judge.',
  'leak-test-next': 'Go on to the leak test.',
  'plate-unknown':
    'Without a plate or a noted total there is nothing to compare with: note the weight inside the panel this time.',
  'overcharged-unless-explained': 'Overcharged, unless something explains it.',
  'look-for-lines-and-driers':
    'Look for a long line set, an oversized drier or an earlier addition before you judge.',
  'not-a-leak': 'Look for a failed part rather than a leak.',
  'may-go-back-if-clean': 'What came out can go back in, if it is clean and local law lets you.',
  'nothing-came-valve-or-empty':
    'Nothing came: a shut valve looks the same as an empty system. Open the valves and look at the gauges.',
  'pressure-was-there': 'There was pressure in it before the pull, so the charge was not gone.',
  'flowed-back': 'Gas flowed back out of the cylinder into the system.',
  'line-first':
    'Too much of it is guessed to say that nothing is missing: measure the line and read the plate first.',
  'rest-may-come': 'What came out is about what was in there, and it was not emptied: more may come.',
  'pressure-above-level':
    'The low gauge stands above the level after the last pull: refrigerant is still in there.',
  'scale-too-coarse':
    'Its doubt is larger than what has to be told apart. Where its division is not known, 5 g is reckoned with (10 g above 60 kg).',
  'stays-in-the-unit': 'Nothing is lost, and nothing is judged: the rest of the circuit may be opened.',
  'not-weighed-here': 'It was not weighed here, so there is no over or under to judge.',
  'rest-still-inside': 'Some is still in the system, so less than expected says nothing.',
  'pull-again-or-hold': 'Pull again, or wait and watch the pressure come back.',
  'large-leak': 'A large leak, or a long time since the last charge.',
  undercharged: 'It ran undercharged.',
  'find-the-leak': 'Look for the leak; the time since the last charge tells how big it is.',
  'rose-above-limit': 'The gauge rose above the limit.',
  'hold-longer': 'Hold longer.',
  ...CURVE_REASONS,
  ...PATTERN_REASONS,
  'rose-on-manifold': 'The manifold gauge rose by more than a division: find the leak.',
  'manifold-sees-little':
    'A manifold gauge sees large leaks only, and no water: a vacuum gauge, or nitrogen, sees more.',
  'target-not-reached': 'The hold started above its target: pump on, then hold again.',
  'stayed-below-limit': 'The gauge stayed below the limit all the while.',
  'note-pressure-and-temperature': 'Note a pressure and the pipe temperature that belongs to it.',
  'wrong-gas-gauge-or-clamp':
    'Wrong refrigerant, a gauge off zero, or a clamp that does not touch: check before you trust the charge.',
  'bubbles-or-wrong-gas':
    'Bubbles in the liquid line, or wrong refrigerant, gauge or clamp: look at the sight glass, then check them.',
  'orifice-floods':
    'Liquid comes through: charge over, or too little air over the evaporator. Do not add more.',
  'starved-or-short':
    'The evaporator starves: charge short, a restriction, or a valve that does not open. Weigh before you add.',
  'orifice-wants-otherwise':
    'Compare with the target for indoor wet bulb and outdoor air: higher wants gas, lower has too much.',
  'air-over-or-wrong-gauge':
    'Air in it, far too much charge, or a wrong gauge or gas: check before you take any out.',
  'say-which-metering': 'Enter it under Systems: valve and fixed orifice are judged by different readings.',
  'superheat-fits-orifice': 'Superheat fits the orifice at this weather.',
  'liquid-may-reach-compressor': 'Liquid may reach the compressor: do not add more.',
  'charge-may-be-short': 'The charge may be short, or the condenser still warming up.',
  'charge-may-be-over': 'The charge may be over, or air is in the system.',
  'subcooling-fits-valve': 'Subcooling fits the valve.',
  'weight-decides': 'The weight decides; readings only confirm it.',
  'within-tolerance': 'Within the tolerance of the target.',
  'kit-leaks-first': 'Pump, hoses and gauge alone must go below 500 micron and stay there.',
  'pull-on': 'Pull on below 500 micron, with the gauge at the cylinder.',
  'tare-agrees': 'Empty it weighs what is stamped.',
  'tare-more': 'It is heavier: something is still in it, the scale is off, or the stamp is wrong.',
  'tare-less':
    'It is lighter: the scale is off, or the stamp is wrong. Until that is known its limit is too.',
  'valves-first': 'Its own valves shut first, before anything is taken off.',
  'purge-first': 'What the machine still holds belongs to it.',
  'gas-mixed': 'It is not one gas: nobody can take it apart on site.',
  'gas-acid': 'Acid was found: a burnt compressor leaves it in the gas and in the oil.',
  'gas-air': 'Air stands in the cylinder.',
  'gas-acid-not-tested': 'The compressor failed, and no acid test is noted.',
  'air-drawn-in': 'A leak was known, and the system stood below zero: air came in with the gas.',
  'hoses-not-purged': 'Nobody said that the hoses were purged: what was in them went into the cylinder.',
  'machine-not-known':
    'Nobody said which machine pulled it, or that it was purged of its last gas: some of that may have come along.',
  'rest-and-measure':
    'Let the cylinder rest, and note its pressure and its temperature: they tell air and another gas.',
  'gas-on-doubtful': 'It lies on gas that was doubtful already.',
  'gas-clean-as-far': 'Nothing that is noted speaks against it.',
  'gas-owner-same': 'It is its owner’s own gas.',
  'gas-owner-other':
    'It lies with gas of another owner: most rules ask for reclaim before somebody else’s system gets it.',
  'gas-owner-unknown': 'Whose system it is, is not said: only back into this one.',
  'gas-lies-with-others':
    'The cylinder held gas already, and this job names no system: say which system it is, and whose.',
  'gas-new-drier': 'Through a new drier, since the circuit was open.',
  'stopped-above-level': 'The pull stopped above the level: there is more to take.',
  'came-back-above-level': 'It came back above the level: what boiled off is still in there.',
  'will-pass-level': 'If it goes on rising like that it passes the level before ten minutes are over.',
  'under-five-minutes': 'Under 5 minutes liquid under the oil has not boiled off yet.',
  'read-it-now': 'It was read before the five minutes were over: read the low side now.',
  'read-it-again':
    'One reading says where it stands, not whether it stays there: read the low side once more.',
  'not-shut-off':
    'After the stop the low side can only come back: the valve is open, or the machine still pulls.',
  'still-rising': 'It still rises: wait the ten minutes out.',
  'within-level': 'It stands within the level.',
  'another-brings': 'What returned would come with another pull.',
  'stays-down': 'It has not risen by anything this gauge could tell.',
  'leak-draws-air':
    'A leak is known, and it rises below zero: air is drawn in. Another pull would take it into the cylinder.',
  'warm-and-rising':
    'Everything is as warm as the air, and it rises evenly below zero: nothing is left that boils, so air comes in.',
  'gas-or-air':
    'Below zero a rise may be gas or air: warm the cold places and look again. What goes on rising with all of it warm is air.',
  'no-gauge-by-time':
    'No gauge was read. Ten minutes have passed: start the machine again, and if no weight comes in a minute, call it empty.',
  'no-gauge-wait-on':
    'No gauge was read: wait ten minutes from the stop, then pull once more and watch the scale.',
  'outside-tolerance': 'Outside the tolerance: add or take out, or say why it stays.',
}

export const QUANTITY_WORDS: Record<QuantityName, string> = {
  recovered: 'Recovered',
  expected: 'Expected',
  difference: 'Difference',
  variance: 'Difference in percent',
  'left-behind': 'May be left behind',
  start: 'Start',
  end: 'End',
  highest: 'Highest',
  'held-for': 'Held for',
  'at-least': 'At least',
  limit: 'Limit',
  level: 'Low side',
  superheat: 'Superheat',
  subcooling: 'Subcooling',
  'target-superheat': 'Target superheat',
  charged: 'In the system',
  target: 'Target',
  tolerance: 'Tolerance',
  division: 'A scale that could counts in',
  room: 'Room',
  wanted: 'Wanted',
  'down-to': 'Down to',
  air: 'Air, of the vapour',
  'leak-slope': 'The leak raises it by',
  'smallest-leak': 'A leak this large would have shown',
  'leak-flow': 'Air that comes in',
  'leak-year': 'Once charged it would lose in a year, about',
  'smallest-year': 'which loses in a year, about',
  'gone-in': 'Once charged, all of it would be gone in',
  water: 'Water would raise it by, in the end',
  'water-time': 'with a time constant of',
  'water-share': 'of what water can reach here',
  'known-after': 'Could be known after',
  'box-above': 'The box is too warm by',
  td: 'Air on less evaporating',
  'over-ambient': 'Condensing above ambient',
  'air-drop': 'Air on less air off',
  'low-gauge': 'Low side',
  'vent-drop': 'Vent below the air going in',
  approach: 'Liquid line above ambient',
  'air-rise-share': 'Condenser’s air warms by, of that',
  'drier-drop': 'Drop over the drier',
  standing: 'At rest above saturation',
  likely: 'Likely',
}
