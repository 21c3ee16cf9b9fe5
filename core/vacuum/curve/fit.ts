import { boundedMinimum, type Bounds } from './bounded'
import type { Point } from './bins'

/** p0 + fast (1 - e^(-t/fastS)) + slow (1 - e^(-t/slowS)) + slope t: outgassing, water, leak. Micron and seconds. */
export interface Curve {
  startMicron: number
  fastMicron: number
  fastS: number
  slowMicron: number
  slowS: number
  /** Micron a second. */
  slope: number
}

export interface Fit extends Curve {
  chi2: number
}

/** What a fit may not do; everything left out is free. Micron, and micron a second. */
export interface Restriction {
  slope?: Partial<Bounds>
  fast?: Partial<Bounds>
  slow?: Partial<Bounds>
  /** Least that water adds within half an hour, micron. */
  water?: number
  /** A source that takes hours may stand in as well. */
  creeping?: boolean
}

const HALF_AN_HOUR_S = 1800

const spread = (least: number, most: number, steps: number): number[] =>
  Array.from({ length: steps }, (_, i) => least * (most / least) ** (i / (steps - 1)))

/** Time constants that are tried, s. Without the long ones slow moisture is called a leak. */
export const FAST_S = spread(15, 180, 8)
export const SLOW_S = spread(60, 3600, 24)
/** Ice, or water below oil: over a hold they look like a leak. Tried where the question is whether there is one. */
const CREEPING_S = spread(4200, 14_400, 6)
const ALL_SLOW_S = [...SLOW_S, ...CREEPING_S]

/** How fast the gas may get warmer or colder, unseen, K a second: one standard deviation. */
const DRIFT_K_S = 1 / 1800
/** Columns: the start and a gas that gets warmer, which are always free; the slope; every fast and slow rise. */
const [SLOPE, FIRST_FAST, FIRST_SLOW] = [2, 3, 3 + FAST_S.length]

/** Two time constants, and what they come to. */
interface Tried {
  chi2: number
  place: [fast: number, slow: number]
}

/** Points prepared for many fits: every product of two columns once, with what is always free taken out of them. */
export class Fitter {
  private readonly square: number
  private readonly products: number[][]
  private readonly rights: number[]
  /** Start and drift from the other unknowns: y's part, and each column's. */
  private readonly startOf: { y: number; columns: number[] }
  /** Every pair of time constants with what it comes to unrestricted, the best first. */
  private readonly free: Tried[]
  private freeCreeping: Tried[] | undefined

  /** @param slowMost what water could add at most, micron; @param tempK of the gas, about */
  constructor(
    readonly points: readonly Point[],
    private readonly slowMost: number,
    tempK: number,
  ) {
    const weights = points.map(({ sigma }) => 1 / sigma ** 2)
    const rising = (tauS: number) => points.map(({ atS }) => 1 - Math.exp(-atS / tauS))
    const columns = [
      points.map(() => 1),
      // So much of what is there, for each standard deviation of drift.
      points.map(({ atS, micron }) => (micron * atS * DRIFT_K_S) / tempK),
      points.map(({ atS }) => atS),
      ...FAST_S.map(rising),
      ...ALL_SLOW_S.map(rising),
    ]
    const dot = (a: readonly number[], b: readonly number[]) => {
      let sum = 0
      for (let i = 0; i < a.length; i++) sum += weights[i]! * a[i]! * b[i]!
      return sum
    }
    const y = points.map(({ micron }) => micron)
    const rights = columns.map((column) => dot(column, y))
    const gram = columns.map((a) => columns.map((b) => dot(a, b)))
    // No drift is the likeliest: a unit normal before anything is measured.
    const [ss, sd, dd] = [gram[0]![0]!, gram[0]![1]!, gram[1]![1]! + 1]
    const determinant = ss * dd - sd * sd
    const freed = (s: number, d: number): [number, number] => [
      (dd * s - sd * d) / determinant,
      (ss * d - sd * s) / determinant,
    ]
    const [startY, driftY] = freed(rights[0]!, rights[1]!)
    const free = columns.map((_, i) => freed(gram[0]![i]!, gram[1]![i]!))
    this.square = dot(y, y) - startY * rights[0]! - driftY * rights[1]!
    this.rights = rights.map((right, i) => right - startY * gram[0]![i]! - driftY * gram[1]![i]!)
    this.products = gram.map((row, i) =>
      row.map((value, j) => value - free[i]![0] * gram[0]![j]! - free[i]![1] * gram[1]![j]!),
    )
    this.startOf = { y: startY, columns: free.map(([start]) => start) }
    this.free = this.tried(SLOW_S.map((_, slow) => slow))
  }

  private tried(slows: readonly number[]): Tried[] {
    const tried = FAST_S.flatMap((_, fast) =>
      slows.map((slow): Tried => ({ chi2: this.at(fast, slow).chi2, place: [fast, slow] })),
    )
    return tried.sort((a, b) => a.chi2 - b.chi2)
  }

  /** Unrestricted, those that creep among them: worked out once, where they are asked for. */
  private get allFree(): Tried[] {
    this.freeCreeping ??= [...this.free, ...this.tried(CREEPING_S.map((_, i) => SLOW_S.length + i))].sort(
      (a, b) => a.chi2 - b.chi2,
    )
    return this.freeCreeping
  }

  /** The best with these two time constants, by their places in {@link FAST_S} and {@link SLOW_S}. */
  at(fast: number, slow: number, { slope, fast: a1, slow: a2, water = 0 }: Restriction = {}): Fit {
    const slowLeast = water / (1 - Math.exp(-HALF_AN_HOUR_S / ALL_SLOW_S[slow]!))
    const columns = [FIRST_FAST + fast, FIRST_SLOW + slow, SLOPE]
    const { chi2, values } = boundedMinimum(
      columns.map((i) => columns.map((j) => this.products[i]![j]!)),
      columns.map((i) => this.rights[i]!),
      this.square,
      [
        { least: 0, most: Infinity, ...a1 },
        { least: slowLeast, most: Math.max(slowLeast, this.slowMost), ...a2 },
        { least: 0, most: Infinity, ...slope },
      ],
    )
    const [fastMicron, slowMicron, perS] = values as [number, number, number]
    return {
      chi2,
      startMicron: columns.reduce(
        (start, column, i) => start - values[i]! * this.startOf.columns[column]!,
        this.startOf.y,
      ),
      fastMicron,
      fastS: FAST_S[fast]!,
      slowMicron,
      slowS: ALL_SLOW_S[slow]!,
      slope: perS,
    }
  }

  /** The best of all time constants. A restriction makes none of them better, so that most need no look. */
  best(restriction: Restriction = {}): Fit {
    const free = restriction.creeping ? this.allFree : this.free
    let best = this.at(...free[0]!.place, restriction)
    for (const { chi2, place } of free) {
      if (chi2 >= best.chi2) break
      const fit = this.at(...place, restriction)
      if (fit.chi2 < best.chi2) best = fit
    }
    return best
  }
}

/** What a curve reads after so many seconds, micron. */
export function onCurve(curve: Curve, atS: number): number {
  return (
    curve.startMicron +
    curve.fastMicron * (1 - Math.exp(-atS / curve.fastS)) +
    curve.slowMicron * (1 - Math.exp(-atS / curve.slowS)) +
    curve.slope * atS
  )
}
