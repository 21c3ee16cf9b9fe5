import { describe, expect, it } from 'vitest'
import { heldOver } from '.'

describe('what a place held over time', () => {
  it('is reckoned back from what it holds now', () => {
    // 3 kg by the first, all of it out, 3.2 kg in: that is what it holds.
    const changes = [
      { at: 3, changeMg: 3_200_000 },
      { at: 1, changeMg: 3_000_000 },
      { at: 2, changeMg: -3_000_000 },
    ]
    expect(heldOver(changes, 3_200_000).map(({ at, heldMg }) => [at, heldMg])).toEqual([
      [1, 3_000_000],
      [2, 0],
      [3, 3_200_000],
    ])
  })
  it('the newest movements are enough: what was there before them shows as what is left', () => {
    expect(heldOver([{ at: 9, changeMg: -500 }], 1_500)).toEqual([
      { at: 9, inMg: 0, outMg: 500, heldMg: 1_500 },
    ])
  })
  it('what was found in it and taken out in one moment is one point, with both', () => {
    const found = [
      { at: 1, changeMg: 2_850 },
      { at: 1, changeMg: -2_850 },
      { at: 2, changeMg: 70 },
      { at: 2, changeMg: -20 },
    ]
    expect(heldOver(found, 50)).toEqual([
      { at: 1, inMg: 2_850, outMg: 2_850, heldMg: 0 },
      { at: 2, inMg: 70, outMg: 20, heldMg: 50 },
    ])
  })
  it('nothing moved: nothing to draw', () => {
    expect(heldOver([], 0)).toEqual([])
  })
})
