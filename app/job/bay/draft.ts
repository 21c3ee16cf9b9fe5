import {
  type PlannedStep,
  PROGRAMME_STEPS,
  type ProgrammeStep,
  STEP_FIGURES,
  STEP_LIMITS,
  type StepFigure,
  USUAL_STEPS,
} from '#core/programme'
import { measure, type MeasureKind, type ReadersUnits, show } from '~/base/ui/measure'

/** A programme being planned: which steps, and what stands in their fields. */
export type Draft = Record<ProgrammeStep, StepDraft>
export interface StepDraft {
  on: boolean
  texts: Partial<Record<StepFigure, string>>
  bottleId?: string
}

/** Figures that are typed; what a recovery goes down to is the rule's. */
export const TYPED: Partial<Record<StepFigure, MeasureKind | 'minutes' | 'percent'>> = {
  forS: 'minutes',
  restS: 'minutes',
  massMg: 'weight',
  volumeMl: 'volume',
  purityPct: 'percent',
}

/** @param chargeMg what is to go in, as far as it is known */
export function draftOf(
  steps: readonly PlannedStep[],
  chargeMg: number | undefined,
  reading: ReadersUnits,
): Draft {
  return Object.fromEntries(
    PROGRAMME_STEPS.map((step): [ProgrammeStep, StepDraft] => {
      const planned = steps.find((each) => each.step === step)
      const from: Omit<PlannedStep, 'step'> = { ...USUAL_STEPS[step], ...planned }
      const massMg = planned?.massMg ?? chargeMg
      const values = { ...from, ...(step === 'charge' && massMg !== undefined && { massMg }) }
      const texts = Object.fromEntries(
        STEP_FIGURES[step].flatMap((figure) => {
          const value = values[figure]
          return value === undefined ? [] : [[figure, textOf(figure, value, reading)]]
        }),
      ) as StepDraft['texts']
      return [step, { on: planned !== undefined, texts, ...(from.bottleId && { bottleId: from.bottleId }) }]
    }),
  ) as Draft
}

function textOf(figure: StepFigure, value: number, reading: ReadersUnits): string {
  const kind = TYPED[figure]
  if (kind === 'minutes') return String(Math.round(value / 6) / 10)
  if (kind === 'percent' || kind === undefined) return String(value)
  return show(kind, value, reading)
}

/** What a field reads: the figure in SI; undefined where it cannot be read, or no station does that. */
export function figureOf(figure: StepFigure, text: string, reading: ReadersUnits): number | undefined {
  const kind = TYPED[figure]
  const { least, most } = STEP_LIMITS[figure]
  const within = (value: number) => (value >= least && value <= most ? value : undefined)
  if (kind === undefined) return undefined
  if (kind === 'minutes' || kind === 'percent') {
    // One separator before exactly three digits may be either: nothing is guessed.
    if (text.trim() === '' || /[.,]\d{3}$/.test(text.trim())) return undefined
    const value = Number(text.trim().replace(',', '.'))
    if (!Number.isFinite(value)) return undefined
    return within(kind === 'minutes' ? Math.round(value * 60) : value)
  }
  const measured = measure(kind, text, reading)
  return measured.kind === 'one' ? within(measured.value) : undefined
}

/** The steps as a station is told them; `wrong` names the first figure that cannot be read. */
export function stepsOf(
  draft: Draft,
  reading: ReadersUnits,
): { steps: PlannedStep[]; wrong?: { step: ProgrammeStep; figure: StepFigure } } {
  const steps: PlannedStep[] = []
  for (const step of PROGRAMME_STEPS) {
    const { on, texts, bottleId } = draft[step]
    if (!on) continue
    const planned: PlannedStep = { step, ...USUAL_STEPS[step], ...(bottleId && { bottleId }) }
    // Oil that was not drained has not to go back.
    if (step === 'oil-in') planned.withDrained = draft['oil-out'].on
    for (const figure of STEP_FIGURES[step]) {
      if (TYPED[figure] === undefined) continue
      const value = figureOf(figure, texts[figure] ?? '', reading)
      if (value === undefined) return { steps, wrong: { step, figure } }
      planned[figure] = value
    }
    steps.push(planned)
  }
  return { steps }
}
