import type { At } from '../recovery'

/** How far above its running pressure the suction side may be fed, Pa: 10 psi, and half of it with a near port. */
const ABOVE_PA = 70_000
const NEAR_PORT_PA = 35_000

/** The pressure that liquid let into the running suction side must not pass. @param runningPa before the valve was opened */
export function meteringLimitPa(runningPa: number, nearCompressor: boolean): number {
  return runningPa + (nearCompressor ? NEAR_PORT_PA : ABOVE_PA)
}

/** Closed far enough: a needle that trembles about the limit has not been back, Pa. */
const BACK_PA = 10_000

export type Needle = 'trembling' | 'settled' | 'cannot-tell'

/** Looked at over the last seconds, of samples that are close enough to show it. */
const LOOK_S = 8
const LEAST_SAMPLES = 12
/** Standard deviation about its line, Pa: more is liquid that passes, less a needle at rest. Assumptions. */
const TREMBLES_PA = 3_000
const RESTS_PA = 1_200

/** A needle that trembles means that liquid is passing, one that has settled that only vapour does. */
export function needleOf(low: readonly At[]): Needle {
  const end = low.at(-1)
  if (!end) return 'cannot-tell'
  const recent = low.filter((each) => each.atS > end.atS - LOOK_S)
  if (recent.length < LEAST_SAMPLES) return 'cannot-tell'
  // About a straight line: what rises evenly does not tremble.
  const n = recent.length
  const meanT = recent.reduce((sum, each) => sum + each.atS, 0) / n
  const meanP = recent.reduce((sum, each) => sum + each.value, 0) / n
  const squares = recent.reduce((sum, each) => sum + (each.atS - meanT) ** 2, 0)
  const slope =
    squares === 0
      ? 0
      : recent.reduce((sum, each) => sum + (each.atS - meanT) * (each.value - meanP), 0) / squares
  const variance =
    recent.reduce((sum, each) => sum + (each.value - meanP - slope * (each.atS - meanT)) ** 2, 0) / n
  const spreadPa = Math.sqrt(variance)
  if (spreadPa > TREMBLES_PA) return 'trembling'
  return spreadPa < RESTS_PA ? 'settled' : 'cannot-tell'
}

export type MeteringState =
  /** @property sinceS when it left what was well within, from the zero of the readings; 0: it never was */
  | { code: 'too-much'; lowPa: number; limitPa: number; sinceS: number }
  | { code: 'metering'; lowPa: number; limitPa: number; needle: Needle }
  | { code: 'vapour-only'; lowPa: number; limitPa: number }

/** What the suction pressure says while liquid is metered into a running system. */
export function watchMetering(
  low: readonly At[],
  runningPa: number,
  nearCompressor: boolean,
): MeteringState | undefined {
  const end = low.at(-1)
  if (!end) return undefined
  const limitPa = meteringLimitPa(runningPa, nearCompressor)
  if (end.value > limitPa) {
    const back = low.findLastIndex((each) => each.value <= limitPa - BACK_PA)
    return { code: 'too-much', lowPa: end.value, limitPa, sinceS: back === -1 ? 0 : low[back + 1]!.atS }
  }
  const needle = needleOf(low)
  return needle === 'settled' && end.value > runningPa
    ? { code: 'vapour-only', lowPa: end.value, limitPa }
    : { code: 'metering', lowPa: end.value, limitPa, needle }
}
