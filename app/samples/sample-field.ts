import { type Channel, isChannel } from '#core/samples'
import type { ReadOff } from '#core/tape'
import { isId } from '~/base/form/id'

/** A sample in a field of a form; empty: what was typed came from no instrument. */
export const sampleText = (from: ReadOff | undefined): string =>
  from ? `${from.deviceId} ${from.channel} ${from.seq}` : ''

/** The sample that a field names; undefined where it names none of that channel. */
export function sampleNamed(text: string | undefined, channel: Channel): ReadOff | undefined {
  const [deviceId, named, count] = (text ?? '').split(' ')
  const seq = Number(count)
  if (!isId(deviceId) || !isChannel(named) || named !== channel || !count) return undefined
  return Number.isSafeInteger(seq) && seq >= 0 ? { deviceId, channel, seq } : undefined
}
