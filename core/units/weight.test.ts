import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { echoWeight, formatRate, formatWeight, oneWeight, parseWeight, plateWeight } from './weight'
import { AmbiguousError, UnitError } from './unit-error'

describe('parseWeight', () => {
  it.each([
    ['3 lb 9 oz', 1615923],
    ['3lb9', 1615923],
    ['3# 9', 1615923],
    ['3 LBS 9 oz', 1615923],
    ['3.56 lb', 1614789],
    ['57 oz', 1615923],
    ['0.75 kg', 750000],
    ['0,75 kg', 750000],
    ['.75kg', 750000],
    ['750 g', 750000],
    ['4 1/2 oz', 127573],
    ['-2 lb 4 oz', -1020583],
    ['−500 g', -500000],
  ])('reads %s', (text, massMg) => {
    expect(parseWeight(text)).toEqual({ kind: 'one', massMg })
  })

  it('takes a bare number in the unit beside the field', () => {
    expect(parseWeight('12.5', 'lb')).toEqual({ kind: 'one', massMg: 5669905 })
    expect(parseWeight('12,5', 'kg')).toEqual({ kind: 'one', massMg: 12500000 })
  })

  it('offers the readings of 3-9, whatever the unit beside the field', () => {
    const parse = parseWeight('3-9', 'kg')
    expect(parse.kind === 'choose' && parse.readings.map((r) => r.notation)).toEqual([
      '3 lb 9 oz',
      '3.9 lb',
      '3.9 kg',
    ])
  })

  it('offers the likely readings of a bare number without a unit', () => {
    const parse = parseWeight('750')
    expect(parse.kind === 'choose' && parse.readings.map((r) => r.notation)).toEqual(['750 g', '750 oz'])
  })

  it('asks about a comma that may part thousands of grams', () => {
    const parse = parseWeight('1,250 g')
    expect(parse.kind === 'choose' && parse.readings.map((r) => r.massMg)).toEqual([1250, 1250000])
  })

  it.each(['', 'abc', '3 lb 18 oz', '3.5 lb 4 oz', '1/0 lb', '12 stone', 'NaN', '1e9 kg', '99999999999 kg'])(
    'refuses %j with a sentence',
    (text) => {
      expect(() => parseWeight(text)).toThrow(UnitError)
    },
  )

  it('names the readings when one is wanted', () => {
    expect(() => oneWeight('3-9')).toThrow(/3 lb 9 oz or 3.9 lb or 3.9 kg/)
  })

  it('never throws anything but a UnitError, whatever is typed', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        try {
          parseWeight(text)
        } catch (error) {
          expect(error).toBeInstanceOf(UnitError)
        }
      }),
    )
  })
})

describe('formatWeight', () => {
  it('shows what a scale shows', () => {
    expect(formatWeight(1615923, 'lb-oz')).toBe('3 lb 9 oz')
    expect(formatWeight(1632933, 'lb-oz')).toBe('3 lb 9.5 oz')
    expect(formatWeight(1632933, 'kg')).toBe('1.635 kg')
    expect(formatWeight(0, 'kg')).toBe('0 g')
    expect(formatWeight(-226796, 'lb-oz')).toBe('−8 oz')
  })

  it('comes back within half a step, in either style', () => {
    fc.assert(
      fc.property(fc.integer({ min: -90_000_000, max: 90_000_000 }), (massMg) => {
        expect(Math.abs(oneWeight(formatWeight(massMg, 'lb-oz')) - massMg)).toBeLessThanOrEqual(3545)
        expect(Math.abs(oneWeight(formatWeight(massMg, 'kg')) - massMg)).toBeLessThanOrEqual(2501)
      }),
    )
  })
})

describe('echoWeight', () => {
  it('sets decimal pounds beside pounds and ounces', () => {
    expect(echoWeight(oneWeight('3.6 lb'))).toBe('3.6 lb = 3 lb 9.6 oz = 1.633 kg')
    expect(echoWeight(oneWeight('3 lb 6 oz'))).toBe('3.375 lb = 3 lb 6 oz = 1.531 kg')
  })

  it('has one value in all its notations', () => {
    fc.assert(
      fc.property(fc.integer({ min: 100_000, max: 90_000_000 }), (massMg) => {
        for (const part of echoWeight(massMg).split(' = ')) {
          const parse = parseWeight(part)
          // Three decimals of a pound look like thousands: one of the readings is meant.
          const readings = parse.kind === 'one' ? [parse] : parse.readings
          expect(Math.min(...readings.map((each) => Math.abs(each.massMg - massMg)))).toBeLessThan(1_500)
        }
      }),
    )
  })
})

describe('formatWeight', () => {
  it('follows the scale: 5 g or quarter ounces, finer for small charges', () => {
    expect(formatWeight(3_002_400, 'kg')).toBe('3.000 kg')
    expect(formatWeight(58_000, 'kg')).toBe('58 g')
    expect(formatWeight(58_000, 'lb-oz')).toBe('2.05 oz')
    expect(formatWeight(1_605_000, 'lb-oz')).toBe('3 lb 8.5 oz')
    expect(formatWeight(-385_000, 'kg')).toBe('−385 g')
  })
})

describe('how fast a weight moves', () => {
  it.each([
    // 100 g in 5.97 s are 1.005 kg a minute: a scale of 5 g knows it to a tenth.
    [0.1 / 5.97, 'kg', '1.0 kg/min'],
    [0.0014, 'kg', '84 g/min'],
    [0.00826, 'kg', '500 g/min'],
    [0.0166, 'kg', '1.0 kg/min'],
    [-0.002, 'kg', '−120 g/min'],
    [2, 'kg', '120 kg/min'],
    [0.0000023, 'kg', '0 g/min'],
    [0, 'kg', '0 g/min'],
    // 0.0014 kg/s are 84 g, 2.963 oz; 1.5 kg are 3.307 lb.
    [0.0014, 'lb-oz', '3.0 oz/min'],
    [0.025, 'lb-oz', '3.3 lb/min'],
  ] as const)('%f kg/s in %s: %s', (kgPerS, style, text) => {
    expect(formatRate(kgPerS, style)).toBe(text)
  })
})

describe('a separator before three digits', () => {
  const notations = (text: string, unit?: 'lb' | 'kg' | 'g') => {
    const parse = parseWeight(text, unit)
    return parse.kind === 'one' ? parse.massMg : parse.readings.map((each) => each.notation)
  }
  it('has two readings, never silently one', () => {
    expect(notations('1,200 g')).toEqual(['1.2 g', '1200 g'])
    expect(notations('1.500 lb')).toEqual(['1.5 lb', '1500 lb'])
    expect(notations('1,500', 'lb')).toEqual(['1.5 lb', '1500 lb'])
    expect(notations('1.234 lb')).toEqual(['1.2340 lb', '1234 lb'])
    expect(notations('1.2340 lb')).toBe(559_733)
    expect(notations('1,200 kg')).toEqual(['1.2 kg', '1200 kg'])
  })
  it('has one on a scale in kilograms, with a leading zero, or with thousands and a decimal', () => {
    expect(notations('14.250', 'kg')).toBe(14_250_000)
    expect(notations('0.500 lb')).toBe(226_796)
    expect(notations('1,234.5 g')).toBe(1_234_500)
    expect(notations('1.234,5 g')).toBe(1_234_500)
    expect(notations('1,234,567 g')).toBe(1_234_567_000)
  })
  it('reads fractions and other digits, and refuses with a sentence what is none', () => {
    expect(notations('3½ lb')).toBe(Math.round(3.5 * 453_592.37))
    expect(notations('½ lb')).toBe(Math.round(0.5 * 453_592.37))
    expect(notations('１２.５ kg')).toBe(12_500_000)
    expect(() => parseWeight('3-19.5')).toThrow(/19.5 oz is more than a pound/)
    expect(() => parseWeight('1 200 g')).toThrow(/has a space in the number: write 1200/)
  })
})

describe('a charge on a plate', () => {
  const readings = (text: string, unit?: 'lb' | 'kg') => {
    try {
      return plateWeight(text, unit)
    } catch (error) {
      return (error as AmbiguousError).readings.map(({ notation, value }) => [notation, value])
    }
  }
  it('with one decimal of a pound asks: tenths or ounces?', () => {
    // 3.6 lb = 1632.93 g; 3 lb 6 oz = 1530.87 g.
    const both = [
      ['3.60 lb', 1_632_933],
      ['3 lb 6 oz', 1_530_874],
    ]
    expect(readings('3.6 lb')).toEqual(both)
    expect(readings('3,6', 'lb')).toEqual(both)
    expect(readings('3.6#')).toEqual(both)
  })
  it('with two decimals that may be ounces asks as well', () => {
    // 3.12 lb = 1415.21 g; 3 lb 12 oz = 1700.97 g.
    expect(readings('3.12 lb')).toEqual([
      ['3.1200 lb', 1_415_208],
      ['3 lb 12 oz', 1_700_971],
    ])
    expect(readings('3.1200 lb')).toBe(1_415_208)
    expect(readings('3.16 lb')).toBe(1_433_352)
    expect(readings('3.56 lb')).toBe(1_614_789)
  })
  it('is read at once where it says which, and in kilograms', () => {
    expect(readings('3.60 lb')).toBe(1_632_933)
    expect(readings('3 lb 6 oz')).toBe(1_530_874)
    expect(readings('3.0 lb')).toBe(1_360_777)
    expect(readings('3.6', 'kg')).toBe(3_600_000)
    expect(readings('3.6 kg', 'lb')).toBe(3_600_000)
  })
})
