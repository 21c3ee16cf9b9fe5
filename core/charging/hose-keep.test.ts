import { expect, it } from 'vitest'
import { tableOf } from '../refrigerants'
import { hoseKeeps } from '.'

it('1.5 m of 1/4 in full of R-410A liquid at 25 C: 27 mL, 29 g; swallowed, a gram of it stays', () => {
  const keeps = hoseKeeps(tableOf('R-410A'), { boreM: 4.8e-3, lengthM: 1.5 }, 298.15)!
  // 27.1 mL x 1.059 g/mL.
  expect(Math.round(keeps.liquidMg / 1_000)).toBe(29)
  // 27.1 mL x 30.6 kg/m3 at 0 C.
  expect(keeps.swallowedMg / 1_000).toBeCloseTo(0.83, 1)
})
it('a gas that has no liquid there keeps nobody knows what', () => {
  expect(hoseKeeps(tableOf('R-744'), { boreM: 4.8e-3, lengthM: 1.5 }, 310)).toBeUndefined()
})
