import { quantity, type Quantity, rule, type Verdict } from '../../verdict'
import { type Cause, CAUSES, type Form, formsFor, isState } from './causes'
import { checkBetween, type NextCheck } from './checks'
import type { Derived, Figure, ShownFigure } from './figures'
import { type Healthy, healthyRange, type RangedFigure, type ServiceFacts } from './service'

export type PatternCode =
  `pattern-${Cause}` | 'pattern-in-range' | 'pattern-open' | 'pattern-none' | ImpossibleCode
export type ImpossibleCode =
  'superheat-negative' | 'subcooling-negative' | 'liquid-below-ambient' | 'air-warmed'
export type FigureWord = `${RangedFigure}-${'down' | 'in' | 'up'}`
export type PatternReason =
  | FigureWord
  | `likely-${Cause}`
  | `check-${NextCheck}`
  | 'suction-warmed'
  | 'drier-cools'
  | 'drier-even'
  | 'stands-above'
  | 'stands-at-saturation'
  | 'instruments-or-gas-first'
export type PatternVerdict = Verdict<PatternCode, PatternReason>

export interface Ranked {
  cause: Cause
  /** How much worse than the instruments explain: the sum of squares of what lies outside, in standard deviations. */
  misfit: number
  /** Of all causes that were held against the readings. */
  share: number
}

export interface Pattern {
  verdict: PatternVerdict
  /** The likeliest first. */
  ranked: Ranked[]
  /** Each figure with its healthy range. */
  ranges: Partial<Record<Figure, Healthy>>
}

/** Machines differ from one another and from the model by about this much, in the figure's own unit. */
const MODEL: Record<Figure, number> = {
  td: 0.8,
  'over-ambient': 0.8,
  superheat: 0.8,
  subcooling: 0.8,
  'air-drop': 0.5,
  'low-gauge': 1.5e4,
  'vent-drop': 1.5,
  approach: 1.5,
  'air-rise-share': 0.05,
  'drier-drop': 0.4,
  standing: 0.5,
  condensing: 0.8,
  'air-on': 0.8,
}
const UNITS: Record<ShownFigure, Quantity['unit']> = {
  td: 'K',
  'over-ambient': 'K',
  superheat: 'K',
  subcooling: 'K',
  'air-drop': 'K',
  'low-gauge': 'Pa gauge',
  'vent-drop': 'K',
  approach: 'K',
  'air-rise-share': 'share',
  'drier-drop': 'K',
  standing: 'K',
}
const LOW_SIDE: Figure[] = ['td', 'superheat', 'low-gauge']
const HIGH_SIDE: Figure[] = ['over-ambient', 'subcooling']
/** Figures that a pattern needs at least, those with a healthy range counted. */
const LEAST_FIGURES = 3
/** A cause is named alone where every other one fits worse by so much; found on the model's running cycle. */
export const APART = 6
/** That nothing is wrong: no cause needs ruling out by more, where every figure lies in its range. */
export const RIGHT_APART = 1.5
/** Every figure lies in its range, as far as the instruments tell. */
const IN_RANGE = 2
/** Nothing that is known fits where even the best lies this far off. */
export const FITS = 16
/** A reading this far out, in standard deviations, cannot be so. */
const IMPOSSIBLE = 3
/** Liquid colder than the air around by more than this, K, has not come out of a condenser in that air. */
const COLDER_K = 2
const DRIER_COOLS_K = 1.3
const STANDS_ABOVE_K = 2
/** So many causes are named where none stands alone; the third only with so much. */
const SHOWN = 3
const SHOWN_SHARE = 0.05

const PATTERNS = rule('patterns')

/**
 * What all readings together say of a running system that has settled. A cause is named alone only where no other one
 * comes near; else the likeliest are listed with the check that would separate them.
 * @returns undefined where too little was read: {@link LEAST_FIGURES} figures, with both sides among them
 */
export function judgePattern(
  read: Partial<Record<Figure, Derived>>,
  facts: ServiceFacts,
): Pattern | undefined {
  const warmed = isWarmed(read)
  // Vapour gets no warmer in the evaporator than the air is: the rest came on the way, and says nothing of the valve.
  const { superheat: _, ...rest } = read
  const figures: Partial<Record<Figure, Derived>> = warmed ? rest : read
  const names = Object.keys(read) as Figure[]
  const ranges = Object.fromEntries(
    (Object.keys(figures) as Figure[]).flatMap((name) => {
      const range = healthyRange(name as RangedFigure, facts)
      return range ? [[name, range] as const] : []
    }),
  ) as Partial<Record<Figure, Healthy>>
  const ranged = Object.keys(ranges) as Figure[]
  const sided = (side: Figure[]) => ranged.some((name) => side.includes(name))
  if (ranged.length < LEAST_FIGURES || !sided(LOW_SIDE) || !sided(HIGH_SIDE)) return undefined

  const numbers = names.flatMap((name) => {
    const { value, sigma } = read[name]!
    return isShown(name) ? [quantity(name, value, UNITS[name], sigma)] : []
  })
  const impossible = impossibleIn(read)
  if (impossible)
    return {
      verdict: {
        outcome: 'caution',
        code: impossible,
        reasons: [{ code: 'instruments-or-gas-first' }],
        numbers,
        rule: PATTERNS,
      },
      ranked: [],
      ranges,
    }

  const ranked = rank(figures, ranges, facts)
  const right = ranked.find(({ cause }) => cause === 'all-right')!
  // Where nothing lies outside, nobody has to be asked what it is at.
  const best = isState(ranked[0]!.cause) && right.misfit <= IN_RANGE ? right : ranked[0]!
  const words = wordsOf(figures, ranges)
  if (warmed) words.push({ code: 'suction-warmed' })
  const isRead = (figure: Figure) => figures[figure] !== undefined
  const says = (
    outcome: Verdict['outcome'],
    code: PatternCode,
    reasons: PatternVerdict['reasons'],
  ): Pattern => ({ verdict: { outcome, code, reasons, numbers, rule: PATTERNS }, ranked, ranges })
  const next = (against: Ranked) => ({
    code: `check-${checkBetween(best.cause, against.cause, isRead)}` as const,
  })
  if (best.misfit > FITS) return says('open', 'pattern-none', [next(ranked[1]!), ...words])

  const said = ranked.find(({ cause, misfit }) => isSaid(cause, facts) && misfit - best.misfit < APART)
  if (said && best !== right) {
    // What looks the same as what it is said to be at cannot be told from it now.
    const fault = ranked.find(({ cause }) => isFault(cause))!
    return fault.misfit - said.misfit < RIGHT_APART
      ? says('open', `pattern-${said.cause}`, [
          { code: `likely-${fault.cause}` },
          { code: 'check-read-without' },
          ...words,
        ])
      : says('good', `pattern-${said.cause}`, words)
  }
  const fits = ranked.filter(({ misfit }) => misfit <= FITS)
  const likely = likelyOf(fits.filter(({ share }, i) => i < 2 || (i < SHOWN && share > SHOWN_SHARE)))
  if (best.cause !== 'all-right') {
    const second = ranked[1]!
    return second.misfit - best.misfit < APART || isState(best.cause)
      ? says('open', 'pattern-open', [...likely, next(second), ...words])
      : says('caution', `pattern-${best.cause}`, words)
  }
  // Nothing is wrong: what a healthy machine may be at besides is no doubt of that.
  const faults = ranked.filter(({ cause }) => isFault(cause))
  const second = faults[0]!
  // Something lies outside, and no cause that is known puts it there.
  if (best.misfit > IN_RANGE) return says('open', 'pattern-open', [...likely, next(second), ...words])
  // Nothing speaks of a fault; a small one is ruled out or not.
  return second.misfit - best.misfit < RIGHT_APART
    ? says('open', 'pattern-in-range', [
        ...likelyOf(faults.slice(0, SHOWN - 1).filter(({ share }, i) => i === 0 || share > SHOWN_SHARE)),
        next(second),
        ...words,
      ])
    : says('good', 'pattern-all-right', words)
}

const isShown = (figure: Figure): figure is ShownFigure => Object.hasOwn(UNITS, figure)
const isFault = (cause: Cause) => cause !== 'all-right' && !isState(cause)
const isSaid = (cause: Cause, { states }: ServiceFacts) => isState(cause) && states?.[cause] === true

const likelyOf = (of: readonly Ranked[]) =>
  of.map(({ cause, share }) => ({
    code: `likely-${cause}` as const,
    numbers: [quantity('likely', share, 'share')],
  }))

/** Suction this much warmer than the air onto the coil, K, beyond what the instruments may be off. */
const WARMED_K = 2

function isWarmed({ superheat, td }: Partial<Record<Figure, Derived>>): boolean {
  if (!superheat || !td) return false
  return superheat.value - td.value > WARMED_K + IMPOSSIBLE * Math.hypot(superheat.sigma, td.sigma)
}

function impossibleIn(figures: Partial<Record<Figure, Derived>>): ImpossibleCode | undefined {
  const below = (name: Figure, edge: number) => {
    const found = figures[name]
    return found !== undefined && found.value < edge - IMPOSSIBLE * found.sigma
  }
  if (below('superheat', -1)) return 'superheat-negative'
  if (below('subcooling', -1)) return 'subcooling-negative'
  if (below('approach', -COLDER_K)) return 'liquid-below-ambient'
  if (below('air-drop', -1)) return 'air-warmed'
  return undefined
}

function rank(
  figures: Partial<Record<Figure, Derived>>,
  ranges: Partial<Record<Figure, Healthy>>,
  facts: ServiceFacts,
): Ranked[] {
  const forms = formsFor(facts)
  const fits = CAUSES.flatMap((cause) => {
    const of = forms[cause]
    return of ? [{ cause, misfit: Math.min(...of.map((form) => misfitOf(form, figures, ranges))) }] : []
  }).sort((a, b) => a.misfit - b.misfit)
  const least = fits[0]!.misfit
  const weight = (misfit: number) => Math.exp((least - misfit) / 2)
  const all = fits.reduce((sum, { misfit }) => sum + weight(misfit), 0)
  return fits.map((each) => ({ ...each, share: weight(each.misfit) / all }))
}

function misfitOf(
  form: Form,
  figures: Partial<Record<Figure, Derived>>,
  ranges: Partial<Record<Figure, Healthy>>,
): number {
  let sum = 0
  for (const [name, [least, most]] of Object.entries(form) as [Figure, readonly [number, number]][]) {
    const found = figures[name]
    if (!found) continue
    const range = ranges[name]
    const half = range ? (range.most - range.least) / 2 : 1
    const middle = range ? (range.most + range.least) / 2 : 0
    const at = (found.value - middle) / half
    const outside = at < least ? least - at : at > most ? at - most : 0
    sum += ((outside * half) / Math.hypot(found.sigma, MODEL[name])) ** 2
  }
  return sum
}

/** Each figure in words: below, in or above its range; and what stands for itself. */
function wordsOf(
  figures: Partial<Record<Figure, Derived>>,
  ranges: Partial<Record<Figure, Healthy>>,
): PatternVerdict['reasons'] {
  const words = Object.entries(ranges).map(([name, { least, most }]): PatternVerdict['reasons'][number] => {
    const figure = name as RangedFigure
    const { value, sigma } = figures[figure]!
    const where = value < least ? 'down' : value > most ? 'up' : 'in'
    return {
      code: `${figure}-${where}`,
      numbers: [quantity(figure, value, UNITS[figure], sigma)],
    }
  })
  const outside = words.filter(({ code }) => !code.endsWith('-in'))
  const { 'drier-drop': drier, standing } = figures
  if (drier) outside.push({ code: drier.value > DRIER_COOLS_K ? 'drier-cools' : 'drier-even' })
  if (standing)
    outside.push({ code: standing.value > STANDS_ABOVE_K ? 'stands-above' : 'stands-at-saturation' })
  return outside.length > 0 ? outside : words
}
