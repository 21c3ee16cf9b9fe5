import type { SaturationTable } from '../../refrigerants'
import { rule, type Quantity, quantity, type Verdict } from '../../verdict'
import { LEAST_WAIT_S, WORTH_KG } from '../rebound'
import { type At, trendOf } from '../watch'
import { type Returned, returnedSince } from './returned'

/** What is known while one waits after a pull. Times from the stop, s; pressures absolute, Pa. */
export interface AfterPull {
  /** Low side, in order; the last reading of the pull itself at a time of zero or less. */
  low: readonly At[]
  nowS: number
  levelPa: number
  atmospherePa: number
  /** One standard deviation of the gauge. */
  gaugePa: number
  ambientK: number
  /** The coldest part, by a clamp, where one was noted since the stop. */
  coldestK?: number | undefined
  /** A leak is known, and not mended. */
  leaking: boolean
  /** What the system holds when it is full; undefined: nobody knows. */
  chargeKg: number | undefined
  gas?: { table: SaturationTable; molarMassG: number } | undefined
}

export type WaitCode =
  | 'wait-too-soon'
  | 'wait-again'
  | 'wait-worth-it'
  | 'wait-done'
  /** It goes down after the stop: something still pulls. */
  | 'wait-falls'
  | 'wait-air'
  /** No gauge: time and a flat weight are all there is. */
  | 'wait-by-time'
export type WaitReason =
  | 'stopped-above-level'
  | 'came-back-above-level'
  | 'will-pass-level'
  | 'under-five-minutes'
  /** Nobody has read it for a while. */
  | 'read-it-now'
  /** One reading says where it stands, not whether it stays there. */
  | 'read-it-again'
  | 'not-shut-off'
  | 'still-rising'
  | 'within-level'
  | 'another-brings'
  | 'stays-down'
  | 'leak-draws-air'
  | 'warm-and-rising'
  | 'gas-or-air'
  | 'no-gauge-by-time'
  | 'no-gauge-wait-on'

export interface Wait extends Partial<Returned> {
  verdict: Verdict<WaitCode, WaitReason>
  /** At the stop and now, where a gauge was read. */
  stoppedPa?: number
  nowPa?: number
  /** How long it stood when it was read last, s. */
  heldS: number
}

/** Rules and trade wait so long before they call it done. */
const FULL_WAIT_S = 600
/** A gauge at the machine reads low under flow: what stands just after the stop is the start. */
const JUST_AFTER_S = 60
const TREND_S = 60
/** So near the air around nothing is cold any more, K. */
const WARM_K = 3
/** A leak draws evenly; what boils off slows as it goes. */
const EVEN = 0.7
/** Less than this is no rise, whatever the gauge, Pa. */
const RISE_PA = 2_000

/** Again, worth it, done, or air: what the pressure says after a pull. */
export function judgeWait(asked: AfterPull): Wait {
  const { low, nowS, levelPa, atmospherePa, gaugePa } = asked
  const last = low.at(-1)
  if (!last) return withoutGauge(nowS)
  const heldS = Math.max(0, last.atS)
  const start = low.findLast(({ atS }) => atS <= 0)
  const early = low.find(({ atS }) => atS > 0 && atS <= JUST_AFTER_S)
  const stoppedPa = (early ?? start ?? last).value
  const trend = trendOf(
    low.filter(({ atS }) => atS >= 0),
    TREND_S,
  )
  const streamed = low.length > 20
  const nowPa = streamed && trend ? trend.now : last.value
  // Against itself a gauge is exact to its divisions, however far it is off.
  const risePa = nowPa - stoppedPa
  const rises = risePa > Math.max(RISE_PA, streamed ? 0 : gaugePa / 2)
  const perS = heldS > 0 && risePa > 0 ? (streamed && trend ? Math.max(0, trend.perS) : risePa / heldS) : 0
  const returned =
    asked.gas && asked.chargeKg !== undefined
      ? returnedSince(
          { stoppedPa, nowPa: Math.max(nowPa, stoppedPa), tempK: asked.ambientK, chargeKg: asked.chargeKg },
          asked.gas.table,
          asked.gas.molarMassG,
        )
      : undefined
  const say = (
    outcome: Verdict['outcome'],
    code: WaitCode,
    reasons: WaitReason[],
    numbers: Quantity[] = [],
  ): Wait => ({
    verdict: {
      outcome,
      code,
      reasons: reasons.map((reason) => ({ code: reason })),
      numbers: [
        quantity('start', stoppedPa, 'Pa'),
        quantity('end', nowPa, 'Pa'),
        quantity('down-to', levelPa, 'Pa'),
        quantity('held-for', heldS, 's'),
        ...numbers,
      ],
      rule: rule('wait-for-a-rise'),
    },
    stoppedPa,
    nowPa,
    heldS,
    ...returned,
  })

  // What rests on a charge that is still cold can only come back. Before the stop it fell, as it should.
  const since = low.filter(({ atS }) => atS >= 0)
  if (since[0] && since[0].value - nowPa > Math.max(RISE_PA, streamed ? 0 : gaugePa / 2))
    return say('open', 'wait-falls', ['not-shut-off'])
  const above = nowPa > levelPa + gaugePa
  // From below up to the air around and no further: air would do that, and so may gas.
  const below = stoppedPa < atmospherePa - gaugePa / 2 && nowPa <= atmospherePa + gaugePa
  if (rises && below && heldS > 0) {
    if (asked.leaking) return say('bad', 'wait-air', ['leak-draws-air'])
    const warm = asked.coldestK !== undefined && asked.coldestK >= asked.ambientK - WARM_K
    if (warm && heldS >= LEAST_WAIT_S && evenly(low)) return say('bad', 'wait-air', ['warm-and-rising'])
  }
  if (above)
    return say('caution', 'wait-again', [
      stoppedPa > levelPa + gaugePa ? 'stopped-above-level' : 'came-back-above-level',
      ...(below && rises ? (['gas-or-air'] as const) : []),
    ])
  if (heldS < LEAST_WAIT_S)
    return say('open', 'wait-too-soon', [nowS >= LEAST_WAIT_S ? 'read-it-now' : 'under-five-minutes'])
  // What stood no higher while the machine pulled has not come back since; what stood higher says nothing of now.
  const isReadTwice = since.length > 1 || (start !== undefined && start.value <= nowPa + gaugePa)
  if (!isReadTwice) return say('open', 'wait-too-soon', ['read-it-again'])
  if (heldS < FULL_WAIT_S && rises) {
    const thenPa = nowPa + perS * (FULL_WAIT_S - heldS)
    return say('open', 'wait-too-soon', [thenPa > levelPa + gaugePa ? 'will-pass-level' : 'still-rising'])
  }
  if (rises && returned && returned.nextKg.most >= WORTH_KG)
    return say('good', 'wait-worth-it', [
      'within-level',
      ...(below ? (['gas-or-air'] as const) : (['another-brings'] as const)),
    ])
  return say('good', 'wait-done', ['within-level', rises ? 'another-brings' : 'stays-down'])
}

function withoutGauge(nowS: number): Wait {
  const heldS = Math.max(0, nowS)
  return {
    verdict: {
      outcome: 'open',
      code: 'wait-by-time',
      reasons: [{ code: heldS < FULL_WAIT_S ? 'no-gauge-wait-on' : 'no-gauge-by-time' }],
      numbers: [quantity('held-for', heldS, 's')],
      rule: rule('wait-by-time'),
    },
    heldS,
  }
}

/** The second half of the rise is as steep as the first: by three readings or more. */
function evenly(low: readonly At[]): boolean {
  const since = low.filter(({ atS }) => atS >= 0)
  const [first, last] = [since[0], since.at(-1)]
  if (!first || !last || since.length < 3) return false
  const half = (first.atS + last.atS) / 2
  const middle = since.reduce((best, each) =>
    Math.abs(each.atS - half) < Math.abs(best.atS - half) ? each : best,
  )
  if (middle === first || middle === last) return false
  const before = (middle.value - first.value) / (middle.atS - first.atS)
  const after = (last.value - middle.value) / (last.atS - middle.atS)
  return before > 0 && after >= EVEN * before
}
