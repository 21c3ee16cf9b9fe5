import { describe, expect, it } from 'vitest'
import { clockTime, day, duration, localTime, minutesRange, plainDay } from './time'

describe('times', () => {
  it("are the shop's, whatever the device is set to", () => {
    const at = Date.UTC(2026, 10, 24, 23, 30)
    expect([clockTime(at, 'Europe/Lisbon'), day(at, 'Europe/Lisbon')]).toEqual(['23:30', '24 Nov 2026'])
    expect([clockTime(at, 'Asia/Tokyo'), day(at, 'Asia/Tokyo')]).toEqual(['08:30', '25 Nov 2026'])
    expect(plainDay('2026-03-01')).toBe('1 Mar 2026')
    expect([5, 65, 725, 4200].map(duration)).toEqual(['5 s', '1 min 05 s', '12 min 05 s', '1 h 10 min'])
  })
})

describe('a time to come as a range', () => {
  it.each([
    [240, 660, '4 to 11 min'],
    [125, 130, '2 to 3 min'],
    [120, 120, '2 min'],
    [-30, 90, 'less than 2 min'],
    [-200, -100, 'less than 1 min'],
    [720, Infinity, '12 min or more'],
    [0, Infinity, '1 min or more'],
  ])('%s to %s s', (least, most, words) => expect(minutesRange(least, most)).toBe(words))
})

it('local time for other programs follows the zone, and its summer', () => {
  expect(localTime(Date.UTC(2026, 0, 1, 23, 30), 'Europe/Berlin')).toBe('2026-01-02 00:30')
  expect(localTime(Date.UTC(2026, 6, 1, 22, 5), 'Europe/Berlin')).toBe('2026-07-02 00:05')
})
