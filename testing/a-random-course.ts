// Courses of work chosen by lot: anything in any order, as people do it. The same seed is the same course.
import type { Entry } from '#core/tape'
import { aCourse, type Course } from './a-course'

const LENGTH = 22

/** Numbers from 0 to below 1, the same for the same seed (mulberry32). */
function lots(seed: number): () => number {
  let a = (seed + 1) * 0x9e3779b9
  return () => {
    a = (a + 0x6d2b79f5) | 0
    let t = Math.imul(a ^ (a >>> 15), 1 | a)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 2 ** 32
  }
}

export function randomCourse(seed: number): Entry[] {
  const lot = lots(seed)
  const between = (least: number, most: number) => least + (most - least) * lot()
  const oneOf = <T>(list: readonly T[]) => list[Math.floor(lot() * list.length)]!
  const course = aCourse().about(oneOf(['R-410A', 'R-134a', 'R-744', 'R-407C']), 's')
  const cylinder = () => oneOf(['A', 'B'])
  let ids = 0
  const id = (what: string) => `${what}-${++ids}`
  const acts: (() => Course)[] = [
    () => course.recover(cylinder(), between(0.02, 3)),
    () => course.charge(cylinder(), between(0.02, 3), oneOf([0, 0.02])),
    () => course.begin(oneOf(['recover', 'charge']), cylinder(), between(0, 2)),
    () => course.end(oneOf(['emptied', 'stopped', 'already-empty'] as never[])),
    () => course.search(lot() < 0.4, oneOf(['nitrogen', 'detector', 'bubbles'])),
    () => course.vacuum(between(50, 3_000)),
    () => course.hold(between(100, 900), between(100, 9_000), between(3, 40)),
    () => course.holding(between(100, 900)),
    () => course.target(between(0.3, 4)),
    () => course.step(oneOf(['self-purged', 'compressor-burnt', 'weigh-only', 'hoses-purged'])),
    () => course.low(between(-0.6, 12)),
    () => course.suction(between(-20, 25)),
    () =>
      course.write('watch-started', { watchId: id('watch'), what: oneOf(['pull', 'nitrogen']), forS: 600 }),
    () =>
      course.write('pressure-test-started', {
        testId: id('test'),
        part: 'whole',
        pressurePa: 25e5,
        tempK: 293,
      }),
    () => course.write('oil-noted', { direction: oneOf(['out', 'parts', 'in']), volumeMl: 30, text: '' }),
    () => course.write('system-running', { service: 'comfort', beforeS: 600 }),
    () => course.write('taken-off', { itemId: id('item'), what: 'side panel' }),
    () => course.write('part-replaced', { part: 'drier', number: '', text: '' }),
    () => course.write('job-waiting', { what: 'a valve' }),
    () =>
      course.write('gas-judged', {
        cylinderId: cylinder(),
        condition: oneOf(['clean', 'used', 'doubtful'] as never[]),
      }),
  ]
  for (let i = 0; i < LENGTH; i++) {
    course.wait(between(0.1, 60))
    oneOf(acts)()
  }
  return course.entries
}
