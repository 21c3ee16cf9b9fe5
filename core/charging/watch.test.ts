import { describe, expect, it } from 'vitest'
import {
  type Charging,
  handLag,
  meteringLimitPa,
  needleOf,
  scaleForCharge,
  UNKNOWN_LAG,
  warmWater,
  watchCharge,
  watchMetering,
  wayIn,
} from '.'
import { tableOf } from '../refrigerants'

/** A second apart, at 10 g/s, up to so many kg. */
const flowing = (toKg: number, kgPerS = 0.01, seconds = 60) =>
  Array.from({ length: seconds + 1 }, (_, i) => ({ atS: i, value: toKg - kgPerS * (seconds - i) }))
const charging = (over: Partial<Charging>): Charging => ({
  out: flowing(1),
  nowS: 60,
  wantedKg: 3,
  toleranceKg: 0.03,
  divisionKg: 0.005,
  lag: { seconds: 2, from: 7 },
  ...over,
})
const code = (over: Partial<Charging>) => watchCharge(charging(over)).code

describe('watchCharge', () => {
  it('says how long it still takes at this rate', () => {
    // 2 kg at 10 g/s.
    const state = watchCharge(charging({}))
    expect(state.code).toBe('flowing')
    expect(state).toMatchObject({ leftKg: 2 })
    expect((state as { inS: number }).inS).toBeCloseTo(200, 6)
  })
  it('calls a hand to the valve, and early by what the hand takes', () => {
    // 10 g/s: 20 g in the two seconds of the hand, 170 g in seventeen.
    expect(code({ wantedKg: 1.18 })).toBe('flowing')
    expect(code({ wantedKg: 1.16 })).toBe('soon')
    expect(code({ wantedKg: 1.021 })).toBe('soon')
    expect(code({ wantedKg: 1.019 })).toBe('close-now')
    // A slower hand is called sooner.
    expect(code({ wantedKg: 1.04, lag: { seconds: 5, from: 4 } })).toBe('close-now')
  })
  it('reached, and over only beyond the tolerance', () => {
    expect(code({ wantedKg: 1.002 })).toBe('reached')
    expect(code({ wantedKg: 0.98 })).toBe('reached')
    expect(code({ wantedKg: 0.97 - 0.001 })).toBe('over')
  })
  it('standing still is not the target', () => {
    const stood = [...flowing(1), ...Array.from({ length: 45 }, (_, i) => ({ atS: 61 + i, value: 1 }))]
    expect(watchCharge(charging({ out: stood, nowS: 105 }))).toMatchObject({ code: 'stands', leftKg: 2 })
    expect(code({ out: stood.slice(0, 80), nowS: 79 })).toBe('flowing')
  })
  it('closed a little early, within the tolerance, it is there', () => {
    const stood = [...flowing(1), ...Array.from({ length: 45 }, (_, i) => ({ atS: 61 + i, value: 1 }))]
    expect(code({ out: stood, nowS: 105, wantedKg: 1.02 })).toBe('reached')
    expect(code({ out: stood, nowS: 105, wantedKg: 1.04 })).toBe('stands')
  })
  it('a cylinder that gains is said to', () => {
    expect(code({ out: flowing(1, -0.01) })).toBe('back')
  })
  it('without a target there is a rate, and no call', () => {
    expect(watchCharge(charging({ wantedKg: undefined }))).toMatchObject({ code: 'flowing' })
  })
  it('two weights typed within a moment tell no rate, and an old one calls nobody', () => {
    const typed = (atS: number) => [
      { atS: 0, value: 0 },
      { atS, value: 0.9 },
    ]
    expect(code({ out: typed(0.5), nowS: 1 })).toBe('too-few')
    expect(code({ out: typed(60), nowS: 61 })).toBe('flowing')
    // 15 g/s: the rest would be in after 140 s; nobody has looked for as long.
    expect(code({ out: typed(60), nowS: 60 + 139 })).toBe('soon')
    expect(code({ out: typed(60), nowS: 60 + 170 })).toBe('soon')
  })
  it('one weight says nothing, and an old one is said to be old: it has not just begun', () => {
    expect(code({ out: [{ atS: 0, value: 0 }], nowS: 1 })).toBe('too-few')
    expect(watchCharge(charging({ out: [{ atS: 0, value: 0 }], nowS: 181 }))).toEqual({
      code: 'stale',
      agoS: 181,
    })
    expect(code({ nowS: 1_000 })).toBe('stale')
  })
  it('58 g on a scale of 1 g', () => {
    const small = { divisionKg: 0.001, toleranceKg: 0.002, wantedKg: 0.058, nowS: 30 }
    expect(code({ ...small, out: flowing(0.05, 0.001, 30) })).toBe('soon')
    expect(code({ ...small, out: flowing(0.0565, 0.001, 30) })).toBe('close-now')
    expect(code({ ...small, out: flowing(0.061, 0.001, 30) })).toBe('over')
  })
})

describe('handLag', () => {
  it('the middle of what is known, from three on', () => {
    expect(handLag([])).toEqual(UNKNOWN_LAG)
    expect(handLag([1, 9])).toEqual(UNKNOWN_LAG)
    expect(handLag([1, 3, 2])).toEqual({ seconds: 2, from: 3 })
    // Somebody who went away is no hand.
    expect(handLag([1, 3, 2, 400, 60])).toEqual({ seconds: 2, from: 3 })
  })
})

describe('metering into suction', () => {
  const line = (pa: (i: number) => number) =>
    Array.from({ length: 40 }, (_, i) => ({ atS: i / 4, value: pa(i) }))
  it('at most 0.7 bar above, half of it near the compressor', () => {
    expect(meteringLimitPa(500_000, false)).toBe(570_000)
    expect(meteringLimitPa(500_000, true)).toBe(535_000)
  })
  it('a needle that trembles is liquid that passes, a settled one vapour', () => {
    expect(needleOf(line((i) => 550_000 + 8_000 * (i % 2)))).toBe('trembling')
    expect(needleOf(line(() => 550_000))).toBe('settled')
    // An even rise does not tremble.
    expect(needleOf(line((i) => 500_000 + 1_000 * i))).toBe('settled')
    expect(needleOf(line(() => 550_000).slice(0, 4))).toBe('cannot-tell')
  })
  it('says when it is too much', () => {
    expect(
      watchMetering(
        line(() => 571_000),
        500_000,
        false,
      )?.code,
    ).toBe('too-much')
    expect(
      watchMetering(
        line(() => 550_000),
        500_000,
        false,
      )?.code,
    ).toBe('vapour-only')
    expect(
      watchMetering(
        line((i) => 550_000 + 8_000 * (i % 2)),
        500_000,
        false,
      ),
    ).toMatchObject({
      code: 'metering',
      needle: 'trembling',
    })
    expect(watchMetering([], 500_000, false)).toBeUndefined()
  })
})

describe('warmWater', () => {
  it('40 C, where the cylinder bears it', () => {
    // 400 psi: 28.6 bar abs; R-410A at 40 C stands at 24.2.
    const found = warmWater(tableOf('R-410A'), 2_859_000)
    expect(found.tempK).toBeCloseTo(313.15, 2)
    expect(found.pressurePa! / 1e5).toBeCloseTo(24.2, 0)
    expect(found.byRating).toBe(false)
  })
  it('cooler where its rating asks for it', () => {
    // 260 psi, 18.9 bar abs: R-410A reaches that at about 30 C.
    const found = warmWater(tableOf('R-410A'), 1_894_000)
    expect(found.byRating).toBe(true)
    expect(found.tempK - 273.15).toBeCloseTo(30, 0)
  })
  it('never warmer than 40 of its own accord', () => {
    expect(warmWater(tableOf('R-134a'), null).tempK).toBeCloseTo(313.15, 6)
  })
  it('R-744 is above its critical point there: its pressure goes by what is in it', () => {
    expect(warmWater(tableOf('R-744'), null)).not.toHaveProperty('pressurePa')
    const half = warmWater(tableOf('R-744'), null, 400)
    expect(half.pressurePa! / 1e5).toBeGreaterThan(80)
    expect(half.pressurePa! / 1e5).toBeLessThan(100)
    // Nearly full, and stamped for 110 bar: cooler water.
    expect(warmWater(tableOf('R-744'), 110e5, 700).tempK).toBeLessThan(313)
  })
})

describe('wayIn', () => {
  const asked = (over: Partial<Parameters<typeof wayIn>[0]> = {}) =>
    wayIn({
      table: tableOf('R-410A'),
      trade: 'stationary',
      drive: 'stationary',
      targetMg: 3_000_000,
      from: 'recovery',
      ...over,
    })
  it('blends with glide always as liquid', () => {
    expect(asked()).not.toContain('blend-liquid-always')
    expect(asked({ table: tableOf('R-407C') })[0]).toBe('blend-liquid-always')
  })
  it('small sealed machines through the drier', () => {
    expect(asked({ targetMg: 58_000 })).toContain('small-through-drier')
    expect(asked()).toContain('liquid-into-liquid-side')
  })
  it('vehicles by the question of high voltage', () => {
    expect(asked({ trade: 'vehicle', drive: 'belt' })).toContain('vehicle-high-side-off')
    expect(asked({ trade: 'vehicle', drive: 'high-voltage' })).toContain('vehicle-high-voltage')
  })
  it('one-way cylinders upside down', () => {
    expect(asked({ from: 'one-way' })).toContain('one-way-upside-down')
  })
  it('never liquid into a compressor, and never by the recovery machine', () => {
    for (const trade of ['stationary', 'vehicle'] as const)
      expect(asked({ trade })).toEqual(
        expect.arrayContaining(['never-liquid-into-compressor', 'not-the-recovery-machine']),
      )
  })
})

describe('scaleForCharge', () => {
  it('5 g: two standard deviations are 6.1 g', () => {
    // sqrt(2) x 1.5 x 5 g / sqrt(12) = 3.06 g.
    expect(scaleForCharge(5_000, 10_000_000, 15_000)).toMatchObject({ goodEnough: true, assumed: false })
    expect(scaleForCharge(5_000, 10_000_000, 15_000).doubtMg / 1000).toBeCloseTo(6.12, 2)
  })
  it('58 g want a scale of 1 g', () => {
    // 2 g of tolerance: 1 g gives 1.2 g, 2 g gives 2.4 g.
    expect(scaleForCharge(5_000, 10_000_000, 2_000)).toMatchObject({ goodEnough: false, divisionMg: 1_000 })
    expect(scaleForCharge(1_000, 10_000_000, 2_000).goodEnough).toBe(true)
    expect(scaleForCharge(null, 10_000_000, 2_000)).toMatchObject({ goodEnough: false, assumed: true })
  })
})
