import type {
  Ask,
  ProgrammeProblem,
  ProgrammeQuestion,
  ProgrammeStep,
  StepFigure,
  Stop,
} from '#core/programme'

/** The steps of a service station's programme. */
export const STEP_WORDS: Record<ProgrammeStep, string> = {
  identify: 'Identify the gas',
  before: 'Read it running, before',
  recover: 'Recover',
  'oil-out': 'Drain and read the oil',
  vacuum: 'Vacuum',
  hold: 'Hold',
  'oil-in': 'Oil in',
  dye: 'Dye in',
  charge: 'Charge',
  after: 'Read it running, after',
  clear: 'Clear the hoses',
}

export const FIGURE_WORDS: Record<StepFigure, string> = {
  forS: 'for, min',
  restS: 'rest, min',
  downToPa: 'down to',
  massMg: 'amount',
  volumeMl: 'amount',
  purityPct: 'at least, %',
}

interface AskWords {
  /** What a hand has to do. */
  what: string
  done: string
  /** What else may be so; the programme stops. */
  no: string
  why: string
}

/** What a station waits for. */
export const ASK_WORDS: Record<Ask, AskWords> = {
  'hoses-on': {
    what: 'Couple both hoses, then open the couplers',
    done: 'Hoses are on',
    no: 'Not now: stop',
    why: 'Engine off. Goggles and gloves: a coupler may spit.',
  },
  'engine-on': {
    what: 'Start the engine: 1500 to 2000 rpm, recirculation, coldest, lowest fan. Electric: ready, and the cooling on',
    done: 'It runs',
    no: 'It does not run: stop',
    why: 'Hoses and sleeves clear of belts and fans. Exhaust out of the hall.',
  },
  'engine-off': {
    what: 'Stop the engine',
    done: 'It stands',
    no: 'Stop the programme',
    why: 'The station opens its valves only while nothing turns.',
  },
  'look-at-hold': {
    what: 'Look at the hold before gas goes in',
    done: 'Go on',
    no: 'Stop: look for the leak',
    why: 'What leaks in a hold leaks gas afterwards.',
  },
  'sniff-vents': {
    what: 'Hold the detector into the cabin’s vents, fan on lowest',
    done: 'Nothing there',
    no: 'It finds something: stop',
    why: 'A share of the charge is in. A leak at the coil behind the dash shows here first.',
  },
  'high-side-off': {
    what: 'Close the high-side coupler and take it off; leave the engine running',
    done: 'It is off',
    no: 'It does not come off: stop',
    why: 'High side first: the engine then draws the low hose empty. Never open the high side of one that runs to a tank.',
  },
  'hoses-off': {
    what: 'Close the couplers and take all hoses off; caps on',
    done: 'Hoses are off',
    no: 'Stop the programme',
    why: 'What is left in the hoses goes back into the tank, and is weighed.',
  },
}

interface StopWords {
  says: string
  next: string
}

/** Why a programme ended before its end, and what comes next. */
export const STOP_WORDS: Record<Stop, StopWords> = {
  'by-hand': { says: 'stopped by hand', next: 'Go on with what is left, or by hand.' },
  'power-lost': {
    says: 'the power was gone',
    next: 'Its valves are shut and its weights are written down. Go on with what is left.',
  },
  'not-the-gas': {
    says: 'the identifier says no',
    next: 'Nothing was drawn in. This gas goes by a machine of its own into a cylinder for mixed gas: choose one under Prepare.',
  },
  'tank-full': {
    says: 'its tank has no room',
    next: 'Empty the tank into a cylinder (Rack, its tank, Gas from or to others), then go on with what is left.',
  },
  'tank-empty': {
    says: 'its tank is nearly empty',
    next: 'Fill the tank from a supply cylinder, then go on: what is in counts, the rest is charged.',
  },
  'pressure-lost': {
    says: 'the vacuum was lost in the hold',
    next: 'A leak of that size is found with nitrogen or by ear: Leak test. Then vacuum and hold again.',
  },
  'does-not-empty': {
    says: 'it would not stay down',
    next: 'Liquid is still boiling somewhere, or air comes in: warm the accumulator, wait, recover again.',
  },
  'scale-touched': {
    says: 'its scale was touched',
    next: 'Nothing flowed, and the weight changed: clear the scale, check it with a known weight, then go on.',
  },
  'answered-no': {
    says: 'somebody answered no',
    next: 'See to what was found, then go on with what is left.',
  },
  'oil-bottle-empty': {
    says: 'the bottle has not enough',
    next: 'Fill or change the bottle, note its level under Kit, then go on with what is left.',
  },
  'does-not-know': {
    says: 'it does not take this programme',
    next: 'Its tank holds another gas, or it cannot do a step: choose another station, or work by hand.',
  },
}

/** What is asked before it begins. */
export const BEFORE_IT_BEGINS: Record<ProgrammeQuestion, string> = {
  'charge-unproved':
    'It would charge without a vacuum and a hold that stand: air and water stay in, and a leak is not seen. Tick Vacuum and Hold, or begin all the same.',
}

export const PROBLEM_WORDS: Record<ProgrammeProblem, string> = {
  'no-step': 'Choose at least one step.',
  twice: 'This step is there twice.',
  order: 'This step comes too early or too late.',
  'no-amount': 'Say how long, or how much.',
  'out-of-range': 'No station does this: read it again.',
  'no-oil-bottle': 'Choose the oil bottle that stands in the station, or take the step out.',
  'no-dye-bottle': 'Choose the dye bottle that stands in the station, or take the step out.',
  'charge-not-emptied':
    'It is not empty by this job: recover first, or it gets the whole charge on top of what is in it.',
  'too-much':
    'That is more than its charge, with what is in it already: read the amount again, or recover first.',
  'dyed-already': 'Dye is in it already: once is enough. Take the step out.',
}
