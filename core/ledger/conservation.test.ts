import { describe, expect, it } from 'vitest'
import { conservationOf, type Flow, sum } from '.'

const flow = (from: Flow['from'], to: Flow['to'], massMg: number, refrigerant = 'R-32'): Flow => ({
  refrigerant,
  from,
  to,
  massMg,
})

describe('conservationOf', () => {
  it('adds up: bought, charged, lost, recovered, shipped', () => {
    const [line] = conservationOf(
      [
        flow('supplier', 'cylinder', 10_000_000),
        flow('cylinder', 'system', 3_000_000),
        flow('cylinder', 'rig', 40_000),
        flow('system', 'lost', 200_000),
        flow('system', 'cylinder', 1_000_000),
        flow('cylinder', 'reclaimer', 500_000),
      ],
      [{ refrigerant: 'R-32', place: 'cylinder', massMg: 2_000_000 }],
      [
        // 2 + 10 - 3 - 0.04 + 1 - 0.5; 3 - 0.2 - 1; 0.04.
        { refrigerant: 'R-32', place: 'cylinder', massMg: 9_460_000 },
        { refrigerant: 'R-32', place: 'system', massMg: 1_800_000 },
        { refrigerant: 'R-32', place: 'rig', massMg: 40_000 },
      ],
    )
    expect(line).toMatchObject({
      came: { supplier: 10_000_000 },
      went: { lost: 200_000, reclaimer: 500_000 },
      offMg: 0,
    })
    expect(sum(line!.end)).toBe(11_300_000)
  })
  it('a milligram that is nowhere is seen', () => {
    const [line] = conservationOf(
      [flow('supplier', 'cylinder', 1_000)],
      [],
      [{ refrigerant: 'R-32', place: 'cylinder', massMg: 999 }],
    )
    expect(line!.offMg).toBe(-1)
  })
  it('what comes back from the lost was not lost, what goes back to the supplier not bought', () => {
    const [line] = conservationOf(
      [flow('lost', 'system', 300), flow('system', 'lost', 500), flow('cylinder', 'supplier', 100)],
      [{ refrigerant: 'R-32', place: 'system', massMg: 1_000 }],
      [
        { refrigerant: 'R-32', place: 'system', massMg: 800 },
        { refrigerant: 'R-32', place: 'cylinder', massMg: -100 },
      ],
    )
    expect(line).toMatchObject({ went: { lost: 200 }, came: { supplier: -100 }, offMg: 0 })
  })
  it('each gas by itself, what was never there left out', () => {
    const lines = conservationOf(
      [flow('supplier', 'cylinder', 5, 'R-410A'), flow('supplier', 'cylinder', 7)],
      [{ refrigerant: 'R-22', place: 'cylinder', massMg: 0 }],
      [
        { refrigerant: 'R-410A', place: 'cylinder', massMg: 5 },
        { refrigerant: 'R-32', place: 'cylinder', massMg: 7 },
      ],
    )
    expect(lines.map((each) => [each.refrigerant, each.offMg])).toEqual([
      ['R-32', 0],
      ['R-410A', 0],
    ])
  })
})
