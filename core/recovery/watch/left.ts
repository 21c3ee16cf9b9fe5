import { recoveryTimeLeft, type TimeLeft } from '../time-left'
import type { PullState } from './pull'
import type { At } from './trend'

/** Below the pressure of liquid it is vapour that comes; a pull without a gauge does not say. */
const COMES: Partial<Record<PullState['code'], 'liquid' | 'vapour'>> = {
  liquid: 'liquid',
  'boiling-cold': 'vapour',
  'last-of-it': 'vapour',
}

/** A scale's noise averages out over so long, s. */
const BLOCK_S = 20

/**
 * How long a pull still takes, from a streamed or typed weight.
 * @param weights in order of time, what has come, kg
 * @param expectedKg what should come in this pull, where known
 * @param code what is said of the pull
 * @returns undefined as long as there are too few
 */
export function pullTimeLeft(
  weights: readonly At[],
  expectedKg?: number,
  code?: PullState['code'],
): TimeLeft | undefined {
  const blocks: { atS: number; massKg: number }[] = []
  for (let i = 0; i < weights.length;) {
    const fromS = weights[i]!.atS
    let [sumS, sumKg, count] = [0, 0, 0]
    for (; i < weights.length && weights[i]!.atS - fromS < BLOCK_S; i++) {
      sumS += weights[i]!.atS
      sumKg += weights[i]!.value
      count++
    }
    blocks.push({ atS: sumS / count, massKg: sumKg / count })
  }
  return blocks.length < 3 ? undefined : recoveryTimeLeft(blocks, expectedKg, code && COMES[code])
}
