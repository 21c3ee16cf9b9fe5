import { describe, expect, it } from 'vitest'
import { aCylinderRecord } from '../../testing/a-cylinder-record'
import { type Cylinder, mayTake, rankToTake } from '.'

const REQUEST = { refrigerant: 'R-410A', massMg: 1_000_000, today: '2026-06-01', marginPct: 0 }
// Room for 17.28 kg in all: 80 % of 21.6 kg of water.
const RACK: [label: string, over: Partial<Cylinder>][] = [
  ['nearly full', { condition: 'used', balanceMg: 15_000_000 }],
  ['half full, used', { condition: 'used', balanceMg: 8_000_000 }],
  ['of the customer, used', { condition: 'used', balanceMg: 4_000_000, ownerCustomerId: 'c' }],
  ['clean, shop', { condition: 'clean', balanceMg: 2_000_000 }],
  ['empty', { refrigerant: null, condition: 'clean', balanceMg: 0 }],
  ['of another customer', { ownerCustomerId: 'd', balanceMg: 0 }],
]
const order = (intent: 'go-back' | 'keep', customerId: string | null) =>
  rankToTake(
    RACK.map(([label, over]) => {
      const cylinder = aCylinderRecord({ label, ...over })
      return { cylinder, fitness: mayTake(cylinder, { ...REQUEST, customerId }) }
    }),
    intent,
    customerId,
  ).map(({ cylinder }) => cylinder.label)

describe('cylinders proposed to recover into', () => {
  it('to go back: clean first, then the same owner, then room; what is refused last', () => {
    expect(order('go-back', 'c')).toEqual([
      'empty',
      'clean, shop',
      'of the customer, used',
      'half full, used',
      'nearly full',
      'of another customer',
    ])
  })
  it('to keep: onto the same gas, where most room is left', () => {
    expect(order('keep', null)).toEqual([
      'clean, shop',
      'half full, used',
      'nearly full',
      'empty',
      // Both refused: another's gas in them.
      'of another customer',
      'of the customer, used',
    ])
  })
})
