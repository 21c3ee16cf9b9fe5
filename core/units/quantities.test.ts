import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { formatLength, parseLength } from './length'
import { atmospherePa, formatPressure, formatVacuum, parsePressure, parseVacuum } from './pressure'
import { formatTemperature, formatTemperatureDifference, parseTemperature } from './temperature'
import { AmbiguousError, UnitError } from './unit-error'
import { formatVolume, parseVolume } from './volume'

describe('pressure', () => {
  it('is gauge pressure over the local atmosphere', () => {
    expect(parsePressure('0', 'psi')).toBeCloseTo(101325, 6)
    expect(parsePressure('118 psi', 'bar')).toBeCloseTo(101325 + 118 * 6894.757293, 3)
    expect(parsePressure('8,1', 'bar', atmospherePa(1500))).toBeCloseTo(atmospherePa(1500) + 810000, 3)
    expect(parsePressure('10 inHg', 'psi')).toBeCloseTo(101325 - 33863.89, 2)
    expect(parsePressure('-0.3 bar', 'psi')).toBeCloseTo(71325, 3)
    expect(parsePressure('22 psia', 'psi')).toBeCloseTo(22 * 6894.757293, 3)
  })
  it('falls with height as the standard atmosphere does', () => {
    expect(atmospherePa(0)).toBe(101325)
    expect(atmospherePa(1500) / 1e3).toBeCloseTo(84.56, 1)
  })
  it('shows inches of mercury below atmosphere in US units', () => {
    expect(formatPressure(101325 - 33863.89, 'psi')).toBe('10 inHg vacuum')
    expect(formatPressure(101325, 'psi')).toBe('0 psig')
    expect(formatPressure(71325, 'bar')).toBe('−0.30 bar g')
  })
  it('refuses what is below a perfect vacuum', () => {
    expect(() => parsePressure('-2 bar', 'bar')).toThrow(UnitError)
    expect(() => parsePressure('40 inHg', 'psi')).toThrow(/perfect vacuum/)
  })
})

describe('vacuum', () => {
  it('is absolute', () => {
    expect(parseVacuum('500', 'micron')).toBeCloseTo(66.66, 2)
    expect(parseVacuum('0.67 mbar', 'micron')).toBeCloseTo(67, 6)
    expect(parseVacuum('67', 'Pa')).toBe(67)
    expect(formatVacuum(66.66, 'micron')).toBe('500 micron')
  })
  it('has the digits of its gauge: three, and two below a hundred', () => {
    expect(formatVacuum(1.0239 * 100, 'micron')).toBe('768 micron')
    // 80.8 micron is 10.77 Pa, 9.53 is 1.27.
    expect(formatVacuum(10.77, 'micron')).toBe('81 micron')
    expect(formatVacuum(1.27, 'micron')).toBe('9.5 micron')
    // 99.7 micron is 13.29 Pa: no 1.0e+2.
    expect(formatVacuum(13.29, 'micron')).toBe('99.7 micron')
    expect(formatVacuum(66.66, 'Pa')).toBe('67 Pa')
  })
  it('refuses more than atmosphere', () => {
    expect(() => parseVacuum('2000 mbar', 'micron')).toThrow(UnitError)
  })
})

describe('temperature, length, volume', () => {
  it('reads the notations of the field', () => {
    expect(parseTemperature('31C', 'F')).toBeCloseTo(304.15, 6)
    expect(parseTemperature('-4 °F', 'C')).toBeCloseTo(253.15, 6)
    expect(parseTemperature('88', 'F')).toBeCloseTo(304.261, 3)
    expect(parseLength("25'", 'm')).toBeCloseTo(7.62, 6)
    expect(parseLength('7,5', 'm')).toBe(7.5)
    expect(parseVolume('1.2 fl oz')).toBeCloseTo(35.488, 3)
    expect(parseVolume('35')).toBe(35)
    expect(parseVolume('1.5', 'fl oz')).toBeCloseTo(44.36, 2)
  })
  it.each(['12.5', '12,5', '35 1/2', '35'])('asks whether %s of oil is ounces', (text) => {
    expect(() => parseVolume(text, 'fl oz')).toThrow(AmbiguousError)
    expect(parseVolume(`${text} fl oz`)).toBeGreaterThan(300)
  })
  it('shows them as instruments do', () => {
    expect(formatTemperature(304.15, 'F')).toBe('87.8 °F')
    expect(formatTemperatureDifference(5, 'F')).toBe('9 °F')
    expect(formatLength(7.62, 'ft')).toBe('25 ft')
    expect(formatVolume(35, 'fl oz')).toBe('1.18 fl oz')
  })
  it('refuses nonsense with a sentence, never with anything else', () => {
    for (const parse of [
      (t: string) => parsePressure(t, 'psi'),
      (t: string) => parseVacuum(t, 'micron'),
      (t: string) => parseTemperature(t, 'C'),
      (t: string) => parseLength(t, 'm'),
      (t: string) => parseVolume(t),
    ])
      fc.assert(
        fc.property(fc.string(), (text) => {
          try {
            expect(Number.isFinite(parse(text))).toBe(true)
          } catch (error) {
            expect(error).toBeInstanceOf(UnitError)
          }
        }),
      )
  })
  it('comes back through its own notation', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 200, max: 400, noNaN: true }),
        fc.constantFrom('C' as const, 'F' as const),
        (tempK, style) => {
          expect(Math.abs(parseTemperature(formatTemperature(tempK, style), 'C') - tempK)).toBeLessThan(0.06)
        },
      ),
    )
  })
})

describe('notations with several readings', () => {
  const readings = (read: () => number) => {
    try {
      return read()
    } catch (error) {
      if (error instanceof AmbiguousError) return error.readings.map((each) => each.notation)
      throw error
    }
  }
  it('offers both of a separator before three digits, in every quantity where both are possible', () => {
    expect(readings(() => parseVacuum('1,200', 'micron'))).toEqual(['1.2 micron', '1200 micron'])
    expect(readings(() => parsePressure('1,200 psi', 'bar'))).toEqual(['1.2 psi', '1200 psi'])
    expect(readings(() => parseLength('1.500', 'ft'))).toEqual(['1.5 ft', '1500 ft'])
    expect(readings(() => parseVolume('1.500'))).toEqual(['1.5 ml', '1500 ml'])
    // A bare 30 of somebody who reads ounces: 887 mL of oil, or 30?
    expect(readings(() => parseVolume('30', 'fl oz'))).toEqual(['30 mL', '30 fl oz'])
    // Of 1.500 bar and 1500 bar one is impossible, of 1.500 m and 1500 m too.
    expect(readings(() => parsePressure('1.500 bar', 'bar'))).toBeCloseTo(101325 + 150000, 6)
    expect(readings(() => parseLength('1.500 m', 'm'))).toBe(1.5)
    expect(readings(() => parseTemperature('31.500', 'C'))).toBeCloseTo(304.65, 6)
  })
  it('each reading that is offered has one reading', () => {
    for (const notation of ['1.2 micron', '1200 micron'])
      expect(readings(() => parseVacuum(notation, 'Pa'))).toBeTypeOf('number')
    for (const notation of ['-10 psi', '10 inHg'])
      expect(readings(() => parsePressure(notation, 'psi'))).toBeTypeOf('number')
  })
  it('offers psi below zero and inches of mercury for -10 on a psi gauge', () => {
    expect(readings(() => parsePressure('-10', 'psi'))).toEqual(['-10 psi', '10 inHg'])
    expect(readings(() => parsePressure('-10 psi', 'psi'))).toBeCloseTo(101325 - 68947.57293, 4)
    expect(readings(() => parsePressure('-0.3', 'bar'))).toBeCloseTo(71325, 6)
    // -20 psi would be below a perfect vacuum.
    expect(readings(() => parsePressure('-20', 'psi'))).toBeCloseTo(101325 - 20 * 3386.389, 4)
  })
  it('reads 29 inHg as a vacuum, feet with inches, and halves', () => {
    expect(parseVacuum('29 inHg', 'micron')).toBeCloseTo(101325 - 29 * 3386.389, 4)
    expect(parseVacuum('24 inHg', 'micron', atmospherePa(1500))).toBeCloseTo(
      atmospherePa(1500) - 24 * 3386.389,
      4,
    )
    expect(parseLength('25 ft 6 in', 'm')).toBeCloseTo(25.5 * 0.3048, 9)
    expect(parseLength(`25' 6"`, 'm')).toBeCloseTo(25.5 * 0.3048, 9)
    expect(parseLength('7½', 'm')).toBe(7.5)
    expect(() => parseLength('25 ft 14 in', 'm')).toThrow(/14 in is more than a foot/)
  })
})
