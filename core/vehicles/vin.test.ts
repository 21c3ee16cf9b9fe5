import { describe, expect, it } from 'vitest'
import { readVin } from '.'

describe('readVin', () => {
  it('seventeen ones are right: 89 in all, 1 over eight elevens', () => {
    expect(readVin('11111111111111111')).toEqual({ kind: 'checked', vin: '11111111111111111' })
  })
  it('by hand: a made-up tractor', () => {
    // K2 E5 G7 0 0 0 0 1 _ 0 0 0 0 0 0 0 7: 2*8 + 5*7 + 7*6 + 1*10 + 7*2 = 117, 7 over ten elevens.
    expect(readVin('KEG00001700000007').kind).toBe('checked')
    expect(readVin('KEG00001600000007')).toMatchObject({ kind: 'unchecked', shouldBe: '7' })
  })
  it('ten over is an X', () => {
    // 1*8 + 1*2 = 10.
    expect(readVin('10000000X00000001')).toMatchObject({ kind: 'checked' })
  })
  it('spaces, dashes and small letters do no harm', () => {
    expect(readVin(' keg0000-17 00000007')).toMatchObject({ kind: 'checked', vin: 'KEG00001700000007' })
  })
  it.each([
    ['KEG0000170000000', 'length'],
    ['', 'length'],
    ['KEG0000170000000O', 'letters'],
    ['KEG00001700000007;', 'letters'],
  ] as const)('%s: %s', (typed, why) => expect(readVin(typed)).toEqual({ kind: 'malformed', why }))
  it('every slip of one digit is seen', () => {
    const right = 'KEG00001700000007'
    for (let i = 0; i < 17; i++)
      for (const digit of '0123456789')
        if (i !== 8 && /\d/.test(right[i]!) && digit !== right[i])
          expect(readVin(right.slice(0, i) + digit + right.slice(i + 1)).kind).toBe('unchecked')
  })
})
