import { describe, expect, it } from 'vitest'
import { aCourse } from '../../../testing/a-course'
import { addedMg, movedInAll } from '..'

const KG = 1_000_000
const job = () => aCourse().about('R-410A', 'sys')

describe('what a job moved', () => {
  it('is all of it, not the last time only', () => {
    // 2.0 of 3 out, 3.0 in, leak, 2.95 out, 3.0 in: 4.95 out, 6.0 in, 1.05 of it was lost before.
    const twice = job()
      .recover('A', 2)
      .end('emptied')
      .charge('B', 3)
      .recover('A', 2.95)
      .end('emptied')
      .charge('B', 3)
    expect(movedInAll(twice.state())).toEqual({ outMg: 4.95 * KG, inMg: 6 * KG })
    expect(addedMg(twice.state())).toBe(1.05 * KG)
  })
  it('added nothing where a new system was filled, or what was taken elsewhere came back', () => {
    expect(addedMg(job().end('never-filled').charge('B', 3).state())).toBe(0)
    expect(addedMg(job().end('elsewhere').charge('B', 3).state())).toBe(0)
    expect(addedMg(job().end('lost').charge('B', 3).state())).toBe(3 * KG)
    expect(addedMg(job().charge('B', 0.5).state())).toBe(0.5 * KG)
  })
  it('never added less than nothing', () => {
    expect(addedMg(job().recover('A', 3).end('emptied').charge('B', 2.8).state())).toBe(0)
  })
})
