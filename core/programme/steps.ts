/**
 * What a service station does on a vehicle, one after the other. Any may be left out. Times and limits are usage of the
 * trade; the maker's figures win.
 */
export const PROGRAMME_STEPS = [
  'identify',
  'before',
  'recover',
  'oil-out',
  'vacuum',
  'hold',
  'oil-in',
  'dye',
  'charge',
  'after',
  'clear',
] as const
export type ProgrammeStep = (typeof PROGRAMME_STEPS)[number]

/** One step with its times and amounts: seconds, absolute Pa, mg, mL. What a step has no use for is left out. */
export interface PlannedStep {
  step: ProgrammeStep
  /** How long: vacuum, hold; running before it is read. */
  forS?: number
  /** recover: down to this pressure, then so long at rest, and again if it has risen. */
  downToPa?: number
  restS?: number
  /** charge. */
  massMg?: number
  /** charge: a share first, and the rest once the cabin's vents have been sniffed. */
  sniff?: boolean
  /** charge: through which ports; liquid never into a low side that runs. */
  sides?: 'both' | 'high'
  /** oil-in: for replaced parts; dye. */
  volumeMl?: number
  /** oil-in: what came out goes back with it. */
  withDrained?: boolean
  /** oil-in, dye: the bottle of the shop's kit that stands in the station. */
  bottleId?: string
  /** identify: least share of the named gas. */
  purityPct?: number
}

/** So far below the air around a recovery goes, and has to stay: 102 mmHg, Pa. */
export const BELOW_AIR_PA = Math.round(102 * 133.322)
const STANDARD_AIR_PA = 101_325
const MINUTE_S = 60

/** Each step as it is usually done. */
export const USUAL_STEPS: Record<ProgrammeStep, Omit<PlannedStep, 'step'>> = {
  identify: { purityPct: 98 },
  before: { forS: 3 * MINUTE_S },
  // At sea level; on a mountain it is that much below the air there.
  recover: { downToPa: STANDARD_AIR_PA - BELOW_AIR_PA, restS: 5 * MINUTE_S },
  'oil-out': {},
  vacuum: { forS: 20 * MINUTE_S },
  hold: { forS: 10 * MINUTE_S },
  'oil-in': { volumeMl: 0, withDrained: true },
  dye: { volumeMl: 7.5 },
  charge: { sniff: true, sides: 'high' },
  after: { forS: 5 * MINUTE_S },
  clear: {},
}

/** Least and most of each figure, as a programme may ask for it. */
export const STEP_LIMITS = {
  forS: { least: 60, most: 4 * 3_600 },
  restS: { least: 0, most: 1_800 },
  downToPa: { least: 20_000, most: 101_325 },
  massMg: { least: 10_000, most: 30_000_000 },
  volumeMl: { least: 0, most: 500 },
  purityPct: { least: 90, most: 100 },
} as const
export type StepFigure = keyof typeof STEP_LIMITS

/** Which figures a step has, in the order of its form. */
export const STEP_FIGURES: Record<ProgrammeStep, readonly StepFigure[]> = {
  identify: ['purityPct'],
  before: ['forS'],
  recover: ['downToPa', 'restS'],
  'oil-out': [],
  vacuum: ['forS'],
  hold: ['forS'],
  'oil-in': ['volumeMl'],
  dye: ['volumeMl'],
  charge: ['massMg'],
  after: ['forS'],
  clear: [],
}

/** How full a tank should be kept, and what must not be drawn from it: below it vapour comes with the liquid, mg. */
export const LEAST_IN_TANK_MG = 2_000_000

export type ProgrammeProblem =
  | 'no-step'
  | 'twice'
  | 'order'
  | 'no-amount'
  | 'out-of-range'
  | 'no-oil-bottle'
  | 'no-dye-bottle'
  | 'charge-not-emptied'
  | 'dyed-already'
  | 'too-much'

/** More than its charge by so much is a slip of the hand, as a share; plates are met within a few percent. */
const OVER = 0.1

export interface KnownOfSystem {
  /** It is empty by this job, or what is in it was all put in by it. */
  emptied: boolean
  /** That, mg. */
  inItMg: number
  /** What should be in it, mg; null: nobody knows. */
  fullMg: number | null
  dyed: boolean
}

/** What is asked before a programme begins; whoever says so has it done all the same. */
export type ProgrammeQuestion = 'charge-unproved'

/** @param proved a vacuum hold stands on this circuit, or gas went in after one */
export function programmeQuestions(steps: readonly PlannedStep[], proved: boolean): ProgrammeQuestion[] {
  const has = (step: ProgrammeStep) => steps.some((each) => each.step === step)
  // What is recovered first leaves an empty circuit, and nothing that was proved of it before.
  const isProved = (proved && !has('recover')) || (has('vacuum') && has('hold'))
  return has('charge') && !isProved ? ['charge-unproved'] : []
}

/** What keeps a programme from being run, with the step that it is about. */
export function programmeProblems(
  steps: readonly PlannedStep[],
  known: KnownOfSystem,
): { step: ProgrammeStep | null; code: ProgrammeProblem }[] {
  if (steps.length === 0) return [{ step: null, code: 'no-step' }]
  const places = steps.map(({ step }) => PROGRAMME_STEPS.indexOf(step))
  const found: { step: ProgrammeStep | null; code: ProgrammeProblem }[] = []
  places.forEach((place, i) => {
    if (i > 0 && place === places[i - 1]) found.push({ step: steps[i]!.step, code: 'twice' })
    else if (i > 0 && place < places[i - 1]!) found.push({ step: steps[i]!.step, code: 'order' })
  })
  const has = (step: ProgrammeStep) => steps.some((each) => each.step === step)
  for (const each of steps) {
    for (const figure of STEP_FIGURES[each.step]) {
      const value = each[figure]
      const { least, most } = STEP_LIMITS[figure]
      if (value === undefined) found.push({ step: each.step, code: 'no-amount' })
      else if (!(value >= least && value <= most)) found.push({ step: each.step, code: 'out-of-range' })
    }
    const takesOil = (each.volumeMl ?? 0) > 0 || each.withDrained === true
    if (each.step === 'oil-in' && takesOil && !each.bottleId)
      found.push({ step: 'oil-in', code: 'no-oil-bottle' })
    if (each.step === 'dye' && !each.bottleId) found.push({ step: 'dye', code: 'no-dye-bottle' })
    if (each.step === 'dye' && known.dyed) found.push({ step: 'dye', code: 'dyed-already' })
    // Its amount is the whole charge: on top of what is in it, it would be too much.
    if (each.step === 'charge' && !has('recover') && !known.emptied)
      found.push({ step: 'charge', code: 'charge-not-emptied' })
    const thenMg = (each.massMg ?? 0) + (has('recover') ? 0 : known.inItMg)
    if (each.step === 'charge' && known.fullMg !== null && thenMg > (1 + OVER) * known.fullMg)
      found.push({ step: 'charge', code: 'too-much' })
  }
  return found
}

/** About how long it takes, s, where hands are there at once: its times, and usage for the rest. */
export function programmeTakesS(steps: readonly PlannedStep[]): number {
  const USUAL_S: Record<ProgrammeStep, number> = {
    identify: 60,
    before: 60,
    recover: 240,
    'oil-out': 30,
    vacuum: 0,
    hold: 0,
    'oil-in': 30,
    dye: 20,
    charge: 120,
    after: 60,
    clear: 120,
  }
  return steps.reduce((sum, { step, forS = 0, restS = 0 }) => sum + USUAL_S[step] + forS + restS, 0)
}
