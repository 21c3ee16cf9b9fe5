import type { ChargeCode } from '../../charging'
import { checkNotes } from '../judging/check-readings'
import { circuitOf, type HoldStands } from '../judging/circuit'
import { runningHold } from '../judging/holds'
import { oilDueMl } from '../chapters/oil'
import { openTransfer } from '../envelope/open-transfer'
import { runningProgramme } from '../envelope/running-programme'
import { RETROFIT_STEPS } from '../chapters/retrofit'
import { isRecovered } from '../mass/episodes'
import { gasUnaccounted } from '../mass/in-system'
import type { VerdictAbout } from '../chapters/verdicts'
import { judgeCharged } from '../mass/charged'
import { judgeRecovery, type JudgingContext, standingVerdict, targetMoved } from '../judging/judge'
import { judgeChecks } from '../judging/judge-readings'
import { leakKnown } from '../mass/leak-known'
import { type JobState, type Stage, stepDone } from '../envelope/state'

/** What is still open before a job should be closed. */
export type OpenPoint =
  | 'programme-running'
  | 'transfer-running'
  | 'hold-running'
  | 'recovery-not-ended'
  | 'gas-unaccounted'
  | 'gas-not-judged'
  | 'recovered-short'
  | 'leak-found'
  | 'no-leak-test'
  | 'no-hold'
  | 'hold-cannot-tell'
  | 'hold-leaking'
  | 'hold-failed'
  | 'oil-due'
  | 'oil-over'
  | 'oil-wrong'
  | 'charge-short'
  | 'charge-over'
  | 'charge-cannot-tell'
  | 'target-moved'
  | 'topped-up'
  | 'retrofit-open'
  | 'no-charge'
  | 'readings-missing'
  | 'readings-off'
  | 'caps'
  | 'parts-back'
  | 'label'

/** Where each of them is dealt with. */
export const STAGE_OF_POINT: Record<OpenPoint, Stage> = {
  'programme-running': 'recover',
  'transfer-running': 'recover',
  'hold-running': 'evacuate',
  'recovery-not-ended': 'recover',
  'gas-unaccounted': 'recover',
  'gas-not-judged': 'close',
  'recovered-short': 'leak-test',
  'leak-found': 'leak-test',
  'no-leak-test': 'leak-test',
  'no-hold': 'evacuate',
  'hold-cannot-tell': 'evacuate',
  'hold-leaking': 'leak-test',
  'hold-failed': 'evacuate',
  'oil-due': 'oil',
  'oil-over': 'oil',
  'oil-wrong': 'oil',
  'charge-short': 'charge',
  'charge-over': 'charge',
  'charge-cannot-tell': 'charge',
  'target-moved': 'charge',
  'topped-up': 'leak-test',
  'retrofit-open': 'repair',
  'no-charge': 'charge',
  'readings-missing': 'verify',
  'readings-off': 'verify',
  caps: 'close',
  'parts-back': 'close',
  label: 'close',
}

/** Oil of less than this is within what a bottle tells, mL. */
const OIL_ML = 5

/** Too much is more than the largest step of an injector rounds up, and more than a tenth of what was to go in, mL. */
const oilOverMl = ({ oil: { outMl, partsMl }, drainedMl }: JobState): number =>
  Math.max(10, 0.1 * (outMl + partsMl + drainedMl))

/**
 * What is open in a job, in the order of its stages. Only what its own course calls for: a job in which nothing was
 * opened asks for no vacuum, one whose unit was taken away for no charge.
 */
export function openPoints(state: JobState, context: JudgingContext): OpenPoint[] {
  return [
    ...inGas(state, context),
    ...inCircuit(state, context),
    ...inCharge(state, context),
    ...atTheEnd(state),
  ]
}

function inGas(state: JobState, context: JudgingContext): OpenPoint[] {
  const points: OpenPoint[] = []
  const now = state.episodes.at(-1)!
  if (runningProgramme(state)) points.push('programme-running')
  if (openTransfer(state)) points.push('transfer-running')
  // A little taken out of what was just put in is no recovery that has to end.
  const pulled = now.lastWas === 'recover' && (now.began === 'as-found' || isRecovered(now))
  if (!openTransfer(state) && pulled && (now.end === undefined || now.end.how === 'not-emptied'))
    points.push('recovery-not-ended')
  if (gasUnaccounted(state, context)) points.push('gas-unaccounted')
  const received = state.transfers.filter((each) => each.use === 'recover' && each.amountMg > 0)
  if (received.some((each) => state.gas[each.cylinderId] === undefined)) points.push('gas-not-judged')
  if (isShort(state, context) && !leakLookedFor(state)) points.push('recovered-short')
  return points
}

function inCircuit(state: JobState, context: JudgingContext): OpenPoint[] {
  const points: OpenPoint[] = []
  const takenAway = stepDone(state, 'unit-taken-away')
  if (leakKnown(state) && !takenAway) points.push('leak-found')
  if (runningHold(state)) points.push('hold-running')
  const circuit = circuitOf(state)
  // Tight and dry is asked of a circuit that was open and is filled again.
  if (!circuit || takenAway || !(isCharged(state) || isLetBack(state))) return points
  if (!state.leakChecks.some((each) => each.at >= circuit.openedAt)) points.push('no-leak-test')
  const point = HOLD_POINTS[circuit.hold.stands]
  if (point && !isOverruled(state, 'hold', context)) points.push(point)
  return points
}

const HOLD_POINTS: Record<HoldStands, OpenPoint | undefined> = {
  none: 'no-hold',
  running: undefined,
  passed: undefined,
  'cannot-tell': 'hold-cannot-tell',
  'pump-on': 'hold-failed',
  leaking: 'hold-leaking',
  failed: 'hold-failed',
}

const CHARGE_POINTS: Record<ChargeCode, OpenPoint | undefined> = {
  'charge-on-target': undefined,
  'charge-short': 'charge-short',
  'charge-over': 'charge-over',
  'cannot-tell-with-this-scale': 'charge-cannot-tell',
}

/** Gas went in, and is not out again. */
function isCharged({ episodes }: JobState): boolean {
  const { charges, emptiedAt } = episodes.at(-1)!
  return charges > 0 && emptiedAt === undefined
}

/** The charge that waited behind valves is back in a circuit that was open. */
const isLetBack = ({ episodes }: JobState): boolean => {
  const { shutIn, emptiedAt } = episodes.at(-1)!
  return shutIn?.letBackAt !== undefined && emptiedAt === undefined
}

/** An overruling is of one verdict: what was judged since, or has changed, is open again. */
function isOverruled(state: JobState, about: VerdictAbout, context: JudgingContext): boolean {
  const given = standingVerdict(state, about, context)
  return given?.overruled !== undefined && !given.stale
}

function inCharge(state: JobState, context: JudgingContext): OpenPoint[] {
  const points: OpenPoint[] = []
  const dueMl = oilDueMl(state)
  if (dueMl > OIL_ML) points.push('oil-due')
  if (dueMl < -oilOverMl(state)) points.push('oil-over')
  if (state.flags.includes('oil-wrong-for-drive')) points.push('oil-wrong')
  const charged = isCharged(state)
  if (charged && state.episodes.at(-1)!.began === 'as-found' && !leakLookedFor(state))
    points.push('topped-up')
  const isToBeFilled = state.target !== undefined || state.gasChanges.length > 0
  if (isToBeFilled && !charged && !stepDone(state, 'unit-taken-away')) points.push('no-charge')
  const point = charged ? CHARGE_POINTS[judgeCharged(state)?.code ?? 'charge-on-target'] : undefined
  if (point && !isOverruled(state, 'charge', context)) points.push(point)
  const moved = targetMoved(state, context)
  const { target } = state
  if (charged && target && moved !== undefined && Math.abs(moved - target.massMg) > target.toleranceMg)
    points.push('target-moved')
  const changed = state.gasChanges.at(-1)
  if (state.retrofitPlanned && !changed && charged) points.push('retrofit-open')
  if (changed && charged && RETROFIT_STEPS.some((step) => !stepDone(state, step, changed.at)))
    points.push('retrofit-open')
  const { pressures, temperatures } = checkNotes(state)
  if (charged && (pressures.length === 0 || temperatures.length === 0)) points.push('readings-missing')
  else if (charged && readingsAreOff(state, context)) points.push('readings-off')
  return points
}

function readingsAreOff(state: JobState, context: JudgingContext): boolean {
  const { outcome } = judgeChecks(state, context)
  return (outcome === 'caution' || outcome === 'bad') && !isOverruled(state, 'readings', context)
}

/** Whoever pulled it, a station as well: less came out than should have been in there. */
function isShort(state: JobState, context: JudgingContext): boolean {
  const code = judgeRecovery(state, context)?.code
  const short = code === 'less-than-expected' || code === 'mostly-gone'
  return short && !isOverruled(state, 'recovery', context)
}

/** Where gas was short it went somewhere: any look for it counts, found or not. */
export const leakLookedFor = ({ leakChecks, searched }: JobState): boolean =>
  leakChecks.length + searched.length > 0

function atTheEnd(state: JobState): OpenPoint[] {
  const points: OpenPoint[] = []
  const worked = state.transfers.length > 0 || state.holds.length > 0
  if (worked && !stepDone(state, 'caps-on')) points.push('caps')
  const opened = state.steps.some(({ step }) => step.startsWith('repair-'))
  const off = state.takenOff.some((each) => each.backAt === undefined && each.leftOff === undefined)
  // Where a list was kept, the list decides.
  if (state.takenOff.length > 0 ? off : opened && !stepDone(state, 'parts-back')) points.push('parts-back')
  if (isCharged(state) && !stepDone(state, 'label-in-panel')) points.push('label')
  return points
}
