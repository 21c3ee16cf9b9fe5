import type { FromDevice } from '~/device/page/page'
import type { FrameData } from './data'

/** What ran when it was taken along; what runs here, the device tells by itself. */
export const frame: FromDevice<FrameData> = ({ pack }, { at }) => {
  const { userId, name, role } = pack.person
  return {
    running: { now: at, jobs: pack.clocks, takenAlong: true },
    calling: pack.calling,
    person: { userId, name, role },
    shop: { name: pack.shop.name, timeZone: pack.shop.timeZone },
    preferences: pack.preferences,
  }
}
