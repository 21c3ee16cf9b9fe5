import { expect, it } from 'vitest'
import { saturationPressurePa, tableOf } from '../refrigerants'
import { judgeAtRest } from '.'

const at = (code: string, tempC: number, overPa = 0) => ({
  pressurePa: saturationPressurePa(tableOf(code), tempC + 273.15, 'bubble') + overPa,
  tempK: tempC + 273.15,
  gaugePa: 7_000,
  clampK: 0.5,
})

it('a gas that no other is like is sure', () => {
  expect(judgeAtRest(at('R-744', 10), 'R-744')).toMatchObject({ code: 'rest-sure', others: [] })
})
it('those that are like it are named', () => {
  // R-404A and R-507A lie within 1 psi of each other.
  const found = judgeAtRest({ ...at('R-404A', 20), clampK: 1 }, 'R-404A')
  expect(found.code).toBe('rest-not-told-apart')
  expect(found.others).toContain('R-507A')
  expect(found.others).not.toContain('R-134a')
})
it('above: air, and how much of the vapour', () => {
  // 1.5 bar more than R-134a has at 25 °C, 6.65 bar absolute.
  const found = judgeAtRest(at('R-134a', 25, 1.5e5), 'R-134a')
  expect(found.code).toBe('rest-above')
  expect(found.air!.airPa).toBeCloseTo(1.5e5, 0)
  expect(found.air!.ofVapour).toBeCloseTo(1.5 / (6.654 + 1.5), 2)
})
it('below: no liquid, or another gas', () => {
  expect(judgeAtRest(at('R-410A', 25, -6e5), 'R-410A').code).toBe('rest-below')
})
it('nobody has named one: what would fit; nothing that is known', () => {
  const found = judgeAtRest(at('R-410A', 25), null)
  expect(found.code).toBe('rest-unnamed')
  expect(found.others).toContain('R-410A')
  expect(judgeAtRest({ pressurePa: 300e5, tempK: 293, gaugePa: 7_000, clampK: 0.5 }, null).code).toBe(
    'rest-none',
  )
})
it('above its critical point a pressure says nothing of a gas', () => {
  const found = judgeAtRest({ pressurePa: 90e5, tempK: 308.15, gaugePa: 7_000, clampK: 0.5 }, 'R-744')
  expect(found).toEqual({ code: 'rest-no-liquid', others: [] })
})
