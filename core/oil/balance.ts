export interface OilBalance {
  outMl: number
  partsMl: number
  inMl: number
  /** What should still go in, mL; negative: too much went in. */
  dueMl: number
}

/**
 * What came out goes back, plus what replaced parts took. Nothing out and nothing replaced: nothing in.
 * @param partsMl share taken by replaced parts (the maker's data win)
 */
export function oilBalance(outMl: number, partsMl: number, inMl: number): OilBalance {
  return { outMl, partsMl, inMl, dueMl: tidyMl(outMl + partsMl - inMl) }
}

/**
 * Whole injector steps for a volume: rounded up, computed in whole steps, so that 0.5 in steps of 0.2 is 0.6.
 * @throws RangeError for a step that is not positive
 */
export function injectorSteps(
  volumeMl: number,
  stepMl: number,
): { steps: number; volumeMl: number; extraMl: number } {
  if (!(stepMl > 0)) throw new RangeError('an injector step is more than 0 mL')
  const steps = Math.max(0, Math.ceil(volumeMl / stepMl - 1e-9))
  return { steps, volumeMl: tidyMl(steps * stepMl), extraMl: tidyMl(steps * stepMl - volumeMl) }
}

function tidyMl(volumeMl: number): number {
  return Math.round(volumeMl * 1000) / 1000
}
