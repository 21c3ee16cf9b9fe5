import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { METRIC_UNITS, US_UNITS } from '#core/units'
import { measure, type MeasureKind, typed } from './measure'

const us = { units: US_UNITS }
const metric = { units: METRIC_UNITS }

describe('measure', () => {
  it('reads a bare number in the unit beside the field, and echoes the other notation', () => {
    expect(measure('weight', '3.6', us)).toMatchObject({ echo: '3.6 lb = 3 lb 9.6 oz = 1.633 kg' })
    expect(measure('weight', '3.6', metric)).toMatchObject({ value: 3_600_000 })
    expect(measure('pressure', '0', us)).toMatchObject({ value: 101_325 })
    expect(measure('vacuum', '480', us)).toMatchObject({ echo: '480 micron = 64 Pa' })
    expect(measure('temperature', '88', us)).toMatchObject({ echo: '88 °F = 31.1 °C' })
  })
  it('offers the readings of what is ambiguous, and says what is wrong', () => {
    expect(measure('weight', '3-9', us)).toMatchObject({ kind: 'choose' })
    expect(measure('weight', 'lots', us)).toMatchObject({ kind: 'wrong' })
    expect(measure('weight', ' ', us)).toEqual({ kind: 'empty' })
  })
  it('uses the atmosphere of the place', () => {
    expect(measure('pressure', '0', { ...metric, atmospherePa: 80_000 })).toMatchObject({ value: 80_000 })
  })
})

describe('typed', () => {
  const ranges: [MeasureKind, number, number, number][] = [
    ['weight', 0, 120_000_000, 500],
    ['pressure', 2_000, 4_000_000, 4_000],
    ['vacuum', 1, 100_000, 600],
    ['temperature', 230, 380, 0.06],
    ['volume', 0, 5_000, 0.2],
    ['length', 0, 300, 0.02],
  ]
  it.each(ranges)('%s can be put back into its field', (kind, min, max, step) => {
    fc.assert(
      fc.property(fc.double({ min, max, noNaN: true }), fc.constantFrom(us, metric), (value, reading) => {
        const back = measure(kind, typed(kind, value, reading), reading)
        expect(back.kind).toBe('one')
        expect(Math.abs((back as { value: number }).value - value)).toBeLessThanOrEqual(step)
      }),
    )
  })
  it.each([
    [480, '480 g'],
    [750, '750 g'],
    // 29.2 lb: no whole grams, so nobody read it in grams.
    [13_244.897, '29 lb 3.2 oz'],
    [1_247.38, '2 lb 12 oz'],
    [1_250, '1.250 kg'],
    [453.592, '1 lb 0 oz'],
  ])('keeps the words of a plate of %d g', (grams, words) => {
    expect(typed('weight', grams * 1_000, us)).toBe(words)
  })
  it('is empty for nothing', () => {
    expect(typed('weight', null, us)).toBe('')
  })
})
