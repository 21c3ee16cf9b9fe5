import type { CauseReason, Oddity } from '#core/vacuum'

/** What the curve of a vacuum hold says, what to do next, and what is wrong with it. */
export const CURVE_REASONS: Record<CauseReason | Oddity | 'cause-undecided', string> = {
  'find-the-leak-first': 'Find the leak first: pumping longer does not help.',
  'dry-it':
    'Dry it: break the vacuum with dry nitrogen, warm the cold and low places, pump again with the cores out.',
  'pump-and-hold-again':
    'Pump down again and hold again: the second curve beside the first tells water from a leak.',
  'frozen-water':
    'It came back to about the vapour of ice: water may have frozen in there. Nitrogen and warmth, not a bigger pump.',
  'leak-certain': 'Leak: yes. It rises steadily, and nothing that gives off gas does that.',
  'leak-excluded': 'Leak: none that this hold could have seen.',
  'leak-open': 'Leak: cannot tell yet. The curve allows it, and allows none.',
  'leak-too-soon': 'Leak: too soon. It needs at least 10 minutes to be told from what gives off gas.',
  'leak-beside-water': 'Leak: cannot tell beside this much water. Dry it first, then hold again.',
  'water-certain': 'Water: yes. The rise bends over as water’s does, and is more than oil and seals give.',
  'water-excluded': 'Water: none to speak of, none that gives off within an hour.',
  'more-than-water':
    'Not water, or not only: it levels off above what water gives at this temperature. A leak, or refrigerant that boils out of the oil.',
  'water-open': 'Water: cannot tell yet.',
  'by-the-hold-before':
    'Decided together with the hold before: what gives off gas gave less, and no slope stayed.',
  'known-later': 'Hold on: if it goes on like this, it can be known later.',
  'pump-again-to-know': 'Waiting up to an hour would not tell: pump down again, hold again, and compare.',
  'rise-stayed': 'It rises as much as in the hold before: that speaks for a leak.',
  'rise-fell': 'It rises clearly less than in the hold before: that speaks for water that is going.',
  'never-isolated':
    'It falls: the pump was still drawing. Valve it off at the system, not at the pump, and start again.',
  'gauge-replaced':
    'It jumps from one reading to the next: was the gauge changed or a valve moved? Start the hold again.',
  gap: 'There is a long gap in the readings: what happened in it is not known.',
  'unit-mistaken':
    'So low is no field vacuum: are these millibar or torr? 1 mbar is 750 micron, 1 torr 1000. Correct the readings.',
  'sensor-pegged': 'The gauge stands at the end of its range: what lies above cannot be read from it.',
  'temperature-step':
    'It got clearly warmer or colder: water and gas follow it. Hold again when it is steady.',
  'fits-nothing':
    'The curve is neither a leak, nor water, nor both: look for a valve that moved, or a gauge that wanders.',
  'cause-undecided':
    'Leak or moisture cannot be told from these readings: a rise that levels off speaks for moisture, a steady one for a leak.',
}
