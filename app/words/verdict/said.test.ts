import { describe, expect, it } from 'vitest'
import { METRIC_UNITS, US_UNITS } from '#core/units'
import { quantityText, reasonText, ruleText } from './said'

describe('the rule of a verdict', () => {
  const reading = { units: METRIC_UNITS }
  it('has the figures that it was judged by, in the reader’s units', () => {
    const atLeast = { name: 'at-least', value: 300, unit: 's' } as const
    expect(ruleText({ code: 'hold-on-manifold', numbers: [atLeast] }, reading)).toMatch(/in at least 5 min$/)
    expect(reasonText({ code: 'hold-longer', numbers: [atLeast] }, reading)).toBe('Hold for at least 5 min.')
  })
  it('of a tape from before says what stands there, and of a figure that is not known nothing', () => {
    expect(ruleText({ code: 'in-words', words: 'as it was' }, reading)).toBe('as it was')
    expect(ruleText({ code: 'hold-on-manifold' }, reading)).toMatch(/at least …$/)
    expect(reasonText({ code: 'hold-longer' }, reading)).toBe('Hold longer.')
  })
})

describe('quantityText', () => {
  it("shows a number in the reader's units, with two standard deviations where it is an estimate", () => {
    const recovered = { name: 'recovered', value: 2.95, unit: 'kg', sigma: 0.015 } as const
    expect(quantityText(recovered, { units: METRIC_UNITS })).toBe('2.950 kg ± 30 g')
    expect(quantityText(recovered, { units: US_UNITS })).toBe('6 lb 8 oz ± 1.05 oz')
    expect(quantityText({ name: 'end', value: 64, unit: 'Pa' }, { units: METRIC_UNITS })).toBe('480 micron')
    expect(quantityText({ name: 'variance', value: -0.052, unit: 'share' }, { units: METRIC_UNITS })).toBe(
      '−5.2 %',
    )
  })
})
