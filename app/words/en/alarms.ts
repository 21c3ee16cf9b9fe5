import type { AlarmCode } from '#core/alarms'

/** What calls, wherever one is. */
export const ALARM_WORDS: Record<AlarmCode, string> = {
  'limit-near': 'The cylinder is nearly full',
  'limit-passed': 'The cylinder is past its limit',
  'stop-line-near': 'It leaks: stop at zero',
  'below-stop-line': 'Below zero, and it leaks: air comes in',
  'above-rating': 'Above what the cylinder is rated for',
  'cylinder-hot': 'The cylinder is hotter than 50 °C',
  'may-freeze': 'Water may freeze in the condenser',
  'hand-wanted': 'A station waits for a hand',
  'too-far-open': 'Too far open: close it and wait',
  'station-stopped': 'A station has stopped',
  nudged: 'Somebody touched the scale',
  due: 'Time is up: a reading is due',
  finished: 'Done, it seems',
  stuck: 'Stuck: nothing comes, and the pressure stays',
  'cut-out': 'The machine has cut out, it seems',
  falling: 'The weight goes back',
  'instrument-lost': 'An instrument has gone silent',
}
