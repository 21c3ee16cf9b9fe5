import { describe, expect, it } from 'vitest'
import { chargeTargets, chargeToleranceMg, stopWeightMg, judgeCharge } from '.'

const input = {
  trade: 'stationary' as const,
  recoveredMg: 2_950_000,
  expectedMg: 3_000_000,
  recoveredAgrees: true,
}

describe('chargeTargets', () => {
  it('puts back what came out of a stationary system when the plate agrees', () => {
    expect(chargeTargets(input).map((t) => [t.basis, t.massMg])).toEqual([
      ['recovered', 2_950_000],
      ['expected', 3_000_000],
    ])
  })
  it('goes by the plate on vehicles, and wherever the weights disagree', () => {
    expect(chargeTargets({ ...input, trade: 'vehicle' })[0]).toMatchObject({
      basis: 'expected',
      toleranceMg: 15_000,
    })
    expect(chargeTargets({ ...input, recoveredAgrees: false })[0]!.basis).toBe('expected')
  })
  it('offers what is known', () => {
    expect(chargeTargets({ ...input, expectedMg: null, recoveredAgrees: false }).map((t) => t.basis)).toEqual(
      ['recovered'],
    )
    expect(chargeTargets({ ...input, recoveredMg: 0, expectedMg: null })).toEqual([])
  })
})

describe('tolerance and stop weight', () => {
  it('follows the size of the charge', () => {
    expect(chargeToleranceMg(60_000, 'stationary')).toBe(2_000)
    expect(chargeToleranceMg(450_000, 'vehicle')).toBe(9_000)
    expect(chargeToleranceMg(600_000, 'vehicle')).toBe(15_000)
    expect(chargeToleranceMg(1_000_000, 'stationary')).toBe(15_000)
    expect(chargeToleranceMg(9_000_000, 'stationary')).toBe(90_000)
  })
  it('stops early by what the hose keeps', () => {
    expect(stopWeightMg(18_000_000, 3_000_000, 30_000)).toBe(14_970_000)
    expect(stopWeightMg(0, 3_000_000, 0)).toBe(-3_000_000)
  })
})

describe('judgeCharge', () => {
  const code = (massMg: number, sigmaMg = 3_062, target = { massMg: 1_000_000, toleranceMg: 15_000 }) =>
    judgeCharge({ massMg, sigmaMg }, target).code
  it('is on target within the tolerance, to the digit', () => {
    expect(code(1_000_000)).toBe('charge-on-target')
    expect(code(1_015_000)).toBe('charge-on-target')
    expect(code(985_000)).toBe('charge-on-target')
  })
  it('says short and over beyond', () => {
    expect(code(984_000)).toBe('charge-short')
    expect(code(1_016_000)).toBe('charge-over')
  })
  it('cannot tell with a scale whose doubt is larger than the tolerance, unless it is far off', () => {
    // 60 g: tolerance 2 g; a scale of 5 g knows a difference to 6.1 g.
    const sealed = { massMg: 60_000, toleranceMg: chargeToleranceMg(60_000, 'stationary') }
    expect(code(60_000, 3_062, sealed)).toBe('cannot-tell-with-this-scale')
    expect(code(68_000, 3_062, sealed)).toBe('cannot-tell-with-this-scale')
    expect(code(81_000, 3_062, sealed)).toBe('charge-over')
    expect(code(50_000, 3_062, sealed)).toBe('charge-short')
    // A scale of 1 g: 1.2 g.
    expect(code(61_000, 612, sealed)).toBe('charge-on-target')
    expect(
      judgeCharge({ massMg: 60_000, sigmaMg: 3_062 }, sealed).numbers.find((n) => n.name === 'division')
        ?.value,
    ).toBe(0.001)
  })
})
