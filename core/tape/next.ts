import { HOLD_RULE, judgeHold } from '../vacuum'
import type { Verdict } from '../verdict'
import type { Stage } from './entry'
import type { Hold, JobState, Run } from './state'

/** What comes next, as a code; the interface has the words. */
export type NextStep =
  | 'describe-system'
  | 'choose-cylinder'
  | 'start-recovery'
  | 'note-weight'
  | 'end-recovery'
  | 'check-leaks'
  | 'evacuate'
  | 'hold-vacuum'
  | 'watch-hold'
  | 'set-target'
  | 'choose-charge-cylinder'
  | 'start-charge'
  | 'charge-on'
  | 'note-readings'
  | 'close-job'
  | 'wait'
  | 'nothing'

/** The usual next step: a suggestion, never a gate. */
export function nextStep(state: JobState): NextStep {
  if (state.status === 'closed' || state.status === 'cancelled') return 'nothing'
  if (state.status === 'waiting') return 'wait'

  const running = openRun(state)
  if (running) return running.use === 'recover' ? 'note-weight' : 'charge-on'
  if (state.holds.some((h) => h.endedAt === undefined)) return 'watch-hold'
  if (state.chargedMg > 0) return Object.keys(state.pressures).length > 0 ? 'close-job' : 'note-readings'
  if (!state.recoveryEnded) {
    if (state.runs.length > 0) return 'end-recovery'
    if (!state.refrigerant && !state.systemId) return 'describe-system'
    return state.chosen.some((c) => c.use === 'recover') ? 'start-recovery' : 'choose-cylinder'
  }
  if (state.leakChecks.length === 0) return 'check-leaks'
  const held = lastHoldVerdict(state)
  if (!held || held.outcome === 'bad' || held.outcome === 'open')
    return state.vacuum.length > 0 ? 'hold-vacuum' : 'evacuate'
  if (!state.target) return 'set-target'
  return state.chosen.some((c) => c.use === 'charge') ? 'start-charge' : 'choose-charge-cylinder'
}

export function openRun(state: JobState): Run | undefined {
  return state.runs.findLast((run) => run.endedAt === undefined)
}

/** Pass or fail of a hold that has readings. */
export function holdVerdict(hold: Hold): Verdict {
  return judgeHold(
    hold.readings.map((r) => ({ atS: (r.at - hold.startedAt) / 1000, pressurePa: r.pressurePa })),
    HOLD_RULE,
  )
}

export function lastHoldVerdict(state: JobState): Verdict | undefined {
  const hold = state.holds.findLast((h) => h.endedAt !== undefined)
  return hold && holdVerdict(hold)
}

export type StageProgress = 'untouched' | 'begun' | 'done'

/** How far each stage is, for the run sheet. */
export function stageProgress(state: JobState): Record<Stage, StageProgress> {
  const at = (begun: boolean, done: boolean): StageProgress => (done ? 'done' : begun ? 'begun' : 'untouched')
  const charging = state.runs.filter((r) => r.use === 'charge')
  const held = lastHoldVerdict(state)
  return {
    prepare: at(
      state.refrigerant !== null,
      state.refrigerant !== null && state.chosen.length + state.runs.length > 0,
    ),
    recover: at(
      state.runs.some((r) => r.use === 'recover'),
      state.recoveryEnded !== undefined,
    ),
    repair: at(
      state.steps.some((s) => s.startsWith('repair-')),
      state.steps.includes('repair-done'),
    ),
    'leak-test': at(state.leakChecks.length > 0, state.leakChecks.at(-1)?.found === false),
    evacuate: at(state.vacuum.length > 0, held?.outcome === 'good' || held?.outcome === 'caution'),
    oil: at(state.oil.noted, state.oil.noted && state.oil.inMl >= state.oil.outMl + state.oil.partsMl - 1e-6),
    charge: at(
      charging.length > 0 || state.target !== undefined,
      charging.length > 0 && charging.every((r) => r.endedAt !== undefined),
    ),
    verify: at(
      Object.keys(state.pressures).length > 0 && state.chargedMg > 0,
      state.verdicts.some((v) => v.about === 'readings'),
    ),
    close: at(false, state.status === 'closed'),
  }
}
