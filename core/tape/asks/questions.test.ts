import { describe, expect, it } from 'vitest'
import { MG_PER_LB as LB } from '../../units'
import { wrote } from '../../../testing/an-entry'
import {
  askAboutCorrection,
  askAboutStart,
  askAboutWeight,
  firstGross,
  foldTape,
  type Transfer,
  type Use,
  type WeighMode,
} from '..'

// Tare 26.5 lb, limit 64.5 lb gross; it started at 26.5 lb and shows 28 lb a minute later.
const CYLINDER = { tareMg: 26.5 * LB, limitMg: 64.5 * LB, bookedMg: 26.5 * LB }
function running(use: Use = 'recover', from = 26.5, to = 28, mode: WeighMode = 'gross'): Transfer {
  return foldTape([
    wrote(
      'run-started',
      { runId: 'r', use, cylinderId: 'A', scale: '', mode, weightMg: from * LB, bookedMg: from * LB },
      0,
    ),
    wrote('weight-noted', { runId: 'r', weightMg: to * LB }, 60_000),
  ]).transfers[0]!
}
const ask = (lb: number, transfer = running(), grossLb = 28) =>
  askAboutWeight(
    transfer,
    { at: 120_000, weightMg: Math.round(lb * LB) },
    { ...CYLINDER, grossMg: grossLb * LB },
  )
const insteadLb = (asked: ReturnType<typeof ask>) => asked?.insteadMg.map((mg) => +(mg / LB).toFixed(3))

describe('a weight that is typed', () => {
  it('is not asked about when it is what was to be expected', () => {
    expect(ask(29.2)).toBeUndefined()
  })
  it('ten times too large is past the limit, and the right one is offered', () => {
    expect(ask(292)?.code).toBe('beyond-limit')
    expect(insteadLb(ask(292))).toEqual([29.2])
  })
  it('ten times too small is below the tare', () => {
    expect(ask(2.92)?.code).toBe('below-tare')
    expect(insteadLb(ask(2.92))).toEqual([29.2])
  })
  it('below the start, but above the tare', () => {
    // 27.9 is a nudge below 28; 27 lb is 1 lb back; 26.36 lb (within 150 g of the tare) too.
    expect(ask(27.97)).toBeUndefined()
    expect(ask(27)).toEqual({ code: 'wrong-way', insteadMg: [] })
  })
  it('a jump: 1.5 lb a minute so far, so 4 times that is 6 lb', () => {
    expect(ask(33.9)).toBeUndefined()
    expect(ask(34.1)?.code).toBe('jump')
  })
  it('past the limit it is asked once; from then on the alarm stands', () => {
    const near = running('recover', 60, 64)
    expect(ask(64.6, near, 64)?.code).toBe('beyond-limit')
    expect(ask(64.7, running('recover', 60, 64.6), 64.6)).toBeUndefined()
  })
  it('while charging, less than the empty cylinder weighs', () => {
    const charging = running('charge', 30, 28)
    expect(ask(27.5, charging)).toBeUndefined()
    expect(ask(26, charging)?.code).toBe('below-tare')
  })
})

describe('the first weight', () => {
  const start = (lb: number, over = {}) =>
    askAboutStart('recover', Math.round(lb * LB), {
      ...CYLINDER,
      bookedMg: 65 * LB,
      limitMg: 66 * LB,
      ...over,
    })
  it('35 lb on one that must weigh 65 lb speaks up', () => {
    expect(start(35)).toEqual({ code: 'off-the-books', insteadMg: [] })
    // 100 g are 0.22 lb.
    expect(start(65.2)).toBeUndefined()
    expect(start(65.3)?.code).toBe('off-the-books')
  })
  it('the point in the wrong place', () => {
    expect(start(6.5)?.code).toBe('below-tare')
    // 6.5 lb are 2,948,350 mg to the whole milligram.
    expect(start(6.5)?.insteadMg).toEqual([29_483_500])
    expect(start(650)?.code).toBe('beyond-limit')
  })
  it('of a small cylinder a few grams count: 1 % of 3 kg are 30 g', () => {
    const small = { tareMg: 2_500_000, bookedMg: 3_000_000, limitMg: undefined }
    expect(askAboutStart('charge', 2_975_000, small)).toBeUndefined()
    expect(askAboutStart('charge', 2_965_000, small)?.code).toBe('off-the-books')
  })
})

describe('a weight that is put right later', () => {
  // 26.5 lb, 28 a minute later, 29.5 after two, 31 after three.
  const entries = [
    wrote(
      'run-started',
      { runId: 'r', use: 'recover', cylinderId: 'A', scale: '', mode: 'gross', weightMg: 26.5 * LB },
      0,
    ),
    ...[28, 29.5, 31].map((lb, i) =>
      wrote('weight-noted', { runId: 'r', weightMg: Math.round(lb * LB) }, (i + 1) * 60_000),
    ),
  ]
  const corrected = (nr: number, lb: number) =>
    askAboutCorrection(foldTape(entries).transfers[0]!, entries[nr]!.entryId, Math.round(lb * LB), CYLINDER)
  it('is not asked about between its neighbours', () => {
    expect(corrected(2, 29)).toBeUndefined()
    expect(corrected(3, 31.5)).toBeUndefined()
    expect(corrected(0, 26.6)).toBeUndefined()
  })
  it('ten times too much, or too little, and the right one is offered', () => {
    expect(corrected(2, 292)?.code).toBe('beyond-limit')
    expect(insteadLb(corrected(2, 292))).toEqual([29.2])
    expect(corrected(3, 3.1)?.code).toBe('below-tare')
  })
  it('more than the one after it, or less than the one before it', () => {
    expect(corrected(2, 32)?.code).toBe('wrong-way')
    expect(corrected(2, 27)?.code).toBe('wrong-way')
    expect(corrected(0, 28.5)?.code).toBe('wrong-way')
  })
})

describe('what is compared with the books', () => {
  const begun = (weightMg: number, bookedMg: number | null, at: number, cylinderId = 'A') =>
    wrote(
      'run-started',
      {
        runId: String(at),
        use: 'recover',
        cylinderId,
        scale: '',
        mode: 'gross',
        weightMg,
        ...(bookedMg === null ? {} : { bookedMg }),
      },
      at,
    )
  it('is the newest gross start of each cylinder; none where the books were not written down', () => {
    const entries = [begun(35, 65, 1), begun(64, 65, 2), begun(30, null, 3, 'B'), begun(66, 65, 4, 'C')]
    expect(firstGross(foldTape(entries))).toEqual([
      { cylinderId: 'A', at: 2, grossMg: 64 },
      { cylinderId: 'C', at: 4, grossMg: 66 },
    ])
  })
})
