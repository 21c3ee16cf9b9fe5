import { describe, expect, it } from 'vitest'
import { localTime, minutesRange } from './time'

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
