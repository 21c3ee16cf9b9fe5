import { describe, expect, it } from 'vitest'
import {
  ALL_READ,
  type AlsoRead,
  type Device,
  FAULTS,
  type FaultSize,
  madeRunning,
  mayHave,
  readAndJudged,
} from '.'

const EACH = 5
const SIZES: FaultSize[] = [0, 1, 2]
const DEVICES: Device[] = ['valve', 'orifice']
const MADE = DEVICES.flatMap((device) =>
  FAULTS.filter((fault) => mayHave(device, fault)).flatMap((fault) =>
    SIZES.flatMap((size) =>
      Array.from({ length: EACH }, (_, i) => ({
        device,
        fault,
        size,
        seed: i + 40,
        run: madeRunning(fault, size, device, i + 40),
      })),
    ),
  ),
)

/** How it went: named alone and right, open with the right one first, open with another first, wrong. */
function counted(also: AlsoRead) {
  const count = { right: 0, first: 0, open: 0, wrong: 0 }
  for (const { device, fault, seed, run } of MADE) {
    const found = readAndJudged(run, device, also, seed)
    if (!found) continue
    const { code, outcome } = found.verdict
    if (code === `pattern-${fault}`) count.right++
    else if (outcome === 'open') count[found.ranked[0]!.cause === fault ? 'first' : 'open']++
    else count.wrong++
  }
  return count
}

describe('the running cycle with faults of three sizes, read with ordinary instruments', () => {
  it.each<[string, AlsoRead, number]>([
    ['everything', ALL_READ, 0.6],
    ['no standing check', { ...ALL_READ, standing: false }, 0.4],
    ['pressures, lines and the evaporator’s air', { airOn: true, airOff: true, wetBulb: true }, 0.25],
    ['pressures, lines and the air around', {}, 0.1],
  ])('%s: hardly ever wrong, and as often right as that allows', (_, also, least) => {
    const { right, first, open, wrong } = counted(also)
    const all = right + first + open + wrong
    expect(all).toBeGreaterThan(250)
    expect(wrong / all).toBeLessThan(0.01)
    expect(right / all).toBeGreaterThan(least)
  })

  it('what is not certain has the right one first more often than not', () => {
    const { first, open } = counted(ALL_READ)
    expect(first).toBeGreaterThan(3 * open)
  })

  it('a machine with nothing wrong is never called faulty', () => {
    const faulty = MADE.filter(({ fault }) => fault === 'all-right').filter(({ device, seed, run }) => {
      const { verdict } = readAndJudged(run, device, ALL_READ, seed)!
      return verdict.outcome !== 'good' && verdict.outcome !== 'open'
    })
    expect(faulty).toEqual([])
  })
})

it('the same seed makes the same machine, another one another', () => {
  const head = (seed: number) => madeRunning('air', 1, 'valve', seed).readings.headPa
  expect(head(3)).toBe(head(3))
  expect(head(3)).not.toBe(head(4))
})
