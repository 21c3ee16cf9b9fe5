import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { waterPa } from '../refrigerants'
import { PA_PER_MICRON } from '../units'
import { inflow, type HoldReading, judgeVacuum, lostInYearKg, type VacuumGiven } from '.'

type Point = [minutes: number, micron: number]
const read = (points: Point[]): HoldReading[] =>
  points.map(([minutes, micron]) => ({ atS: minutes * 60, pressurePa: micron * PA_PER_MICRON }))
const judge = (points: Point[], more: Partial<VacuumGiven> = {}) =>
  judgeVacuum({ readings: read(points), ...more })
const says = (...given: Parameters<typeof judge>) => {
  const { verdict, leak, moisture } = judge(...given)
  return [verdict.code, leak, moisture]
}
const reasons = (...given: Parameters<typeof judge>) =>
  judge(...given).verdict.reasons.map(({ code }) => code)
/** A reading a second. */
const live = (lengthS: number, micronAt: (atS: number) => number): Point[] =>
  Array.from({ length: lengthS + 1 }, (_, atS) => [atS / 60, micronAt(atS)])
const number = (judged: ReturnType<typeof judge>, name: string) =>
  judged.verdict.numbers.find((each) => each.name === name)

/** 600 micron a minute. */
const STRAIGHT: Point[] = [
  [0, 300],
  [2, 1500],
  [4, 2700],
  [6, 3900],
  [8, 5100],
  [10, 6300],
  [12, 7500],
]

describe('judgeVacuum, typed readings', () => {
  it('two readings that hardly differ: tight and dry, since the whole rise bounds a leak', () => {
    // 20 micron in 10 min, doubt 2 x hypot(4.4, 2) = 10: 3 micron/min at the most, below the 10 that count.
    expect(
      says([
        [0, 420],
        [10, 440],
      ]),
    ).toEqual(['tight-and-dry', 'no', 'no'])
  })
  it('three that rise within the limit: passed, and the cause open', () => {
    // 540 micron in 12 min: a leak of 45 micron/min, or water.
    const held = judge([
      [0, 420],
      [5, 900],
      [12, 960],
    ])
    expect([held.pass, held.leak, held.moisture]).toEqual([true, 'open', 'open'])
    expect(held.verdict.code).toBe('held')
  })
  it('a straight rise far beyond what water does: a leak, and its size', () => {
    const found = judge(STRAIGHT, {
      volumeM3: { least: 0.01, most: 0.01 },
    })
    expect([found.pass, found.leak]).toEqual([false, 'yes'])
    // 600 micron/min = 10 x 0.1333 Pa/s; in 10 L 13.3 Pa L/s.
    const slope = number(found, 'leak-slope')!
    expect(slope.least! / PA_PER_MICRON).toBeLessThan(10)
    expect(slope.most! / PA_PER_MICRON).toBeGreaterThan(10)
    const flow = number(found, 'leak-flow')!
    expect(flow.least! < 0.0133 && 0.0133 < flow.most!).toBe(true)
    expect(found.verdict.reasons[0]!.code).toBe('find-the-leak-first')
  })
  it('does not let more leak in a year than there is: then it says when all of it is gone', () => {
    const leak = (chargeKg?: number) =>
      judge(STRAIGHT, {
        volumeM3: { least: 0.01, most: 0.01 },
        gas: { workingPa: 1.4e6, molarMassG: 72.6, ...(chargeKg && { chargeKg }) },
      })
    const year = number(leak(), 'leak-year')!
    const gone = number(leak(3), 'gone-in')!
    expect(number(leak(3), 'leak-year')).toBeUndefined()
    // 3 kg at so many kg a year, the slowest and the fastest.
    expect(gone.least! / 86_400).toBeCloseTo((3 / year.most!) * 365, 6)
    expect(gone.most! / 86_400).toBeCloseTo((3 / year.least!) * 365, 6)
    expect(number(leak(1e6), 'gone-in')).toBeUndefined()
  })
  it('a rise that bends over: water, and drying comes first', () => {
    const wet: Point[] = [
      [0, 400],
      [1, 1400],
      [2, 2100],
      [4, 2900],
      [6, 3300],
      [8, 3450],
      [10, 3520],
      [12, 3550],
    ]
    expect(says(wet)).toEqual(['hold-failed', 'open', 'yes'])
    expect(reasons(wet)[0]).toBe('dry-it')
  })
  it('too soon: no pass, and no leak, however straight', () => {
    const early = judge([
      [0, 300],
      [1, 400],
      [2, 500],
      [3, 600],
      [4, 700],
      [5, 800],
    ])
    expect([early.verdict.code, early.pass, early.leak]).toEqual(['too-soon', undefined, 'open'])
  })
})

describe('judgeVacuum, live curves made by hand', () => {
  it('flat for ten minutes', () => {
    expect(says(live(600, () => 420))).toEqual(['tight-and-dry', 'no', 'no'])
  })
  it('oil that gives off 100 micron is neither water nor leak', () => {
    expect(says(live(900, (t) => 300 + 100 * (1 - Math.exp(-t / 60))))).toEqual(['tight-and-dry', 'no', 'no'])
  })
  it('rises below the limit by a leak alone: held, and leaks', () => {
    // 20 micron/min from 300: 900 after half an hour.
    const found = judge(live(1800, (t) => 300 + t / 3))
    expect([found.verdict.code, found.pass, found.leak]).toEqual(['held-but-leaking', true, 'yes'])
    expect(found.verdict.outcome).toBe('caution')
  })
  it('water below the limit: held, and wet', () => {
    expect(says(live(1800, (t) => 300 + 600 * (1 - Math.exp(-t / 240))))).toEqual([
      'held-but-wet',
      'no',
      'yes',
    ])
  })
  it('says how long until it could be known, and from then on knows', () => {
    const curve = (t: number) => 400 + 4000 * (1 - Math.exp(-t / 200))
    const now = judge(live(900, curve))
    expect([now.leak, now.moisture]).toEqual(['open', 'yes'])
    const then = judge(live(now.knownAfterS!, curve))
    expect([then.leak, then.moisture]).toEqual(['no', 'yes'])
  })
  it('above what water can reach at 20 C it leaks: 17 500 micron and 3 K', () => {
    expect(waterPa(293.15) / PA_PER_MICRON).toBeCloseTo(17_530, -2)
    expect(
      says(
        live(900, (t) => 300 + 40 * t),
        { ambientK: 293.15 },
      )[1],
    ).toBe('yes')
  })
})

describe('judgeVacuum, the hold before', () => {
  it('the same rise again speaks for a leak, a smaller one for water that is going', () => {
    const before = read(live(900, (t) => 300 + t))
    expect(
      reasons(
        live(900, (t) => 350 + t),
        { previous: before },
      ),
    ).toContain('rise-stayed')
    const wet = (most: number) => (t: number) => 300 + most * (1 - Math.exp(-t / 240))
    expect(reasons(live(900, wet(1000)), { previous: read(live(900, wet(3000))) })).toContain('rise-fell')
  })
})

describe('judgeVacuum, wrong inputs', () => {
  it.each([
    ['the pump was never valved off', 'never-isolated', live(900, (t) => 50 + 450 * Math.exp(-t / 600))],
    [
      'another gauge from the seventh minute',
      'gauge-replaced',
      live(900, (t) => (t < 400 ? 400 : 900) + t / 5),
    ],
    ['millibar typed as micron', 'unit-mistaken', live(900, (t) => 0.6 + t * 3e-4)],
  ])('%s: no hold at all', (_, oddity, points) => {
    expect(says(points)).toEqual(['hold-not-readable', 'open', 'open'])
    expect(reasons(points)).toEqual([oddity])
    expect(judge(points).pass).toBeUndefined()
  })
  it('a gap leaves pass and fail, and takes the cause', () => {
    const points = live(900, (t) => 400 + t * 0.3).filter(([minutes]) => minutes < 3 || minutes > 9)
    expect(says(points)).toEqual(['held', 'open', 'open'])
    expect(reasons(points)).toContain('gap')
  })
  it('a sensor at its end has failed the hold, and says no more', () => {
    const points = live(900, (t) => Math.min(20_000, 400 + 40 * t))
    expect(says(points)).toEqual(['hold-failed', 'open', 'open'])
    expect(reasons(points)).toContain('sensor-pegged')
  })
  it('three kelvin warmer in the meantime', () => {
    const warmer = { ambientK: 293, ambientEndK: 296 }
    expect(
      reasons(
        live(900, (t) => 400 + t / 5),
        warmer,
      ),
    ).toContain('temperature-step')
    expect(
      reasons(
        live(900, (t) => 400 + t / 5),
        { ...warmer, ambientEndK: 294 },
      ),
    ).not.toContain('temperature-step')
  })
})

describe('whatever is read', () => {
  const reading = fc.record({
    step: fc.oneof(fc.integer({ min: 1, max: 600 }), fc.double({ min: 0.001, max: 1e5, noNaN: true })),
    pressurePa: fc.oneof(
      fc.constantFrom(0, 1e-9, 66.66, 133.3, 101_325),
      fc.double({ min: 0, max: 110_000, noNaN: true }),
    ),
  })
  const hold = fc.array(reading, { minLength: 1, maxLength: 60 }).map((list) => {
    let atS = 0
    return list.map(({ step, pressurePa }) => ({ atS: (atS += step), pressurePa }))
  })
  it('is judged without a fault, with numbers that are numbers and ranges the right way round', () => {
    fc.assert(
      fc.property(
        hold,
        fc.option(hold),
        fc.option(fc.double({ min: 243, max: 333, noNaN: true })),
        (readings, previous, ambientK) => {
          const { verdict, smallestPaS, knownAfterS } = judgeVacuum({
            readings,
            ...(previous && { previous }),
            ...(ambientK !== null && { ambientK }),
            volumeM3: { least: 0.005, most: 0.02 },
            gas: { workingPa: 1e6, molarMassG: 100 },
          })
          for (const { value, least = value, most = value } of verdict.numbers) {
            expect([value, least, most].every(Number.isFinite)).toBe(true)
            expect(least).toBeLessThanOrEqual(most)
          }
          for (const each of [smallestPaS, knownAfterS])
            if (each !== undefined) expect(Number.isFinite(each) && each >= 0).toBe(true)
          expect(verdict.numbers.length).toBeLessThanOrEqual(20)
        },
      ),
      { numRuns: 300 },
    )
  })
})

describe('size of a leak', () => {
  it('0.02 Pa/s in 10 L is 0.2 Pa L/s', () => expect(inflow(0.02, 0.01)).toBeCloseTo(2e-4, 12))
  it('out goes as p1^2 - p2^2 over the viscosity: by hand for R-404A at 11 bar', () => {
    // 1e-3 Pa m3/s x (11^2 - 1.01325^2)/1.01325^2 x 18.2/12.5 x 0.0976 / (8.314 x 293.15) x 3.1536e7 s = 215 kg.
    expect(lostInYearKg(1e-3, 11e5, 97.6, 293.15)).toBeCloseTo(215, 0)
  })
  it('nothing goes out of what stands below the air', () => expect(lostInYearKg(1e-3, 9e4, 100, 293)).toBe(0))
})

describe('what creeps for hours', () => {
  const sources: [tauH: number, endMicron: number][] = [
    [1.5, 2_000],
    [1.5, 8_000],
    [2, 1_500],
    [2.5, 5_000],
    [3, 3_000],
    [3, 9_000],
    [4, 2_500],
    [4, 10_000],
  ]
  it('is never called a leak while water could do it', () => {
    for (const [tauH, endMicron] of sources)
      for (const minutes of [15, 30]) {
        const curve = live(minutes * 60, (t) => 300 + endMicron * (1 - Math.exp(-t / (tauH * 3600))))
        expect(judge(curve, { ambientK: 293.15 }).leak, `${tauH} h, ${endMicron} micron`).not.toBe('yes')
      }
  })
  it('a leak beyond all that water could give is one', () => {
    // Water at 23 C ends at 21,000 micron: over 4 h it adds 1.5 micron/s at the most. 5 micron/s is a leak.
    expect(
      judge(
        live(1_800, (t) => 300 + 5 * t),
        { ambientK: 293.15 },
      ).leak,
    ).toBe('yes')
  })
})

describe('what levels off above what water can give', () => {
  const levels = (endMicron: number) => live(1_500, (t) => 200 + endMicron * (1 - Math.exp(-t / 150)))
  it('is no water: 475 micron over ice at -25 C, 6,540 at 5 C', () => {
    expect(waterPa(248.15) / PA_PER_MICRON).toBeCloseTo(475, -1)
    expect(waterPa(278.15) / PA_PER_MICRON).toBeCloseTo(6_540, -1)
    expect(judge(levels(3_000), { ambientK: 248.15 }).moisture).toBe('open')
    expect(reasons(levels(3_000), { ambientK: 248.15 })).toContain('more-than-water')
    expect(judge(levels(12_000), { ambientK: 278.15 }).moisture).toBe('open')
    expect(judge(levels(3_000), { ambientK: 278.15 }).moisture).toBe('yes')
  })
})
