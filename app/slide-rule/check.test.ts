// The check that runs in browsers and on the server, against the schema that documents the tools for programs.
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { METRIC_UNITS } from '#core/units'
import { check, type Issue } from './check'
import { slots } from './fields'
import { KINDS } from './kinds'
import { edgesOf, variantName } from './limits'
import { readInputs } from './read'
import { schemaOf } from './schema.server'
import type { Tool } from './tool'
import { TOOLS, toolNamed } from './tools'

/** The names that the schema stumbles over, and those that it misses. */
function bySchema(tool: Tool, given: Record<string, string | number>) {
  const { error } = schemaOf(tool).validate(given, { abortEarly: false })
  const wrong = new Set<string>()
  const missing = new Set<string>()
  for (const { type, path, context } of error?.details ?? []) {
    const key = String(path[0] ?? (context as { peers?: string[] }).peers?.[0] ?? '')
    if (type === 'any.required' || type === 'object.missing') missing.add(slotOf(tool, key))
    else wrong.add(slotOf(tool, key))
  }
  return { wrong, missing }
}

function byCheck(tool: Tool, given: Record<string, string | number>) {
  const nameOf = (issue: Issue) => ('slot' in issue ? issue.slot.name : issue.key)
  const { issues } = check(tool, given)
  return {
    wrong: new Set(issues.filter(({ what }) => what !== 'missing').map(nameOf)),
    missing: new Set(issues.filter(({ what }) => what === 'missing').map(nameOf)),
  }
}

const slotOf = (tool: Tool, key: string) =>
  slots(tool.inputs).find(
    ({ name, field }) =>
      name === key ||
      (field.type === 'measure' &&
        KINDS[field.kind!].variants.some((each) => variantName(name, each) === key)),
  )?.name ?? key

/** Something for one input of a tool: right, on the edge, beyond it, or nonsense. */
const aValue = (tool: Tool) =>
  fc.constantFrom(...slots(tool.inputs)).chain(({ name, field }) => {
    const word = fc.constantFrom(
      '',
      'R-410A',
      'R-1',
      'perhaps',
      'yes',
      'OFF',
      'True',
      '2026-02-03',
      '3.2.2026',
    )
    if (field.type !== 'measure')
      return fc.tuple(
        fc.constant(name),
        fc.oneof(word, fc.constantFrom(...(field.options ?? [['', '']])[0]!)),
      )
    return fc.constantFrom(...KINDS[field.kind!].variants).chain((variant) => {
      const [least, most] = edgesOf(field, variant, 101_325)
      const number = fc.constantFrom(least, most, (least + most) / 2, least - 1, most * 2 + 1, 12.5, -1, 0)
      const text = fc.constantFrom(
        '12,5',
        'much',
        '1e2',
        '-3',
        '+4',
        '.5',
        '5.',
        ' 7 ',
        '0x10',
        'Infinity',
        'NaN',
        '--1',
      )
      return fc.tuple(
        fc.constant(variantName(name, variant)),
        fc.oneof(number.map(String), number, text) as fc.Arbitrary<string | number>,
      )
    })
  })

const anInput = fc.constantFrom(...TOOLS).chain((tool) =>
  fc.record({
    tool: fc.constant(tool),
    given: fc
      .array(aValue(tool), { maxLength: 6 })
      .map((pairs) => Object.fromEntries(pairs) as Record<string, string | number>),
    stranger: fc.constantFrom(undefined, 'colour', 'constructor'),
  }),
)

describe('the check', () => {
  it('says of 1,000 random inputs what the schema says: which are wrong, and which are missing', () => {
    fc.assert(
      fc.property(anInput, ({ tool, given, stranger }) => {
        const all = stranger ? { ...given, [stranger]: 'x' } : given
        expect(byCheck(tool, all)).toEqual(bySchema(tool, all))
      }),
      { numRuns: 1_000 },
    )
  })
  it.each(TOOLS.map((tool) => [tool.name, tool] as const))(
    'takes the example of %s as the schema does',
    (_, tool) => {
      const read = readInputs(tool, new URLSearchParams(tool.example), {
        reading: { units: METRIC_UNITS },
        strict: false,
      })
      expect(read).toMatchObject({ errors: {}, missing: [] })
    },
  )
  it('takes choices and flags that were left out for what they usually are', () => {
    expect(check(toolNamed('leak-rate')!, { refrigerant: 'R-22', full_kg: '10' }).value).toMatchObject({
      full_kg: 10,
      hermetic: false,
    })
  })
})
