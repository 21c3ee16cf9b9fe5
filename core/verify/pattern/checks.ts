import { type Cause, type MachineState, STATES } from './causes'
import type { Figure } from './figures'

/** What to look at or measure next: it separates its cause from others. */
export type NextCheck =
  | 'drier-temperatures'
  | 'standing-pressure'
  | 'condenser-coil'
  | 'evaporator-filter'
  | 'pump-down'
  | 'valve-bulb'
  | 'take-some-out'
  | 'weigh-in'
  | 'read-again'
  | 'read-without'
  | MachineState

/** The check that separates a cause, what it gives where it is a reading, and the cheapest first. */
const CHECK_OF: { cause: Cause; check: NextCheck; gives?: Figure }[] = [
  // To be said, not measured.
  ...STATES.map((state) => ({ cause: state, check: state })),
  { cause: 'restriction', check: 'drier-temperatures', gives: 'drier-drop' },
  { cause: 'valve-starved', check: 'drier-temperatures', gives: 'drier-drop' },
  { cause: 'condenser', check: 'condenser-coil', gives: 'air-rise-share' },
  { cause: 'evaporator-air', check: 'evaporator-filter', gives: 'air-drop' },
  { cause: 'air', check: 'standing-pressure', gives: 'standing' },
  { cause: 'valve-flooded', check: 'valve-bulb' },
  { cause: 'compressor', check: 'pump-down' },
  { cause: 'charge-high', check: 'take-some-out' },
  { cause: 'charge-low', check: 'weigh-in' },
]

/** What would separate two causes best: a reading that is missing before one that costs work. */
export function checkBetween(a: Cause, b: Cause, read: (figure: Figure) => boolean): NextCheck {
  const either = CHECK_OF.filter(({ cause }) => cause === a || cause === b)
  return (either.find(({ gives }) => !gives || !read(gives)) ?? either[0])?.check ?? 'read-again'
}
