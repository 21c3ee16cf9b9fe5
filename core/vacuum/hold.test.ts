import { describe, expect, it } from 'vitest'
import { judgeHold } from '.'
import { PA_PER_MICRON } from '../units'

const hold = (...points: [minutes: number, micron: number][]) =>
  judgeHold(points.map(([minutes, micron]) => ({ atS: minutes * 60, pressurePa: micron * PA_PER_MICRON })))
    .code

describe('judgeHold', () => {
  it('passes ten minutes below 1000 micron', () => {
    expect(hold([0, 420], [5, 600], [10, 640])).toBe('held')
  })
  it('waits for the ten minutes', () => {
    expect(hold([0, 420])).toBe('too-soon')
    expect(hold([0, 420], [9.5, 480])).toBe('too-soon')
  })
  it('fails above the limit, however early, and even when it fell again', () => {
    expect(hold([0, 420], [2, 1500])).toBe('hold-failed')
    expect(hold([0, 420], [5, 1200], [12, 900])).toBe('hold-failed')
  })
  it('says when the target was never reached', () => {
    expect(hold([0, 800], [12, 850])).toBe('held-but-shallow')
  })
})
