import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { METRIC_UNITS, UnitError, US_UNITS } from '#core/units'
import type { ReadersUnits } from '~/base/ui/measure'
import { KINDS, type KindName, typedText, withUnit } from './kinds'

const names = Object.keys(KINDS) as KindName[]
const readers: [string, ReadersUnits][] = [
  ['metric', { units: METRIC_UNITS }],
  ['US', { units: US_UNITS }],
  ['metric on a mountain', { units: METRIC_UNITS, atmospherePa: 80_000 }],
]

describe.each(names)('%s', (name) => {
  const kind = KINDS[name]
  const [least, most] = kind.limits

  it('goes through every way in which programs give it, and back', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...kind.variants),
        fc.double({ min: least, max: most, noNaN: true }),
        fc.constantFrom(101_325, 80_000),
        (variant, value, atmospherePa) => {
          const back = variant.toSi(variant.fromSi(value, atmospherePa), atmospherePa)
          expect(Math.abs(back - value)).toBeLessThanOrEqual(
            1e-9 * Math.max(1, Math.abs(value), atmospherePa),
          )
        },
      ),
      { numRuns: 30 },
    )
  })

  it.each(readers)('reads what it shows, %s', (_who, reading) => {
    fc.assert(
      fc.property(fc.double({ min: 0.05, max: 0.9, noNaN: true }), (share) => {
        // Somewhere in the middle of what such a number usually is.
        const value = USUAL[name][0] + share * (USUAL[name][1] - USUAL[name][0])
        const again = kind.read(typedText(name, value, reading), reading)
        expect(Math.abs(again - value)).toBeLessThanOrEqual(0.006 * (USUAL[name][1] - USUAL[name][0]))
      }),
      { numRuns: 30 },
    )
  })

  it.each(readers)('takes a bare number in the unit beside the field, %s', (_who, reading) => {
    expect(kind.read(withUnit(name, '12', reading), reading)).toBe(kind.read('12', reading))
    expect(withUnit(name, ' 12 ', reading)).toBe(`12 ${kind.beside(reading)}`.trim())
    expect(withUnit(name, 'twelve', reading)).toBe('twelve')
    expect(withUnit(name, '', reading)).toBe('')
  })

  it('refuses what it cannot read with a sentence that shows how', () => {
    for (const text of ['', 'cold', '12 furlongs', '1.2.3', '--4'])
      expect(() => kind.read(text, readers[0]![1])).toThrow(UnitError)
    expect(() => kind.read('12 furlongs', readers[0]![1])).toThrow(/[.!]$/)
  })
})

/** From and to, in SI, where the shown digits are those of an instrument. */
const USUAL: Record<KindName, [from: number, to: number]> = {
  weight: [0, 40],
  pressure: [2e5, 4e6],
  vacuum: [20, 5_000],
  temperature: [240, 340],
  length: [0, 60],
  oil: [0, 400],
  bore: [1e-3, 3e-2],
  height: [0, 3000],
  capacity: [1e-3, 0.1],
  room: [5, 400],
  area: [2, 200],
  flow: [5e-4, 1e-2],
  duration: [60, 7200],
  days: [1, 900],
  difference: [1, 30],
  'pressure-difference': [1e3, 1e6],
  density: [2, 1400],
  share: [0, 1],
  current: [0, 30],
  voltage: [0, 400],
  number: [0, 1000],
}
