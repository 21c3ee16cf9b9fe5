import type { At } from './trend'

/** A step that no hose can make: somebody touched the scale, or what stands on it. */
export interface Jump {
  atS: number
  /** How much more it shows since, kg. */
  byKg: number
}

/** More than the hoses of ordinary work move, kg/s; a ship's plant may, but then every step is as large as the next. */
const MOST_KG_S = 0.12
/** So many times the steps around it. */
const STANDS_OUT = 4
const AROUND = 6
/** Beside that and three divisions, kg. */
const LEAST_KG = 0.02
/** Samples further apart tell a jump from nothing. */
const NEXT_S = 5
/** A knock that comes back within so many samples is no step. */
const STAYS = 3

/**
 * Steps in a streamed weight that stay. Typed weights are too far apart for that: they are asked about when noted.
 * @param divisionKg of the scale
 */
export function jumpsOf(weights: readonly At[], divisionKg: number): Jump[] {
  const jumps: Jump[] = []
  for (let i = STAYS; i + STAYS <= weights.length; i++) {
    const gapS = weights[i]!.atS - weights[i - 1]!.atS
    const most = MOST_KG_S * gapS + 3 * divisionKg + LEAST_KG
    const step = weights[i]!.value - weights[i - 1]!.value
    if (gapS > NEXT_S || Math.abs(step) <= most) continue
    if (Math.abs(step) <= STANDS_OUT * usualStep(weights, i)) continue
    const before = meanOf(weights, i - STAYS, i)
    const after = meanOf(weights, i, i + STAYS)
    if (Math.abs(after - before) < Math.abs(step) / 2 || Math.sign(after - before) !== Math.sign(step))
      continue
    jumps.push({ atS: weights[i]!.atS, byKg: step })
  }
  return jumps
}

/** The same weights as if nobody had touched anything. */
export function withoutJumps(weights: readonly At[], jumps: readonly Jump[]): At[] {
  if (jumps.length === 0) return [...weights]
  let next = 0
  let off = 0
  return weights.map(({ atS, value }) => {
    while (next < jumps.length && jumps[next]!.atS <= atS) off += jumps[next++]!.byKg
    return { atS, value: value - off }
  })
}

/** The median of the steps around one. */
function usualStep(weights: readonly At[], at: number): number {
  const steps: number[] = []
  for (let i = Math.max(1, at - AROUND); i <= Math.min(weights.length - 1, at + AROUND); i++)
    if (i !== at) steps.push(Math.abs(weights[i]!.value - weights[i - 1]!.value))
  return steps.sort((a, b) => a - b)[steps.length >> 1] ?? 0
}

function meanOf(weights: readonly At[], from: number, to: number): number {
  let sum = 0
  for (let i = from; i < to; i++) sum += weights[i]!.value
  return sum / (to - from)
}
