import type { OpenPoint } from '#core/tape'

/** What is still open before a job is closed: what, and what to do. */
export const OPEN_POINT_WORDS: Record<OpenPoint, string> = {
  'programme-running': 'A station is still at it: let it finish, or stop it',
  'transfer-running': 'A transfer is still running: end it, so that its weight counts',
  'hold-running': 'A vacuum hold is still running',
  'recovery-not-ended': 'The recovery was not ended: empty or not?',
  'gas-unaccounted': 'Gas that should have been in there is unaccounted for',
  'gas-not-judged': 'What the recovered gas is fit for was not said',
  'leak-found': 'A leak is known: repair it, or say that it was a false alarm',
  'no-leak-test': 'No leak test since the circuit was open',
  'no-hold': 'No vacuum hold since the circuit was open',
  'hold-cannot-tell': 'The vacuum hold could not tell: hold again, longer or deeper',
  'hold-leaking': 'The vacuum held, and it leaks: find the leak',
  'hold-failed': 'The vacuum hold did not pass',
  'oil-wrong': 'An oil was put in that does not belong into this compressor: see Oil.',
  'oil-due': 'Oil that came out has not gone back in',
  'charge-short': 'The charge is short of its target',
  'retrofit-open': 'The change of gas is not finished: drier, seals, oil, superheat, label.',
  'charge-over': 'The charge is over its target',
  'charge-cannot-tell': 'The scale is too coarse to tell whether the charge is on target',
  'topped-up': 'Topped up, and nobody looked where it went: no leak search in this job',
  'no-charge': 'A target was set, and nothing was charged',
  'readings-missing': 'No check readings since the last gas moved',
  caps: 'Caps are not ticked off',
  'parts-back': 'Panels, sensors and insulation are not ticked off',
  label: 'The charge label is not ticked off',
}
