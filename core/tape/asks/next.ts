import { CHAPTERS } from '../folding/chapters'
import { asFound, gasUnaccounted, NOTHING_KNOWN, type Reference } from '../mass/in-system'
import { type JobState, type Stage, type StageProgress, STAGES } from '../envelope/state'

/** What comes next, as a code; the interface has the words. */
export type NextStep =
  | 'give-a-hand'
  | 'programme-runs'
  | 'describe-system'
  | 'choose-cylinder'
  /** Nobody sends a hand to recover what another job has taken out already. */
  | 'say-it-is-empty'
  | 'start-recovery'
  | 'note-weight'
  | 'next-cylinder'
  | 'end-recovery'
  | 'pull-again'
  | 'account-for-gas'
  | 'repair'
  | 'change-gas'
  | 'check-leaks'
  | 'evacuate'
  | 'hold-vacuum'
  | 'watch-hold'
  | 'pump-on-or-find-leak'
  | 'set-target'
  | 'choose-charge-cylinder'
  | 'start-charge'
  | 'charge-on'
  | 'go-on-charging'
  | 'open-valves'
  | 'note-readings'
  | 'close-job'
  | 'wait'
  | 'nothing'

/**
 * The usual next step: a suggestion, never a gate. What is under way comes first, then gas that nobody has accounted for, then
 * the chapters in their order.
 * @param reference what should have been in the system; null: nobody knows
 */
export function nextStep(state: JobState, reference: Reference = NOTHING_KNOWN): NextStep {
  for (const { underWay } of CHAPTERS) {
    const step = underWay?.(state)
    if (step) return step
  }
  if (gasUnaccounted(state, reference)) return 'account-for-gas'
  for (const { next } of CHAPTERS) {
    const step = next?.(state)
    if (step === 'choose-cylinder' && asFound(reference)?.weighed.massMg === 0) return 'say-it-is-empty'
    if (step) return step
  }
  return 'close-job'
}

/** How far each stage is, for the run sheet. */
export function stageProgress(state: JobState): Record<Stage, StageProgress> {
  const progress = Object.assign({}, ...CHAPTERS.map((chapter) => chapter.progress)) as Partial<
    Record<Stage, (state: JobState) => StageProgress>
  >
  return Object.fromEntries(
    STAGES.map((stage) => [stage, progress[stage]?.(state) ?? 'untouched']),
  ) as Record<Stage, StageProgress>
}
