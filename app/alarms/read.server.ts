import { inShop, unseenAlarms, type UnseenAlarm } from '#db'

/** Something that calls, as pages show it. */
export type Calling = Pick<
  UnseenAlarm,
  'jobId' | 'cause' | 'code' | 'urgent' | 'number' | 'title' | 'mine'
> & {
  at: number
}

/** What calls in the jobs of a shop, and nobody has seen yet. */
export async function callingIn(shopId: string, userId: string): Promise<Calling[]> {
  const alarms = await inShop(shopId, (tx) => unseenAlarms(tx, userId))
  return alarms.map(({ raisedAt, ...alarm }) => ({ ...alarm, at: raisedAt.getTime() }))
}
