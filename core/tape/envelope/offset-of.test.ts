// Where an entry belongs in time when clocks are set while it waits.
import { describe, expect, it } from 'vitest'
import { offsetOf } from '..'

const HOUR = 3_600_000
const DAY = 24 * HOUR
/** True time, ms: the page was opened at 0 of it. */
const T0 = Date.UTC(2026, 5, 1, 10)

/** An entry made and sent at true times after the page was opened, by clocks that were so far ahead then. */
function course({
  madeAt,
  sentAt,
  aheadThen,
  aheadNow,
  heardMs,
  sleptMs = 0,
  anotherLife = false,
}: {
  madeAt: number
  sentAt: number
  aheadThen: number
  aheadNow: number
  heardMs?: number
  sleptMs?: number
  anotherLife?: boolean
}) {
  const heard = heardMs === undefined ? {} : { heardMs }
  const entry = { at: T0 + madeAt + aheadThen, made: { life: 'a', ms: madeAt, ...heard } }
  const offset = offsetOf(entry, {
    sentAt: T0 + sentAt + aheadNow,
    offsetMs: aheadNow,
    made: { life: anotherLife ? 'b' : 'a', ms: anotherLife ? 1_000 : sentAt - sleptMs },
  })
  // Off by so much from when it was really made.
  return entry.at - offset - (T0 + madeAt)
}

describe('an entry belongs where it was made', () => {
  it.each<[string, Parameters<typeof course>[0]]>([
    ['a clock that stays', { madeAt: HOUR, sentAt: 2 * HOUR, aheadThen: 0, aheadNow: 0, heardMs: 0 }],
    [
      'a clock that is wrong all along',
      { madeAt: HOUR, sentAt: 2 * HOUR, aheadThen: -DAY, aheadNow: -DAY, heardMs: -DAY },
    ],
    ['wrong all along, and never heard', { madeAt: HOUR, sentAt: 2 * HOUR, aheadThen: DAY, aheadNow: DAY }],
    [
      'a day behind, set right when signal is back',
      { madeAt: HOUR, sentAt: 2 * HOUR, aheadThen: -DAY, aheadNow: 0, heardMs: -DAY },
    ],
    ['a day ahead, set right', { madeAt: HOUR, sentAt: 2 * HOUR, aheadThen: DAY, aheadNow: 0, heardMs: DAY }],
    ['a day ahead, set right, never heard', { madeAt: HOUR, sentAt: 2 * HOUR, aheadThen: DAY, aheadNow: 0 }],
    [
      'set a day ahead while it waits',
      { madeAt: HOUR, sentAt: 2 * HOUR, aheadThen: 0, aheadNow: DAY, heardMs: 0 },
    ],
    [
      'set wrong without signal before it was made, and right again',
      { madeAt: HOUR, sentAt: 2 * HOUR, aheadThen: DAY, aheadNow: 0, heardMs: 0 },
    ],
    [
      'set right before it was made',
      { madeAt: HOUR, sentAt: 2 * HOUR, aheadThen: 0, aheadNow: 0, heardMs: -DAY },
    ],
    [
      'a phone that slept',
      { madeAt: HOUR, sentAt: 9 * HOUR, aheadThen: 0, aheadNow: 0, heardMs: 0, sleptMs: 7 * HOUR },
    ],
    [
      'slept, and wrong all along',
      { madeAt: HOUR, sentAt: 9 * HOUR, aheadThen: DAY, aheadNow: DAY, heardMs: DAY, sleptMs: 7 * HOUR },
    ],
    [
      'slept, and set right',
      { madeAt: HOUR, sentAt: 9 * HOUR, aheadThen: -DAY, aheadNow: 0, heardMs: -DAY, sleptMs: 7 * HOUR },
    ],
    [
      'another page sends it, and the clock was set',
      { madeAt: HOUR, sentAt: 2 * HOUR, aheadThen: -DAY, aheadNow: 0, heardMs: -DAY, anotherLife: true },
    ],
    [
      'another page sends it',
      { madeAt: HOUR, sentAt: 2 * HOUR, aheadThen: 0, aheadNow: 0, heardMs: 0, anotherLife: true },
    ],
  ])('%s', (_, given) => expect(course(given)).toBe(0))

  it('what drifts by less than a minute is taken as it is', () => {
    expect(course({ madeAt: HOUR, sentAt: 2 * HOUR, aheadThen: 0, aheadNow: 30_000, heardMs: 0 })).toBe(
      -30_000,
    )
  })
  it('a device of before says nothing of it: the offset at sending', () => {
    expect(offsetOf({ at: T0 }, { sentAt: T0 + HOUR, offsetMs: 500 })).toBe(500)
  })
})
