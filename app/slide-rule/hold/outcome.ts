import { PA_PER_MICRON } from '#core/units'
import { judgeVacuum, onCurve, type VacuumGiven, type VacuumJudgement } from '#core/vacuum'
import type { ReadersUnits } from '~/base/ui/measure'
import { duration } from '~/base/ui/time'
import { ruleText } from '~/words/verdict/said'
import { VERDICT_REASONS, VERDICT_WORDS, wordOf } from '~/words/en'
import { KINDS } from '../kinds'
import type { Chart, Step } from '../outcome'
import { LOCAL_RULES } from '../tool'

export const HOLD_TOOL = {
  name: 'vacuum-hold',
  title: 'Vacuum hold',
  question: 'The gauge rose: is it tight and dry, wet, leaking, both, or too soon to tell?',
}

/** A hold judged, with its working: the same for the page and for programs. */
export interface JudgedHold {
  judgement: VacuumJudgement
  working: Step[]
  uncertainty: string[]
  source: string[]
  caution: string[]
  chart: Chart
}

export function judgedHold(given: VacuumGiven, reading: ReadersUnits): JudgedHold {
  const judgement = judgeVacuum(given)
  const { cause, verdict } = judgement
  const vacuum = (micron: number) => KINDS.vacuum.show(micron * PA_PER_MICRON, reading)
  const scale = reading.units.vacuum === 'micron' ? PA_PER_MICRON : 1
  const working: Step[] = [
    {
      what: 'Pass or fail',
      put: 'reached 500 micron, valved off, below 1000 micron for at least 10 min',
      gives: wordOf(VERDICT_WORDS, verdict.code),
    },
  ]
  if (cause) {
    const { curve, points } = cause
    working.push(
      {
        what: 'Points',
        put: `${given.readings.length} readings, averaged over 30 s where there are many`,
        gives: `${points.length} points over ${duration(points.at(-1)!.atS)}`,
      },
      {
        what: 'Curve',
        put: 'p(t) = p₀ + A₁(1 − e^(−t/τ₁)) + A₂(1 − e^(−t/τ₂)) + s·t, nothing below zero, best of 192 pairs of time constants',
        gives: `p₀ ${vacuum(curve.startMicron)}`,
      },
      {
        what: 'Gives off gas fast, slowly',
        put: `A₁ within τ₁ ${duration(curve.fastS)}, A₂ within τ₂ ${duration(curve.slowS)}`,
        gives: `${vacuum(curve.fastMicron)}, ${vacuum(curve.slowMicron)}`,
      },
      {
        what: 'Slope',
        put: 'micron a minute that stay, and between what they lie',
        gives: `${rounded(60 * curve.slope)} (${rounded(60 * cause.slope.least)} to ${rounded(60 * cause.slope.most)})`,
      },
      {
        what: 'Leak',
        put: 'how much worse the fit gets without a slope, and with one of 10 micron a minute or more',
        gives: judgement.leak,
      },
      {
        what: 'Water',
        put: 'how much worse the fit gets with outgassing of at most 220 micron, and with water of at least 330 micron in half an hour',
        gives: judgement.moisture,
      },
    )
  }
  return {
    judgement,
    working,
    uncertainty: [
      'A gauge within 0.6 % of itself from point to point; readings typed by hand 1 %. The air around within 0.6 K in half an hour.',
      'An answer is given only where the other one fits worse by ten times its own misfit or more; otherwise it stays open.',
    ],
    source: [
      ruleText(verdict.rule, reading),
      'Measured on generated holds: ./keg bench vacuum prints how often each answer is right. Plausible, not validated against measurements.',
    ],
    caution: [
      'A leak below what this hold could have seen stays hidden: a pressure test finds finer ones.',
      LOCAL_RULES,
    ],
    chart: {
      title: 'Readings and fitted curve',
      x: { name: 'Time', unit: 'min' },
      y: { name: 'Pressure', unit: reading.units.vacuum },
      lines: [
        {
          name: 'read',
          points: (cause?.points ?? []).map(({ atS, micron }) => [
            atS / 60,
            (micron * PA_PER_MICRON) / scale,
          ]),
        },
        ...(cause
          ? [
              {
                name: 'fitted',
                points: cause.points.map(({ atS }): [number, number] => [
                  atS / 60,
                  (onCurve(cause.curve, atS) * PA_PER_MICRON) / scale,
                ]),
              },
            ]
          : []),
      ],
      marks: [],
    },
  }
}

const rounded = (value: number) => Number(value.toPrecision(2))

/** The reasons of a judgement in words. */
export const reasonsOf = ({ verdict }: VacuumJudgement): string[] =>
  verdict.reasons.map(({ code }) => wordOf(VERDICT_REASONS, code))
