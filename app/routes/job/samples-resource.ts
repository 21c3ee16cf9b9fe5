import { type Channel, forChart } from '#core/samples'
import { type ChannelSamples, inShop, jobHead, type LiveChannel, liveChannels, samplesOf } from '#db'
import { found, idOf } from '~/base/form/ids.server'
import type { PastChannel } from '~/device/live/live-store'
import { now } from '~/base/session/clock.server'
import { signedIn } from '~/base/session/signed-in.server'
import type { Route } from './+types/samples-resource'

/** As many as a strip is wide. */
const POINTS = 900

/** What the instruments of a job said while they were its own, thinned so that its shape stays. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const jobId = idOf(params.jobId)
  const channels = await inShop(shop.shopId, async (tx) => {
    found(await jobHead(tx, jobId), 'job')
    return liveChannels(tx, jobId)
  })
  const spans = spansOf(channels, now().getTime() + AHEAD_MS)
  // Several at a time: hours of samples keep the database busy, and it has more than one hand.
  const read = await Promise.all(
    dealt(spans, READERS).map((hand) =>
      inShop(shop.shopId, (tx) =>
        Promise.all(hand.map((each) => samplesOf(tx, each, new Date(each.from), new Date(each.to)))),
      ),
    ),
  )
  return Response.json({ channels: together(read.flat()).map(thin) })
}

const READERS = 2
/** A device's clock may be ahead by so much. */
const AHEAD_MS = 60_000

const dealt = <T>(all: readonly T[], hands: number): T[][] =>
  Array.from({ length: hands }, (_, hand) => all.filter((_, i) => i % hands === hand)).filter(
    (hand) => hand.length > 0,
  )

interface Span {
  deviceId: string
  channel: Channel
  from: number
  to: number
}

/** When each channel was the job's own, ms: a scale that was named as kit and weighed meanwhile is heard once. */
export function spansOf(
  channels: readonly Pick<LiveChannel, 'deviceId' | 'channel' | 'since' | 'until'>[],
  endMs: number,
): Span[] {
  const spans: Span[] = []
  for (const each of channels.toSorted((a, b) => a.since.getTime() - b.since.getTime())) {
    const { deviceId, channel } = each
    const [from, to] = [each.since.getTime(), each.until?.getTime() ?? endMs]
    const last = spans.findLast((span) => span.deviceId === deviceId && span.channel === channel)
    if (last && from <= last.to) last.to = Math.max(last.to, to)
    else spans.push({ deviceId, channel, from, to })
  }
  return spans
}

/** A channel that was a job's own several times is one line. */
function together(read: ChannelSamples[]): ChannelSamples[] {
  const whole = new Map<string, ChannelSamples[]>()
  for (const each of read) {
    const key = `${each.deviceId} ${each.channel}`
    whole.set(key, [...(whole.get(key) ?? []), each])
  }
  return [...whole.values()].map((parts) => {
    const [first, ...others] = parts.toSorted((a, b) => (a.at[0] ?? 0) - (b.at[0] ?? 0))
    if (others.length === 0) return first!
    return {
      ...first!,
      at: first!.at.concat(...others.map((each) => each.at)),
      seq: first!.seq.concat(...others.map((each) => each.seq)),
      value: first!.value.concat(...others.map((each) => each.value)),
    }
  })
}

function thin({ deviceId, channel, at, seq, value }: ChannelSamples): PastChannel {
  const end = at.length - 1
  return {
    deviceId,
    channel,
    points: forChart({ at, value }, POINTS),
    last: end < 0 ? null : { at: at[end]!, value: value[end]!, seq: seq[end]! },
  }
}
