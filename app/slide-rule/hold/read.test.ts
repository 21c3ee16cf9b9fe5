import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { PA_PER_MICRON } from '#core/units'
import { HoldTextError, readHoldText } from './read'

const read = (text: string) =>
  readHoldText(text, 'micron').map(({ atS, pressurePa }) => [atS, Math.round(pressurePa / PA_PER_MICRON)])

describe('readHoldText', () => {
  it.each([
    [
      'minutes and micron without a heading',
      '0 420\n5 600\n10 640',
      [
        [0, 420],
        [300, 600],
        [600, 640],
      ],
    ],
    [
      'a heading that names the units',
      't_s,p_micron\n0,420\n30,455',
      [
        [0, 420],
        [30, 455],
      ],
    ],
    [
      'pascals by heading',
      't_s;p_Pa\n0;66.66\n60;80',
      [
        [0, 500],
        [60, 600],
      ],
    ],
    [
      'millibars by heading, decimal comma',
      'min;mbar\n0;0,5\n1;0,6',
      [
        [0, 375],
        [60, 450],
      ],
    ],
    [
      'units beside the numbers',
      '0 s\t420 micron\n90 s\t0.8 mbar',
      [
        [0, 420],
        [90, 600],
      ],
    ],
    [
      'clock times, from the first',
      '14:00:30 410\n14:02:00 455',
      [
        [0, 410],
        [90, 455],
      ],
    ],
    [
      'minutes and seconds',
      '0:00 410\n1:30 455',
      [
        [0, 410],
        [90, 455],
      ],
    ],
    [
      'empty lines and many blanks',
      '\n 0    410 \r\n\r\n 1    455 \n',
      [
        [0, 410],
        [60, 455],
      ],
    ],
  ] as [string, string, number[][]][])('%s', (_, text, wanted) => expect(read(text)).toEqual(wanted))

  it.each([
    ['nothing', '', /Paste the readings/],
    ['one column', '420\n430', /a time and a pressure/],
    ['a time that runs back', '5 420\n3 430', /Line 2: the time does not go on/],
    ['a word for a pressure', '0 420\n1 low', /Line 2/],
    ['ambiguous thousands', '0;1,200\n1;1,300', /Line 1/],
    ['above atmosphere', '0 2000 mbar', /above atmosphere/],
    ['a day instead of a time', '2026-11-27 420', /Line 1/],
  ])('%s is refused with what to do', (_, text, sentence) => {
    expect(() => readHoldText(text, 'micron')).toThrow(HoldTextError)
    expect(() => readHoldText(text, 'micron')).toThrow(sentence)
  })

  it('takes no word for a unit that an object has by itself', () => {
    expect(() => readHoldText('0constructor 500\n5 600', 'micron')).toThrow('"0constructor" is no time')
  })
  it('reads or refuses whatever is pasted, and never faults', () => {
    const bits = fc.constantFrom(
      '0',
      '1',
      '5,5',
      '1,200',
      '-10',
      '５',
      '½',
      'mbar',
      'micron',
      ';',
      ',',
      '\t',
      ' ',
      '\n',
      ':',
      't_s',
      '"',
      'constructor',
      '\ud800',
    )
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc.array(bits, { maxLength: 40 }).map((list) => list.join('')),
        ),
        (text) => {
          try {
            const readings = readHoldText(text, 'micron')
            expect(readings[0]!.atS).toBe(0)
            expect(readings.every(({ atS, pressurePa }) => Number.isFinite(atS) && pressurePa >= 0)).toBe(
              true,
            )
          } catch (error) {
            expect(error).toBeInstanceOf(HoldTextError)
          }
        },
      ),
      { numRuns: 500 },
    )
  })
})
