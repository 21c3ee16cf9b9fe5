import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type SheetRow, sheetOf, sheetTotal } from '.'

const KG = 1_000_000
const row = (place: SheetRow['place'], kg: number, refrigerant: string | null = 'R-410A'): SheetRow => ({
  refrigerant,
  place,
  intoMg: kg * KG,
})

describe('the sheet of a month', () => {
  it('adds up, gas by gas and in all', () => {
    const lines = sheetOf(
      [
        row('supplier', 11),
        row('system', 3),
        row('system', -2.5),
        row('reclaimer', -4),
        row('unexplained', -0.1),
        row('rig', -0.05),
        row('system', 1, 'R-134a'),
      ],
      [{ refrigerant: 'R-410A', massMg: 10 * KG }],
    )
    expect(lines.map((line) => line.refrigerant)).toEqual(['R-134a', 'R-410A'])
    expect(lines[1]).toMatchObject({
      startMg: 10 * KG,
      boughtMg: 11 * KG,
      recoveredMg: 3 * KG,
      chargedMg: 2.5 * KG,
      shippedMg: 4 * KG,
      unexplainedMg: -0.1 * KG,
      rigMg: 0.05 * KG,
      // 10 + 11 + 3 - 2.5 - 4 - 0.1 - 0.05
      endMg: 17.35 * KG,
    })
    expect(sheetTotal(lines)).toMatchObject({ recoveredMg: 4 * KG, endMg: 18.35 * KG })
  })
  it('leaves out a gas of which nothing is there and nothing moved', () => {
    expect(sheetOf([row('lost', 0)], [{ refrigerant: 'R-22', massMg: 0 }])).toEqual([])
  })
  it('ends with what began and everything that went in', () => {
    const place = fc.constantFrom<SheetRow['place'][]>(
      'supplier',
      'system',
      'rig',
      'reclaimer',
      'lost',
      'outside',
      'unexplained',
    )
    const rows = fc.array(fc.record({ place, intoMg: fc.integer({ min: -1e9, max: 1e9 }) }))
    fc.assert(
      fc.property(rows, fc.integer({ min: 0, max: 1e9 }), (moved, startMg) => {
        const lines = sheetOf(
          moved.map((each) => ({ ...each, refrigerant: 'R-32' })),
          [{ refrigerant: 'R-32', massMg: startMg }],
        )
        const expected = moved.reduce((sum, { intoMg }) => sum + intoMg, startMg)
        expect(sheetTotal(lines).endMg).toBe(expected)
      }),
    )
  })
})
