import type { FromDevice } from '~/offline/page'
import type { FrameData } from './data'

/** What ran when it was taken along; what runs here, the device tells by itself. */
export const frame: FromDevice<FrameData> = ({ pack }, { at }) => ({
  running: { now: at, jobs: pack.clocks, takenAlong: true },
  calling: pack.calling,
  person: pack.person,
  shop: { name: pack.shop.name, timeZone: pack.shop.timeZone },
  preferences: pack.preferences,
})
