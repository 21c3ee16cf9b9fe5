import { describe, expect, it } from 'vitest'
import { tableOf } from '../refrigerants'
import { MG_PER_KG, ZERO_CELSIUS_K } from '../units'
import { reachOf } from './reach'
import { gives } from './sources'

const KG = MG_PER_KG

describe('whether the cylinder on the scale gives what is wanted', () => {
  // 1.365 to 1.610 kg stay as liquid ends, 0.560 drawn down, 0.530 in warm water.
  const stays = { leastMg: 0, mostMg: 0, staysLeastMg: 1.365 * KG, staysMostMg: 1.61 * KG }
  const drawn = { ...stays, drawnDown: { staysMg: 0.56 * KG, warmStaysMg: 0.53 * KG } }
  it.each([
    // 4.340 kg in it: 2.975 come as liquid, 3.810 with the running system and warm water.
    [2.975, 'as-liquid'],
    [2.976, 'by-vapour'],
    [3.81, 'by-vapour'],
    [3.811, 'not'],
  ] as const)('%f kg of 4.340: %s', (wantedKg, reach) => {
    expect(reachOf(drawn, 4.34 * KG, wantedKg * KG)).toBe(reach)
  })
  it('where nothing draws its vapour, only as liquid', () => {
    expect(reachOf(stays, 4.34 * KG, 2.976 * KG)).toBe('not')
  })
  it('never more than is in it, whatever gas', () => {
    for (const gas of ['R-134a', 'R-452A', 'R-1234yf']) {
      const cylinder = {
        kind: 'recovery' as const,
        condition: 'clean' as const,
        ownerCustomerId: null,
        waterCapacityMg: 21.6 * KG,
        balanceMg: 4 * KG,
        offMg: 0,
      }
      const found = gives(cylinder, tableOf(gas), ZERO_CELSIUS_K + 25, { molarMassG: 100 })!
      expect(reachOf(found, 4 * KG, 4 * KG)).toBe('not')
    }
  })
})
