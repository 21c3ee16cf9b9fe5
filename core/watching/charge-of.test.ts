import { describe, expect, it } from 'vitest'
import { chargeOf, type ChargeSeen, SNIFFED } from '.'
import { watchCharge } from '../charging'
import { openTransfer } from '../tape'
import { aCourse, type Course } from '../../testing/a-course'

const place = (trade: 'stationary' | 'vehicle', nowMs: number) => ({
  expected: null,
  trade,
  speed: 1,
  nowMs,
})
const open = (course: Course, trade: 'stationary' | 'vehicle', live: [number, number][] = []): ChargeSeen => {
  const state = course.state()
  return chargeOf(
    state,
    openTransfer(state)!,
    (channel) => (channel === 'weight' ? live : []),
    place(trade, live.at(-1)?.[0] ?? state.lastAt),
    { seconds: 2, from: 0 },
  )!
}
/** The cylinder on the scale at 20 kg, its valve opened. */
const opened = (course: Course, hoseMg = 0) =>
  course.write('run-started', {
    runId: 'r',
    use: 'charge',
    cylinderId: 'c',
    scale: '',
    mode: 'gross',
    weightMg: 20_000_000,
    hoseMg,
  })
const emptied = () => aCourse().about('R-134a').recover('c', 0.5).end('emptied').target(0.6)

describe('a running charge', () => {
  it('wants what the target still lacks, and the hose’s share', () => {
    const course = emptied()
    opened(course, 30_000)
    expect(open(course, 'stationary').wantedKg).toBeCloseTo(0.63, 9)
    course.wait(1).write('weight-noted', { runId: 'r', weightMg: 19_800_000 })
    // What is noted counts on both sides: the mark on the scale stays where it is.
    expect(open(course, 'stationary').wantedKg).toBeCloseTo(0.63, 9)
  })
  it('a second source goes on from what the first has brought', () => {
    const course = emptied().charge('c', 0.4)
    course.write('run-started', {
      runId: 'r2',
      use: 'charge',
      cylinderId: 'd',
      scale: '',
      mode: 'gross',
      weightMg: 15_000_000,
    })
    expect(open(course, 'stationary').wantedKg).toBeCloseTo(0.2, 9)
  })
  it('a weight that was asked about and confirmed counts, as it does on the tape', () => {
    const course = aCourse().about('R-134a').recover('c', 0.5).end('emptied').target(3)
    opened(course)
    for (const outKg of [0.1, 0.2, 0.3, 3.2])
      course.wait(1).write('weight-noted', { runId: 'r', weightMg: 20e6 - outKg * 1e6 })
    expect(course.state().transfers.at(-1)!.weighings.at(-1)!.doubt).toBe('jump')
    expect(watchCharge(open(course, 'stationary'))).toMatchObject({
      code: 'over',
      overKg: expect.closeTo(0.2, 9) as number,
    })
  })
  it('reads a live scale, and calls on time', () => {
    const course = emptied()
    opened(course)
    const from = course.state().lastAt
    // 10 g/s: after 59 s 590 g are out, 10 g are left, and a hand takes two seconds.
    const live = Array.from({ length: 60 }, (_, i): [number, number] => [from + i * 1000, 20 - 0.01 * i])
    expect(watchCharge(open(course, 'stationary', live.slice(0, 40))).code).toBe('flowing')
    expect(watchCharge(open(course, 'stationary', live)).code).toBe('close-now')
  })
  it('a knock on the scale is called, and does not count', () => {
    const course = emptied()
    opened(course)
    const from = course.state().lastAt
    const live = Array.from({ length: 40 }, (_, i): [number, number] => [
      from + i * 1000,
      20 - 0.005 * i + (i >= 25 ? 0.3 : 0),
    ])
    const seen = open(course, 'stationary', live)
    expect(seen.jumps).toHaveLength(1)
    // 39 steps of 5 g, but for the one that the knock hides.
    expect(seen.out.at(-1)!.value).toBeCloseTo(0.19, 9)
  })
  it('a vehicle pauses at 15 %, until its vents were sniffed', () => {
    const course = emptied()
    opened(course)
    expect(open(course, 'vehicle')).toMatchObject({ pauses: true })
    expect(open(course, 'vehicle').wantedKg).toBeCloseTo(0.09, 9)
    expect(open(course, 'stationary').pauses).toBe(false)
    course.wait(1).write('weight-noted', { runId: 'r', weightMg: 19_910_000 })
    course.wait(1).step(SNIFFED)
    expect(open(course, 'vehicle').pauses).toBe(false)
    expect(open(course, 'vehicle').wantedKg).toBeCloseTo(0.6, 9)
  })
})
