import type { Condition } from '../cylinders'
import { type Booking, place, type Place } from '../ledger'
import type { JobState, Run } from './state'

/** One standard deviation of a difference of two readings of a scale that shows 5 g, with its hose on it. */
const WEIGHED_SIGMA_MG = 10_000

/** One standard deviation of a run's amount: each scale used adds its own. */
export function runSigmaMg(run: Run): number {
  return Math.round(WEIGHED_SIGMA_MG * Math.sqrt(run.modes.length))
}

/**
 * The movements that a tape calls for. A run is booked once it has ended, or once the job stands still.
 * What comes out of a system beyond what the books had in it was there before Keg knew it: it comes from `outside`.
 * What the books still have in a system that was emptied has been lost.
 * @param systemBeforeMg what the ledger had in the system before this job; 0 where nothing is known
 */
export function bookings(state: JobState, systemBeforeMg: number): Booking[] {
  const system: Place = state.systemId ? place('system', state.systemId) : place('outside')
  const wanted: Booking[] = []
  let inSystemMg = Math.max(0, systemBeforeMg)

  for (const event of inTime(state)) {
    if ('emptied' in event) {
      if (event.emptied && state.systemId && inSystemMg > 0) {
        wanted.push(computed(state, `rest:${event.index}`, system, place('lost'), inSystemMg, event.at))
        inSystemMg = 0
      }
      continue
    }
    const { run, at } = event
    const cylinder = place('cylinder', run.cylinderId)
    const outOfSystemMg = run.use === 'recover' ? run.amountMg : -(run.amountMg - run.hoseMg)
    if (outOfSystemMg > inSystemMg && state.systemId) {
      wanted.push(
        computed(state, `before:${run.runId}`, place('outside'), system, outOfSystemMg - inSystemMg, at),
      )
      inSystemMg = outOfSystemMg
    }
    inSystemMg -= outOfSystemMg
    const key = `run:${run.runId}`
    if (outOfSystemMg > 0) wanted.push(weighed(state, run, key, system, cylinder, outOfSystemMg, at))
    if (outOfSystemMg < 0) wanted.push(weighed(state, run, key, cylinder, system, -outOfSystemMg, at))
    if (run.hoseMg > 0)
      wanted.push(weighed(state, run, `hose:${run.runId}`, cylinder, place('rig'), run.hoseMg, at))
  }
  return wanted
}

export interface CylinderEffect {
  cylinderId: string
  refrigerant?: string
  condition?: Condition
}

/**
 * What a tape says of the cylinders it used: an empty one takes the refrigerant's name, clean turns to used, a wrong
 * gas marks it mixed, and a judgement of the gas is kept. Never back to better: that is a person's decision elsewhere.
 */
export function cylinderEffects(
  state: JobState,
  cylinders: ReadonlyMap<string, { refrigerant: string | null; condition: Condition }>,
): CylinderEffect[] {
  const effects: CylinderEffect[] = []
  for (const [cylinderId, known] of cylinders) {
    const received = state.runs.some(
      (r) => r.use === 'recover' && r.cylinderId === cylinderId && r.amountMg > 0,
    )
    const effect: CylinderEffect = { cylinderId }
    let condition = known.condition
    if (received && state.refrigerant && !known.refrigerant) effect.refrigerant = state.refrigerant
    if (received) condition = worse(condition, 'used')
    if (received && state.refrigerant && known.refrigerant && known.refrigerant !== state.refrigerant)
      condition = 'mixed'
    const judged = state.gas[cylinderId]
    if (judged) condition = worse(condition, judged)
    if (condition !== known.condition) effect.condition = condition
    if (effect.refrigerant || effect.condition) effects.push(effect)
  }
  return effects
}

const WORSE: Condition[] = ['clean', 'used', 'doubtful', 'mixed']

function worse(a: Condition, b: Condition): Condition {
  return WORSE.indexOf(a) > WORSE.indexOf(b) ? a : b
}

type Event = { at: number; run: Run } | { at: number; emptied: boolean; index: number }

function inTime(state: JobState): Event[] {
  const standsStill = state.status !== 'open'
  const events: Event[] = []
  for (const run of state.runs) {
    if (run.endedAt === undefined && !standsStill) continue
    events.push({ at: run.endedAt ?? run.weighings.at(-1)!.at, run })
  }
  state.recoveryEnds.forEach((end, index) => events.push({ ...end, index }))
  // Stable: at the same time a run counts before the end of the recovery.
  return events.sort((a, b) => a.at - b.at)
}

function weighed(
  state: JobState,
  run: Run,
  key: string,
  from: Place,
  to: Place,
  massMg: number,
  at: number,
): Booking {
  return {
    key,
    from,
    to,
    massMg,
    at,
    refrigerant: state.refrigerant,
    knownBy: 'weighed',
    uncertaintyMg: runSigmaMg(run),
  }
}

function computed(state: JobState, key: string, from: Place, to: Place, massMg: number, at: number): Booking {
  return {
    key,
    from,
    to,
    massMg,
    at,
    refrigerant: state.refrigerant,
    knownBy: 'computed',
    uncertaintyMg: WEIGHED_SIGMA_MG,
  }
}
