import { inSentence } from './in-sentence'
import type { ReadersUnits } from '~/base/ui/measure'
import { KINDS } from './kinds'
import type { Figure, Outcome } from './outcome'
import type { Given } from './read'
import type { WorkedOut } from './work-out'
import { variantName } from './limits'
import type { InputProblem } from '~/api/problem.server'
import type { Tool } from './tool'

/** A result as programs read it: SI, with display strings in the units asked for. */
export function answer(tool: Tool, { given, reading, outcome }: WorkedOut & { outcome: Outcome }) {
  const { hero, figures, judgement, data, working, uncertainty, source, caution, unknown } = outcome
  return {
    tool: tool.name,
    inputs: Object.fromEntries(
      given.filter(({ value }) => value !== undefined).map((each) => [each.name, inputJson(each, reading)]),
    ),
    result: {
      summary: `${hero.label}: ${hero.text}${hero.beside ? `, ${hero.beside}` : ''}`,
      ...Object.fromEntries(figures.map((figure) => [figure.name, figureJson(figure, reading)])),
      ...(judgement ? { verdict: judgement } : {}),
      ...data,
    },
    working: working.map(({ what, put, gives }) => ({ what, how: put, gives })),
    uncertainty,
    source,
    caution,
    unknown,
  }
}

function inputJson({ field, value, assumed }: Given, reading: ReadersUnits) {
  if (typeof value !== 'number') return value
  const { si, show } = KINDS[field.kind!]
  return { value, unit: si, display: show(value, reading), ...(assumed ? { assumed } : {}) }
}

function figureJson({ kind, value, range }: Figure, reading: ReadersUnits) {
  const { si, show } = KINDS[kind]
  return { value, unit: si, display: show(value, reading), ...(range ? { range } : {}) }
}

/** Why there is no result: a sentence on each input. */
export function inputProblems({ errors, missing }: WorkedOut): InputProblem[] {
  return [
    ...Object.entries(errors).map(([name, sentence]) => ({ name, sentence })),
    ...missing.map(({ name, field }) => ({
      name,
      sentence:
        field.type === 'measure'
          ? `Enter ${inSentence(field.label)}: as one of ${KINDS[field.kind!].variants.map((v) => variantName(name, v)).join(', ')}.`
          : `Enter ${name}: ${inSentence(field.label)}.`,
    })),
  ]
}
