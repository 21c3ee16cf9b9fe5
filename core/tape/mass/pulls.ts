import type { PressureNote } from '../chapters/readings'
import type { JobState } from '../envelope/state'
import type { Transfer } from './weighings'

/** One pull of a recovery, as a line: pressures absolute, Pa. */
export interface PullLine {
  transferId: string
  cylinderId: string
  startedAt: number
  endedAt?: number
  amountMg: number
  startPa?: number
  endPa?: number
  /** What came back before the next one began, or until now. */
  reboundPa?: number
  reboundAfterMs?: number
  /** What the machine's own purge brought, of the amount. */
  purgeMg?: number
}

/** A gauge is read a little before the machine starts, and just as it stops. */
const BEFORE_MS = 15 * 60_000
const JUST_AFTER_MS = 15_000

/** The pulls of the last recovery, in order: since gas had gone in before it. */
export function pullsOf({
  transfers,
  pressureNotes,
  steps,
}: Pick<JobState, 'transfers' | 'pressureNotes' | 'steps'>): PullLine[] {
  const lows = pressureNotes.filter((each) => each.point === 'low')
  const last = transfers.findLastIndex((each) => each.use === 'recover')
  const first = transfers.slice(0, Math.max(0, last)).findLastIndex((each) => each.use === 'charge') + 1
  const since = transfers.slice(first, last + 1)
  const purgedAt = steps.find(({ step }) => step === PURGE_BEGUN)?.at
  return since.map((transfer, i) => {
    const purgeMg = purgedAt === undefined ? undefined : purgeOf(transfer, purgedAt)
    return { ...lineOf(transfer, transfers[first + i + 1], lows), ...(purgeMg !== undefined && { purgeMg }) }
  })
}

/** Ticked as the machine begins to purge itself into the cylinder. */
export const PURGE_BEGUN = 'purge-begun'

/** What has come since the purge began, on the scale that it ended on. */
function purgeOf(
  { startedAt, endedAt, weighings, segments }: Transfer,
  purgedAt: number,
): number | undefined {
  if (endedAt === undefined || purgedAt < startedAt || purgedAt > endedAt) return undefined
  const last = segments.length - 1
  const before = weighings.findLast(({ at, segment }) => at <= purgedAt && segment === last)
  return before && segments[last]!.lastMg - before.weightMg
}

function lineOf(transfer: Transfer, next: Transfer | undefined, lows: readonly PressureNote[]): PullLine {
  const { transferId, cylinderId, startedAt, endedAt, amountMg } = transfer
  const before = lows.findLast(({ at }) => at <= startedAt && at >= startedAt - BEFORE_MS)
  const during = lows.filter(
    ({ at }) => at > startedAt && at <= (endedAt === undefined ? Infinity : endedAt + JUST_AFTER_MS),
  )
  const start = before ?? (during.length > 1 ? during[0] : undefined)
  const end = during.at(-1)
  const after =
    endedAt === undefined
      ? undefined
      : lows.findLast(({ at }) => at > endedAt + JUST_AFTER_MS && at <= (next?.startedAt ?? Infinity))
  return {
    transferId,
    cylinderId,
    startedAt,
    amountMg,
    ...(endedAt !== undefined && { endedAt }),
    ...(start && { startPa: start.value }),
    ...(end && end !== start && { endPa: end.value }),
    ...(after && { reboundPa: after.value, reboundAfterMs: after.at - endedAt! }),
  }
}
