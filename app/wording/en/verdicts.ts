import type { Verdict } from '#core/verdict'
import { FINDINGS } from './findings'

const findings = (part: 0 | 1) =>
  Object.fromEntries(Object.entries(FINDINGS).map(([code, words]) => [code, words[part]]))

export const OUTCOME_WORDS: Record<Verdict['outcome'], string> = {
  good: 'Go on',
  caution: 'Look first',
  bad: 'Stop',
  open: 'Open',
}

export const VERDICT_WORDS: Record<string, string> = {
  ...findings(0),
  'nothing-recovered': 'Nothing to speak of came out',
  'no-expectation': 'No plate to compare with',
  'more-than-expected': 'More came out than should have been in there',
  'as-expected': 'What came out is what should have been in there',
  'not-emptied': 'Stopped before it was empty: too little cannot be judged',
  'mostly-gone': 'Most of the charge is gone',
  'less-than-expected': 'Less came out than should have been in there',
  'hold-failed': 'The vacuum did not hold',
  'too-soon': 'Too soon to tell',
  'held-but-shallow': 'It held, but never was deep enough',
  'tight-and-dry': 'It held: tight and dry',
  'readings-missing': 'Not enough readings to judge',
  'readings-impossible': 'These readings cannot be true together',
  'superheat-low': 'Superheat is low',
  'subcooling-low': 'Subcooling is low',
  'subcooling-high': 'Subcooling is high',
  'readings-fit': 'The readings fit',
  'readings-plausible': 'The readings are plausible',
  'charge-on-target': 'The charge is on target',
  'charge-short': 'Less went in than the target',
  'charge-over': 'More went in than the target',
}

export const VERDICT_REASONS: Record<string, string> = {
  ...findings(1),
  'charge-gone': 'The charge was gone before you came, so there is no over or under to judge.',
  'leak-test-next': 'Go on to the leak test.',
  'plate-unknown':
    'Without a plate or a noted total there is nothing to compare with: note the weight inside the panel this time.',
  'overcharged-unless-explained': 'Overcharged, unless something explains it.',
  'look-for-lines-and-driers':
    'Look for a long line set, an oversized drier or an earlier addition before you judge.',
  'not-a-leak': 'Look for a failed part rather than a leak.',
  'may-go-back-if-clean': 'What came out can go back in, if it is clean and local law lets you.',
  'rest-still-inside': 'Some is still in the system, so less than expected says nothing.',
  'pull-again-or-hold': 'Pull again, or wait and watch the pressure come back.',
  'large-leak': 'A large leak, or a long time since the last charge.',
  undercharged: 'It ran undercharged.',
  'find-the-leak': 'Look for the leak; the time since the last charge tells how big it is.',
  'rose-above-limit': 'The gauge rose above the limit.',
  'cause-undecided':
    'Leak or moisture cannot be told from these readings: a rise that levels off speaks for moisture, a steady one for a leak.',
  'hold-longer': 'Hold for at least 10 minutes.',
  'target-not-reached': 'The hold started above 500 micron: pump on, then hold again.',
  'stayed-below-limit': 'The gauge stayed below the limit all the while.',
  'note-pressure-and-temperature': 'Note a pressure and the pipe temperature that belongs to it.',
  'wrong-gas-gauge-or-clamp':
    'Wrong refrigerant, a gauge off zero, or a clamp that does not touch: check before you trust the charge.',
  'liquid-may-reach-compressor': 'Liquid may reach the compressor: do not add more.',
  'charge-may-be-short': 'The charge may be short, or the condenser still warming up.',
  'charge-may-be-over': 'The charge may be over, or air is in the system.',
  'subcooling-fits-valve': 'Subcooling fits the valve.',
  'weight-decides': 'The weight decides; readings only confirm it.',
  'within-tolerance': 'Within the tolerance of the target.',
  'outside-tolerance': 'Outside the tolerance: add or take out, or say why it stays.',
}

export const QUANTITY_WORDS: Record<string, string> = {
  recovered: 'Recovered',
  expected: 'Expected',
  difference: 'Difference',
  variance: 'Difference in percent',
  'left-behind': 'May be left behind',
  start: 'Start',
  end: 'End',
  'held-for': 'Held for',
  limit: 'Limit',
  superheat: 'Superheat',
  subcooling: 'Subcooling',
  charged: 'Charged',
  target: 'Target',
  tolerance: 'Tolerance',
}
