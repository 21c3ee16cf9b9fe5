import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { formatLinear, type LinearKind, METRIC_UNITS, parseLinear, UnitError, US_UNITS, usualUnit } from '.'

describe('parseLinear', () => {
  it.each([
    ['bore', '3/8 in', 'mm', 0.009525],
    ['bore', '8', 'mm', 0.008],
    ['capacity', '14', 'L', 0.014],
    ['capacity', '0,5 ft3', 'L', 0.01415842],
    ['room', '60', 'm3', 60],
    ['flow', '6 cfm', 'L/s', 0.0028316844],
    ['duration', '1.5 h', 'min', 5400],
    ['days', '2 years', 'days', 730],
    ['duration', '1 hr', 'min', 3600],
    ['duration', '2 hrs', 'min', 7200],
    ['area', '130 sq ft', 'm2', 12.0773952],
    ['area', '130 ft²', 'm2', 12.0773952],
    ['difference', '9 °F', 'K', 5],
    ['difference', '-2', 'K', -2],
    ['pressure-difference', '1 psi', 'bar', 6894.757293],
    ['share', '20', '%', 0.2],
    ['number', '3', '', 3],
  ] as const)('%s: "%s"', (kind, text, bare, wanted) => {
    expect(parseLinear(kind, text, bare)).toBeCloseTo(wanted, 7)
  })
  it.each(['', 'a few', '3 stone', '1/0 mm', '1 2 3'])('refuses "%s" with an example', (text) => {
    expect(() => parseLinear('bore', text, 'mm')).toThrow(UnitError)
  })
  it('reads back what it writes', () => {
    const kinds = ['bore', 'capacity', 'flow', 'difference', 'pressure-difference'] as LinearKind[]
    fc.assert(
      fc.property(
        fc.constantFrom(...kinds),
        fc.constantFrom(METRIC_UNITS, US_UNITS),
        fc.double({ min: 0.01, max: 500, noNaN: true }),
        (kind, style, inUnits) => {
          const unit = usualUnit(kind, style)
          const value = parseLinear(kind, String(inUnits.toFixed(2)), unit)
          expect(parseLinear(kind, formatLinear(kind, value, unit, 9), '') / value).toBeCloseTo(1, 6)
        },
      ),
    )
  })
  it('shows no more digits than a gauge or a clamp has', () => {
    // 7410 Pa: a gauge good to 0.1 bar does not say 0.0741.
    expect(formatLinear('pressure-difference', 7_410, 'bar')).toBe('0.07 bar')
    expect(formatLinear('pressure-difference', 123_456, 'bar')).toBe('1.23 bar')
    expect(formatLinear('pressure-difference', 7_410, 'psi')).toBe('1.1 psi')
    expect(formatLinear('pressure-difference', 300, 'bar')).toBe('0.003 bar')
    expect(formatLinear('difference', 0.577, 'K')).toBe('0.6 K')
  })
})
