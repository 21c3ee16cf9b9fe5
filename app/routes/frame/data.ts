import type { Calling } from '~/alarms/read.server'
import type { JobClocks } from '~/clocks/running'
import type { Pack } from '~/offline/pack'

/** What stands around every page. */
export interface FrameData {
  /** What runs against the clock, and what time it is. */
  running: { now: number; jobs: JobClocks[] }
  calling: Calling[]
  person: Pack['person']
  shop: { name: string; timeZone: string }
  preferences: Pack['preferences']
}
