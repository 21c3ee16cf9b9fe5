import { FAST_S, type Fit, type Fitter, type Restriction, SLOW_S } from './fit'

/** Steps of the slow time constants up or down, and of the coarser fast ones: from hold to hold they stay within a fifth. */
const NEAR = { fast: 1, slow: 2 }

export interface Joint {
  chi2: number
  now: Fit
  before: Fit
}

/**
 * The best pair of fits to two holds of one system, each with its own restriction, whose time constants agree: what
 * gives off gas is the same, only less of it.
 */
export function jointly(now: Fitter, before: Fitter, one: Restriction, other: Restriction): Joint {
  const fits = (fitter: Fitter, restriction: Restriction) =>
    FAST_S.map((_, fast) => SLOW_S.map((_, slow) => fitter.at(fast, slow, restriction)))
  const ours = fits(now, one)
  const theirs = fits(before, other)
  let best: Joint | undefined
  for (const [fast, row] of ours.entries())
    for (const [slow, fit] of row.entries())
      for (let f = Math.max(0, fast - NEAR.fast); f <= Math.min(FAST_S.length - 1, fast + NEAR.fast); f++)
        for (let s = Math.max(0, slow - NEAR.slow); s <= Math.min(SLOW_S.length - 1, slow + NEAR.slow); s++) {
          const chi2 = fit.chi2 + theirs[f]![s]!.chi2
          if (!best || chi2 < best.chi2) best = { chi2, now: fit, before: theirs[f]![s]! }
        }
  return best!
}
