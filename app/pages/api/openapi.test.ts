// The document of the JSON interface against what is really answered.
import Ajv from 'ajv/dist/2020'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { METRIC_UNITS } from '#core/units'
import { answer, inputProblems } from '~/slide-rule/answer.server'
import { openApi } from './openapi.server'
import { problem } from '~/api/problem.server'
import { workOut } from '~/slide-rule/work-out'
import { schemaOf } from '~/slide-rule/schema.server'
import { TOOLS } from '~/slide-rule/tools'

const document = openApi('http://keg.test')
const ajv = new Ajv({ strict: false, allErrors: true })
ajv.addSchema(document, 'document')
const checkAgainst = (name: string) => ajv.getSchema(`document#/components/schemas/${name}`)!
const surroundings = {
  reading: { units: METRIC_UNITS },
  today: '2026-11-25',
  cylinders: [],
  fillMarginPct: 0,
}

interface Parameter {
  name: string
  in: string
  required: boolean
  description: string
  schema: { type: string; minimum?: number; maximum?: number; enum?: string[] }
}
const parametersOf = (name: string) =>
  (document.paths[`/api/v1/calc/${name}`]!.get.parameters as unknown as Parameter[]).filter(
    (p) => p.name !== 'units',
  )

describe.each(TOOLS.map((tool) => [tool.name, tool] as const))('%s', (name, tool) => {
  it('answers as the document says', () => {
    const done = workOut(tool, new URLSearchParams(tool.example), surroundings, true)
    expect(done.errors).toEqual({})
    const body = JSON.parse(JSON.stringify(answer(tool, { ...done, outcome: done.outcome! }))) as {
      result: Record<string, unknown>
      inputs: Record<string, unknown>
    }
    const fits = checkAgainst('Answer')
    expect(fits(body), JSON.stringify(fits.errors)).toBe(true)
    const figure = checkAgainst('Figure')
    const isFigure = (value: unknown): boolean =>
      typeof value === 'object' && value !== null && 'display' in value
    const figures = [...Object.values(body.result), ...Object.values(body.inputs)].filter(isFigure)
    expect(figures.length).toBeGreaterThan(0)
    for (const each of figures) expect(figure(each), JSON.stringify(each)).toBe(true)
  })

  it('documents every input with words and a schema, and every schema takes what it says', () => {
    const parameters = parametersOf(name)
    for (const { description, schema, in: where } of parameters) {
      expect(where).toBe('query')
      expect(description.length).toBeGreaterThan(3)
      expect(['number', 'string', 'boolean']).toContain(schema.type)
      if (schema.type === 'number') expect(schema.minimum).toBeLessThan(schema.maximum!)
    }
    const known = new Set(parameters.map((p) => p.name))
    for (const given of Object.keys(tool.example)) expect(known).toContain(given)
  })

  it('refuses in the validator what the document forbids', () => {
    const numbers = parametersOf(name).filter(({ schema }) => schema.type === 'number')
    fc.assert(
      fc.property(fc.constantFrom(...numbers), fc.boolean(), ({ name: key, schema }, above) => {
        const span = schema.maximum! - schema.minimum!
        const value = above ? schema.maximum! + 0.01 * span : schema.minimum! - 0.01 * span
        const { error } = schemaOf(tool).validate({ [key]: value }, { abortEarly: false })
        expect(error!.details.some((d) => d.path[0] === key && /number\.(min|max|unsafe)/.test(d.type))).toBe(
          true,
        )
      }),
      { numRuns: 25 },
    )
  })

  it('gives problems as the document says', async () => {
    const done = workOut(tool, new URLSearchParams({ strange: '1' }), surroundings, true)
    const errors = inputProblems(done)
    const body: unknown = await problem(422, 'These inputs have no result', errors[0]!.sentence, {
      errors,
    }).json()
    expect(checkAgainst('Problem')(body)).toBe(true)
    expect(errors.map((e) => e.name)).toContain('strange')
  })
})
