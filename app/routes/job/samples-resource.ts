import { type Channel, forChart, type Point } from '#core/samples'
import { inShop, jobHead, type LiveChannel, liveChannels, samplesOf } from '#db'
import { found, idOf } from '~/form/ids.server'
import type { PastChannel } from '~/samples/live-store'
import { now } from '~/session/clock.server'
import { signedIn } from '~/session/signed-in.server'
import type { Route } from './+types/samples-resource'

/** As many as a strip is wide. */
const POINTS = 900

/** What the instruments of a job said while they were its own, thinned so that its shape stays. */
export async function loader({ params, context }: Route.LoaderArgs) {
  const { shop } = signedIn(context)
  const jobId = idOf(params.jobId)
  const read = await inShop(shop.shopId, async (tx) => {
    found(await jobHead(tx, jobId), 'job')
    const channels = await liveChannels(tx, jobId)
    const until = now()
    return Promise.all(
      channels.map(async (each) => ({
        each,
        samples: await samplesOf(tx, each, each.since, each.until ?? new Date(until.getTime() + 60_000)),
      })),
    )
  })
  const channels = [...together(read).values()].map(thin)
  return Response.json({ channels })
}

interface Whole {
  deviceId: string
  channel: Channel
  points: Point[]
  last: PastChannel['last']
}

/** A channel that was a job's own several times is one line. */
function together(read: { each: LiveChannel; samples: { at: number[]; seq: number[]; value: number[] } }[]) {
  const whole = new Map<string, Whole>()
  for (const { each, samples } of read) {
    const key = `${each.deviceId} ${each.channel}`
    const own = whole.get(key) ?? { deviceId: each.deviceId, channel: each.channel, points: [], last: null }
    whole.set(key, own)
    for (let i = 0; i < samples.at.length; i++) own.points.push([samples.at[i]!, samples.value[i]!])
    const end = samples.at.length - 1
    if (end >= 0) own.last = { at: samples.at[end]!, value: samples.value[end]!, seq: samples.seq[end]! }
  }
  return whole
}

function thin({ deviceId, channel, points, last }: Whole): PastChannel {
  return { deviceId, channel, points: forChart(points, POINTS), last }
}
