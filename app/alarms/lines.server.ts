import type { Point } from '#core/samples'
import type { LinesOf } from '#core/watching'
import { type LiveChannel, samplesOf, type ShopTx } from '#db'

/** What was heard on the channels of one job, as far back as its judges look. */
export interface Heard {
  points: Map<string, Point[]>
}

/** No judge looks further back, ms. */
const KEPT_MS = 60 * 60_000

const keyOf = ({ deviceId, channel, kitId }: Pick<LiveChannel, 'deviceId' | 'channel' | 'kitId'>) =>
  `${deviceId} ${channel} ${kitId}`

export const nothingHeard = (): Heard => ({ points: new Map() })

/** Reads on from what is known: only what has been said since. */
export async function hearOn(
  tx: ShopTx,
  heard: Heard,
  channels: readonly LiveChannel[],
  fromMs: number,
  now: Date,
): Promise<void> {
  const since = Math.max(fromMs, now.getTime() - KEPT_MS)
  await Promise.all(
    channels.map(async (channel) => {
      const known = heard.points.get(keyOf(channel)) ?? []
      const last = known.at(-1)
      // A device's clock may be ahead of ours.
      const { at, value } = await samplesOf(
        tx,
        channel,
        new Date(Math.max(last ? last[0] + 1 : since, channel.since.getTime())),
        new Date(now.getTime() + 60_000),
      )
      const all = [...known, ...at.map((ms, i): Point => [ms, value[i]!])]
      heard.points.set(
        keyOf(channel),
        all.slice(
          Math.max(
            0,
            all.findIndex(([ms]) => ms >= since),
          ),
        ),
      )
    }),
  )
}

/** What a judge asks for: the weight only from the scale that the cylinder stands on. */
export function linesOf(heard: Heard, channels: readonly LiveChannel[], scaleId: string | null): LinesOf {
  return (channel) => {
    const wanted = channels.find(
      (each) => each.channel === channel && (channel !== 'weight' || each.kitId === scaleId),
    )
    return wanted ? (heard.points.get(keyOf(wanted)) ?? []) : []
  }
}

/** When each device was heard last, ms. */
export function lastHeard({ points }: Heard, channels: readonly LiveChannel[]): Map<string, number> {
  const last = new Map<string, number>()
  for (const channel of channels) {
    const at = points.get(keyOf(channel))?.at(-1)?.[0]
    if (at !== undefined) last.set(channel.deviceId, Math.max(at, last.get(channel.deviceId) ?? 0))
  }
  return last
}
