import { describe, expect, it } from 'vitest'
import { wrote } from '../../../testing/an-entry'
import { type Entry, foldTape, onTheScale, type WeighMode } from '..'

const cylinder = { tareMg: 10e6, contentsBeforeMg: 4e6, grossLimitMg: 25e6 }

function run(use: 'recover' | 'charge', steps: [WeighMode, ...number[]][]) {
  const entries = steps.flatMap(([mode, ...weights], segment): Entry[] =>
    weights.map((weightMg, i) => {
      const body = { runId: 'r', use, cylinderId: 'A', scale: '', mode, weightMg }
      if (segment === 0 && i === 0) return wrote('run-started', body)
      return i === 0 ? wrote('scale-changed', body) : wrote('weight-noted', body)
    }),
  )
  return foldTape(entries).transfers[0]!
}

describe('onTheScale', () => {
  it('follows a gross scale, and says how far its start was off the books', () => {
    expect(onTheScale(run('recover', [['gross', 14.1e6, 16e6]]), cylinder)).toEqual({
      grossMg: 16e6,
      limitMg: 25e6,
      leftMg: 9e6,
      startOffMg: 0.1e6,
    })
  })
  it('knows the gross weight from tare and books where the scale was zeroed', () => {
    const { grossMg, startOffMg } = onTheScale(run('recover', [['net', 0, 2e6]]), cylinder)
    expect([grossMg, startOffMg]).toEqual([16e6, undefined])
  })
  it('goes down while charging, and up when gas flows back', () => {
    expect(onTheScale(run('charge', [['gross', 14e6, 12e6]]), cylinder).grossMg).toBe(12e6)
    expect(onTheScale(run('charge', [['net', 0, -2e6]]), cylinder).grossMg).toBe(12e6)
    expect(onTheScale(run('charge', [['net', 0, 2e6]]), cylinder).grossMg).toBe(16e6)
  })
  it('takes the newest gross reading over a change of scale', () => {
    const changed = run('recover', [
      ['gross', 14e6, 15e6],
      ['net', 0, 0.5e6],
      ['gross', 15.7e6, 16e6],
    ])
    expect(onTheScale(changed, cylinder).grossMg).toBe(16e6)
  })
  it('is overfilled below nothing left, and has no limit where none is known', () => {
    expect(onTheScale(run('recover', [['gross', 14e6, 26e6]]), cylinder).leftMg).toBe(-1e6)
    const { limitMg, leftMg } = onTheScale(run('recover', [['gross', 14e6, 26e6]]), {
      tareMg: 10e6,
      contentsBeforeMg: 4e6,
    })
    expect([limitMg, leftMg]).toEqual([undefined, undefined])
  })
})
