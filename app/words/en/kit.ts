import type { ActCode, KitKind, KitState } from '#core/kit'
import type { LimitedBy } from '#core/verdict'

export const KIT_KIND_WORDS: Record<KitKind, string> = {
  scale: 'Scale',
  gauge: 'Gauge set or digital manifold',
  thermometer: 'Clamp or thermometer',
  'vacuum-gauge': 'Vacuum gauge',
  identifier: 'Refrigerant identifier',
  machine: 'Recovery machine',
  pump: 'Vacuum pump',
  hoses: 'Hose set',
  'core-tool': 'Core tool',
  detector: 'Leak detector',
  'uv-lamp': 'UV lamp',
  nitrogen: 'Nitrogen and regulator',
  weights: 'Check weights',
  bottle: 'Oil or dye bottle',
  station: 'Service station',
}

export const KIT_STATE_WORDS: Record<KitState, string> = {
  'in-use': 'In use',
  repair: 'Out for repair',
  retired: 'Retired',
}

/** What can be done, as one says it, and how to do it in two lines. */
export const ACT_WORDS: Record<ActCode, { name: string; due: string; how: [string, string] }> = {
  'scale-check': {
    name: 'Scale check',
    due: 'Check the scale',
    how: [
      'Level and firm, nothing leaning on it; zero it empty, and put a known weight in the middle of the platform.',
      'Note what the weight is and what the scale reads. A weight near what you usually weigh tells most.',
    ],
  },
  'zero-check': {
    name: 'Zero check',
    due: 'Check the zero of the gauges',
    how: [
      'Hoses off and valves open, so that the gauge stands in open air.',
      'Note what it reads: it should be zero. Set it to zero afterwards.',
    ],
  },
  'temperature-check': {
    name: 'Temperature check',
    due: 'Check the thermometer',
    how: [
      'Crushed ice and a little water, stirred, for three minutes: that is 0 °C, 32 °F.',
      'Put the sensor in, wait until it stands still, and note what it reads.',
    ],
  },
  'vacuum-check': {
    name: 'Vacuum gauge check',
    due: 'Check the vacuum gauge',
    how: [
      'On the same tee as a gauge that was proved, near the pump, below 1000 micron.',
      'Wait until both stand still, and note what each of them reads.',
    ],
  },
  calibrated: {
    name: 'Proved or calibrated',
    due: 'Have it proved',
    how: [
      'By its maker’s way: reference gas, reference leak, a proved weight, or sent in.',
      'Note by whom and the number of the paper.',
    ],
  },
  'oil-changed': {
    name: 'Pump oil changed',
    due: 'Change the pump oil',
    how: [
      'Warm up, drain, fill to the mark with fresh vacuum pump oil.',
      'Run it against closed valves: it must go below 500 micron again.',
    ],
  },
  'hours-run': {
    name: 'Hours run',
    due: 'Note the hours',
    how: ['How long the pump has run since you noted it last.', 'From it follows when its oil is due.'],
  },
  'filter-fitted': {
    name: 'Filter-drier fitted',
    due: 'Fit a new filter-drier',
    how: [
      'Purge the machine first, power off. Arrow in the direction of flow, new seals.',
      'Also whenever another refrigerant follows.',
    ],
  },
  'seals-looked': {
    name: 'Seals looked at',
    due: 'Look at the seals',
    how: [
      'Every end: seal there, soft, without cuts; depressor straight.',
      'Pull the set into a vacuum against closed valves: it must stay.',
    ],
  },
  'bottle-opened': {
    name: 'Bottle opened',
    due: 'Use it up or replace it: it draws water',
    how: [
      'Opened oil of this kind draws water from the air: keep it closed, use it soon.',
      'What has stood open for months is no oil for a system: take a fresh bottle.',
    ],
  },
  'bottle-level': {
    name: 'Left in the bottle',
    due: 'Note what is left',
    how: ['Read the level at eye height, on a level table.', 'It is what you have for the next job.'],
  },
  purged: {
    name: 'Purged',
    due: 'Purge it',
    how: [
      'By the maker’s way, into a cylinder of the same gas on a scale.',
      'Note what the scale gained, so that every gram is somewhere.',
    ],
  },
  decided: {
    name: 'Decided on a weighing',
    due: 'Decide on its weighings',
    how: [
      'Weigh the cylinder again on a scale that was proved, where its gas is still there.',
      'Or accept the weight, with the reason.',
    ],
  },
}

/** What leaves the most doubt in a verdict. Without a label an ordinary instrument is reckoned with. */
export function limitedByWords({ what, label }: LimitedBy): string {
  const named: Record<LimitedBy['what'], [string, string]> = {
    scale: ['the scale', 'the scale, which nobody named: 5 g steps are reckoned with, 10 g above 60 kg'],
    expected: ['', 'what is known of plate, lines and accessories, not the scale'],
    gauge: ['the gauge', 'the gauge, which nobody named: ± 0.2 bar (3 psi) is reckoned with'],
    clamp: ['the clamp', 'the clamp, which nobody named: ± 1 K (1.8 °F) is reckoned with'],
    'vacuum-gauge': [
      'the vacuum gauge',
      'the vacuum gauge, which nobody named: ± 20 % of its reading is reckoned with',
    ],
  }
  const [with_, without] = named[what]
  return label && with_ ? `${with_} ${label}` : without
}
