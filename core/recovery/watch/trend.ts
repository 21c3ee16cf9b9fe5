/** What an instrument showed, or was noted to show, at a moment: seconds from any zero, SI. */
export interface At {
  atS: number
  value: number
}

/** How a value moves now. */
export interface Trend {
  /** By the fitted line, at its end. */
  now: number
  perS: number
  /** Time that it rests on, s. */
  spanS: number
}

/**
 * A straight line through the last samples: those within the window, and at least the last two.
 * @param samples in order of time
 * @returns undefined for fewer than two, or where all are of one moment
 */
export function trendOf(samples: readonly At[], windowS: number): Trend | undefined {
  const end = samples.at(-1)
  if (!end || samples.length < 2) return undefined
  const from = samples.findIndex((each) => each.atS >= end.atS - windowS)
  const recent = samples.slice(Math.min(from, samples.length - 2))
  const count = recent.length
  const meanS = recent.reduce((sum, each) => sum + each.atS, 0) / count
  const mean = recent.reduce((sum, each) => sum + each.value, 0) / count
  let squares = 0
  let products = 0
  for (const { atS, value } of recent) {
    squares += (atS - meanS) ** 2
    products += (atS - meanS) * (value - mean)
  }
  if (squares === 0) return undefined
  const perS = products / squares
  return { now: mean + perS * (end.atS - meanS), perS, spanS: end.atS - recent[0]!.atS }
}
