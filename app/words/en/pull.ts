import type { PullAlarm, PullState } from '#core/recovery'

/** What goes on in a pull, in one or two words, and what helps. */
export const PULL_WORDS: Record<PullState['code'], { says: string; helps?: string }> = {
  'too-few': { says: 'Just begun' },
  stale: { says: 'Not weighed', helps: 'Look at the scale, and note what it shows.' },
  'running-over': { says: 'Running over: the cylinder is the lower one' },
  liquid: { says: 'Liquid coming' },
  vapour: { says: 'Vapour coming' },
  slowing: { says: 'Slowing' },
  'boiling-cold': {
    says: 'Boiling cold',
    helps:
      'Let air over the coils: fans on, the compressor disconnected. Frost shows where liquid sits: warm air, never a torch.',
  },
  'pushing-hot': {
    says: 'Pushing against a hot cylinder',
    helps: 'Cold water or ice over the cylinder, shade, or a pause.',
  },
  restricted: {
    says: 'Held back: far less comes than these hoses pass',
    helps:
      'A valve half shut, a core left in, a kinked hose, a full drier: look from the system to the machine.',
  },
  'last-of-it': {
    says: 'Gauge near zero, and it still comes: not done',
    helps: 'What is left boils off cold oil and corners. Let it run on.',
  },
  stuck: {
    says: 'Stuck: the weight stands, and the pressure does not fall',
    helps: 'A valve is shut, a hose is kinked, or the machine stands: look from the system to the cylinder.',
  },
  'comes-back': {
    says: 'The pressure comes back',
    helps: 'What is left boils off: start the machine again, or end this pull and wait.',
  },
  'cut-out': {
    says: 'The machine has cut out, it seems',
    helps: 'The cylinder is too hot for it: cool it, wait, start the machine again.',
  },
  equal: {
    says: 'Equal on both sides: no more runs over',
    helps: 'Start the machine.',
  },
  flat: {
    says: 'Nothing comes',
    helps: 'Without a gauge nobody knows why: empty, or a valve is shut. Read the low side.',
  },
  'above-level': {
    says: 'Not down yet, and the weight stands',
    helps: 'Let the machine run on, with all valves open.',
  },
  'maybe-done': {
    says: 'Done, it seems',
    helps: 'Shut the valve, wait 5 to 10 minutes, and look whether the pressure comes back.',
  },
  falling: {
    says: 'The weight goes back',
    helps: 'Gas flows the wrong way, or out: close the cylinder, look at the valves, listen.',
  },
}

export const PULL_ALARM_WORDS: Record<PullAlarm['code'], { says: string; helps: string }> = {
  'limit-near': { says: 'The cylinder is nearly full', helps: 'Have the next one ready.' },
  'limit-passed': { says: 'Past the limit', helps: 'Stop, close the cylinder, take some out again.' },
  'stop-line-near': {
    says: 'It leaks: stop at zero on the gauge',
    helps: 'A hand at the valve now.',
  },
  'below-stop-line': {
    says: 'Below zero, and it leaks: air comes in',
    helps: 'Shut the valve. Air in the cylinder spoils all of it.',
  },
  'above-rating': {
    says: 'The pressure is above what the cylinder is rated for',
    helps: 'Stop the machine, close the system’s valve, cool the cylinder.',
  },
  'cylinder-hot': { says: 'The cylinder is hotter than 50 °C', helps: 'Stop, and cool it.' },
  'may-freeze': {
    says: 'Water may freeze in the condenser',
    helps: 'Keep its water moving, or drain it; take liquid first. Ice splits the tubes.',
  },
  nudged: {
    says: 'Somebody touched the scale',
    helps: 'If nothing was put on or taken off, look what leans on it, and note the weight again.',
  },
}
