import type { Channel } from '#core/samples'
import type { SampleProblem } from '#db'

/** What is wrong with a sample, for whoever writes a gateway; the last one stands in Kit, too. */
export const SAMPLE_PROBLEM_WORDS: Record<SampleProblem, string> = {
  'no-sample':
    'A sample is an object: {"channel": "weight", "seq": 1, "at": "2026-11-26T10:00:00Z", "value": 12.105}.',
  'other-device':
    'The token belongs to another device than "device" says: send it with its own token, or leave "device" out.',
  'unknown-channel': 'This device has no such channel: it has those that it named when it was paired.',
  'no-sequence': '"seq" is a whole number, 0 or more, that rises by one with each sample of a channel.',
  'no-time': '"at" is a time with its zone (2026-11-26T10:00:00.250Z), or milliseconds since 1970.',
  'in-the-future': 'Its time lies more than a minute in the future: set the clock of the device.',
  'too-old':
    'Its time lies more than 30 days back: that is no sample of today’s work. Set the clock of the device.',
  'no-number': '"value" is a number in the unit of its channel: no text, no NaN.',
  'out-of-range':
    'No instrument of this kind, or not this one, can show that: look at its unit (SI) and its plug.',
}

export const CHANNEL_WORDS: Record<Channel, string> = {
  weight: 'weight',
  low: 'low side',
  high: 'high side',
  'cylinder-pressure': 'cylinder pressure',
  vacuum: 'vacuum',
  suction: 'suction line',
  liquid: 'liquid line',
  vent: 'vent',
  cylinder: 'cylinder wall',
  ambient: 'ambient',
  'air-on': 'air onto the evaporator',
  'air-off': 'air off the evaporator',
  'condenser-off': 'air off the condenser',
  'wet-bulb': 'wet bulb inside',
  purity: 'purity',
  detector: 'leak detector',
}
