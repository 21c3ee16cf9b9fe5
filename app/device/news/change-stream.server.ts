import { type News, onChange, onSamples } from '#db'

interface ChangeStream {
  shopId: string
  /** Who listens. */
  userId: string
  /** Devices whose samples are wanted, each with the last batch that is known already. */
  devices?: ReadonlyMap<string, number | undefined>
  /** Looked at again at each heartbeat, and when a session of theirs ends; false ends the stream. */
  stillMay: () => Promise<boolean>
  heartbeatMs: number
  /** Version of the program that answers: told first, so that pages of an older one know. */
  build?: string
  /** The reader has gone. */
  signal: AbortSignal
}

/** More than this unread, and the reader is gone or asleep: it comes back and loads everything anew. */
const MOST_UNREAD = 1_000

/**
 * The changes of a shop as server-sent events, ids only, and what some of its devices say. The id of an event says how far
 * each device has been heard, so that a stream that was lost goes on from there. Whatever fails in its timers ends this stream, or is left to
 * the next heartbeat; it never leaves it.
 * @throws NotListeningError when changes cannot be heard now
 */
export async function changeStream({
  shopId,
  userId,
  devices,
  stillMay,
  heartbeatMs,
  build,
  signal,
}: ChangeStream) {
  const bytes = new TextEncoder()
  let controller: ReadableStreamDefaultController<Uint8Array> | undefined
  let beat: NodeJS.Timeout | undefined
  // What comes before the stream has begun waits for it.
  const early: string[] = []
  const heard = new Map<string, number>()
  let ended = false
  const stops: (() => void)[] = []
  const stop = () => stops.splice(0).forEach((each) => each())
  try {
    stops.push(
      await onChange(shopId, (change) => {
        if (change.kind !== 'session') send(`data: ${JSON.stringify(change)}\n\n`)
        else if (change.id === userId) void look()
      }),
    )
    for (const [deviceId, since] of devices ?? [])
      stops.push(await onSamples(shopId, deviceId, since, (news) => tell(deviceId, news)))
  } catch (error) {
    stop()
    throw error
  }
  const stream = new ReadableStream<Uint8Array>(
    {
      start(started) {
        controller = started
        signal.addEventListener('abort', end)
        if (signal.aborted) return end()
        send('retry: 3000\n\n')
        if (build) send(`data: ${JSON.stringify({ kind: 'program', id: build })}\n\n`)
        for (const text of early.splice(0)) send(text)
        beatLater()
      },
      cancel: end,
    },
    { highWaterMark: MOST_UNREAD },
  )
  return stream

  function tell(deviceId: string, news: News | 'refetch') {
    if (news === 'refetch') return send(`data: ${JSON.stringify({ kind: 'refetch', id: deviceId })}\n\n`)
    heard.set(deviceId, Math.max(heard.get(deviceId) ?? 0, news.batch))
    const id = [...heard].map(([device, batch]) => `${device}:${batch}`).join()
    send(`id: ${id}\ndata: ${JSON.stringify({ kind: 'samples', id: deviceId, samples: news.samples })}\n\n`)
  }

  function send(text: string) {
    if (!controller) return void (ended || early.push(text))
    if ((controller.desiredSize ?? 0) <= 0) return finish()
    controller.enqueue(bytes.encode(text))
  }

  function beatLater() {
    beat = setTimeout(() => void heartbeat(), heartbeatMs)
  }

  /** Whether its reader may listen still: else it ends. */
  async function look() {
    // A database that does not answer now says nothing about who may listen.
    const may = await stillMay().catch(() => true)
    // The reader may have gone meanwhile.
    if (!may && controller) finish()
  }

  async function heartbeat() {
    await look()
    if (!controller) return
    send(': beat\n\n')
    if (controller) beatLater()
  }

  function end() {
    controller = undefined
    ended = true
    clearTimeout(beat)
    signal.removeEventListener('abort', end)
    stop()
  }

  function finish() {
    const open = controller
    end()
    open?.close()
  }
}
