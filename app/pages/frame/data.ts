import type { Calling } from '~/alarms/read.server'
import type { JobClocks } from '~/device/clocks/running'
import type { Pack } from '~/device/pack/pack'

/** What runs, as the server said; or when the page was opened without it. */
export interface Running {
  now: number
  jobs: JobClocks[]
  /** From what was taken along: what this device has seen since is truer. */
  takenAlong?: boolean
}

/** What stands around every page. */
export interface FrameData {
  /** What runs against the clock, and what time it is. */
  running: Running
  calling: Calling[]
  person: Pack['person']
  shop: { name: string; timeZone: string }
  preferences: Pack['preferences']
}
