import { describe, expect, it } from 'vitest'
import { DENSE_GAS_DOUBT, denseGasPa } from '.'

describe('denseGasPa', () => {
  // R-744 at 40 C, reference data: 80 bar 278 kg/m3, 100 bar 628, 110 bar 683.
  it.each([
    [278, 80e5],
    [628, 100e5],
    [683, 110e5],
  ])('%s kg/m3 of R-744 at 40 C: %s Pa', (density, pressurePa) =>
    expect(Math.abs(denseGasPa('R-744', density, 313.15)! / pressurePa - 1)).toBeLessThan(DENSE_GAS_DOUBT),
  )
  it('is not asked below the critical point, nor of another gas', () => {
    expect(denseGasPa('R-744', 600, 300)).toBeUndefined()
    expect(denseGasPa('R-134a', 600, 400)).toBeUndefined()
  })
})
