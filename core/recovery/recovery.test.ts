import { describe, expect, it } from 'vitest'
import { refrigerant, REFRIGERANTS, tableOf } from '../refrigerants'
import { endLevel, pressureClass, rebound, recoveryTimeLeft, timeLeft } from '.'

const inHgBelow = (pa: number) => (101_325 - pa) / 3386.389

describe('endLevel', () => {
  it.each([
    ['R-123', 'low'],
    ['R-134a', 'medium'],
    ['R-22', 'high'],
    ['R-410A', 'high'],
    ['R-744', 'very-high'],
  ] as const)('%s is of the %s class', (code, wanted) => expect(pressureClass(code)).toBe(wanted))

  it.each([
    ['R-410A', 3, 'appliance', 0],
    ['R-22', 100, 'appliance', 10],
    ['R-134a', 3, 'appliance', 10],
    ['R-134a', 100, 'appliance', 15],
    ['R-134a', 100, 'leaking', 0],
    ['R-290', 0.1, 'small-sealed', 4],
    ['R-1234yf', 0.5, 'vehicle', 4],
  ] as const)('%s, %s kg, %s: %s inHg below atmosphere', (code, kg, use, wanted) => {
    expect(inHgBelow(endLevel(code, kg, use).levelPa)).toBeCloseTo(wanted, 6)
  })
  it('a low-pressure refrigerant goes to 25 mm of mercury absolute', () => {
    expect(endLevel('R-123', 500, 'appliance').levelPa).toBeCloseTo(3333, 0)
  })
})

describe('rebound', () => {
  const at = (nowPa: number, levelPa = 101_325) =>
    rebound(
      { stoppedPa: 101_325, nowPa, volumeM3: 0.006, tempK: 293.15, levelPa },
      tableOf('R-22'),
      refrigerant('R-22').molarMassG,
    )
  it('6 L of R-22 at 20 C and 0.9 bar more: at least 19 g', () => {
    const found = at(101_325 + 90_000)
    expect(found.returnedKg * 1000).toBeGreaterThan(19)
    expect(found.returnedKg * 1000).toBeLessThan(20.5)
    expect(found.verdict.code).toBe('rebound-above-level')
  })
  it('a fall yields nothing, and within the level it may stay', () => {
    expect(at(90_000).returnedKg).toBe(0)
    expect(at(105_000, 120_000).verdict.outcome).toBe('good')
    expect(at(191_325, 300_000).verdict.code).toBe('rebound-within-worth')
  })
})

describe('timeLeft', () => {
  it('goes by what is expected while the rate is steady, and knows no end without it', () => {
    const steady = [0, 60, 120].map((atS) => ({ atS, massKg: atS * 0.01 }))
    expect(timeLeft(steady, 3)).toMatchObject({ kind: 'steady', leastS: expect.closeTo(180, 6) as number })
    expect(timeLeft(steady).kind).toBe('steady-unknown-end')
    expect(timeLeft(steady, 1).kind).toBe('steady-unknown-end')
  })
  it('says when nothing moves, and refuses what it cannot use', () => {
    expect(timeLeft([0, 60, 120].map((atS) => ({ atS, massKg: 2 }))).kind).toBe('flat')
    const noted = (...points: [atS: number, massKg: number][]) =>
      timeLeft(points.map(([atS, massKg]) => ({ atS, massKg }))).kind
    // Two equal weights five seconds apart are no flat line, two minutes of them are.
    expect(noted([0, 1], [60, 2], [65, 2])).not.toBe('flat')
    expect(noted([0, 1], [60, 2], [85, 2])).toBe('steady-unknown-end')
    expect(noted([0, 1], [60, 2], [85, 2], [125, 2])).toBe('flat')
    expect(noted([0, 1], [60, 2], [120, 2.5], [180, 2.3])).toBe('falling')
    expect(noted([0, 1], [60, 2], [120, 2.5], [180, 2.7])).toBe('steady-unknown-end')
    expect(() => timeLeft([{ atS: 0, massKg: 1 }])).toThrow(RangeError)
    expect(() => timeLeft([0, 0, 1].map((atS) => ({ atS, massKg: atS })))).toThrow(RangeError)
  })
})

describe('endLevel for every refrigerant', () => {
  it('is never deeper for a leaking system than for a tight one, nor for a small charge than for a large', () => {
    for (const code of REFRIGERANTS) {
      const level = (kg: number, use: 'appliance' | 'leaking') => endLevel(code, kg, use).levelPa
      expect(level(5, 'leaking')).toBeGreaterThanOrEqual(level(5, 'appliance'))
      expect(level(5, 'appliance')).toBeGreaterThanOrEqual(level(500, 'appliance'))
      expect(level(500, 'appliance')).toBeGreaterThan(3_000)
    }
  })
})

describe('how long a recovery still takes, by what is left', () => {
  const steady = [0, 60, 120].map((atS) => ({ atS, massKg: atS / 60 }))
  it('never less than what surely comes, at the present rate', () => {
    // 1 kg at 60 g a minute, of 3 kg: 140 g and 5 % may stay behind, so 710 g surely come: 710 s.
    const slow = [0, 60, 120].map((atS) => ({ atS, massKg: 1.88 + atS / 1_000 }))
    const left = recoveryTimeLeft(slow, 3)
    expect(left).toMatchObject({ kind: 'steady', leastS: expect.closeTo(710, 6) as number })
    // Usually 90 g and 2.5 %: 835 g, of 3 kg. Whether it is liquid nobody knows: up to six times as long.
    expect(left).toMatchObject({ mostS: expect.closeTo(835 * 6, 6) as number })
  })
  it('by what comes: of vapour the less is left the slower, of liquid what boils off after it', () => {
    const slow = [0, 60, 120].map((atS) => ({ atS, massKg: 1.88 + atS / 1_000 }))
    // 835 g of 3 kg: up to 2.3 + 0.36 x 3 / 0.835 = 3.59 times as long.
    expect(recoveryTimeLeft(slow, 3, 'vapour')).toMatchObject({
      leastS: expect.closeTo(710, 6) as number,
      mostS: expect.closeTo(835 * (2.3 + (0.36 * 3) / 0.835), 6) as number,
    })
    expect(recoveryTimeLeft(slow, 3, 'liquid')).toMatchObject({
      leastS: expect.closeTo(2.5 * 710, 6) as number,
      mostS: expect.closeTo(9 * 835, 6) as number,
    })
    // It came twice as fast before: the liquid is through, whatever is said.
    const slowed = [
      { atS: 0, massKg: 1.82 },
      { atS: 60, massKg: 1.94 },
      { atS: 120, massKg: 2 },
    ]
    const by = (comes?: 'liquid') => recoveryTimeLeft(slowed, 3, comes)
    expect(by('liquid')).toEqual(recoveryTimeLeft(slow, 3, 'vapour'))
    expect(by()).toEqual(by('liquid'))
  })
  it('holds for a vehicle’s ounces and for a ship’s plant', () => {
    const left = recoveryTimeLeft(steady, 102)
    // 100 kg at 1 kg a minute: 94.76 surely come.
    expect(left.kind === 'steady' && left.leastS / 60).toBeCloseTo(100 - 0.14 - 5.1, 6)
    const small = [0, 30, 60].map((atS) => ({ atS, massKg: atS / 2_000 }))
    expect(recoveryTimeLeft(small, 0.055)).toMatchObject({ kind: 'steady', leastS: 0 })
  })
  it('where nobody knows how much should come, no time at all, though the rate falls', () => {
    expect(recoveryTimeLeft(steady).kind).toBe('steady-unknown-end')
    const bent = [0, 1, 1.6, 1.95].map((massKg, i) => ({ atS: 120 * i, massKg }))
    expect(recoveryTimeLeft(bent).kind).toBe('steady-unknown-end')
    const flat = [...steady, { atS: 200, massKg: 2 }]
    expect(recoveryTimeLeft(flat, 3)).toEqual({ kind: 'flat' })
  })
})
