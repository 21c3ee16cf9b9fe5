import { onChange } from '#db'

interface ChangeStream {
  shopId: string
  /** Looked at again at each heartbeat; false ends the stream. */
  stillMay: () => Promise<boolean>
  heartbeatMs: number
  /** The reader has gone. */
  signal: AbortSignal
}

/** More than this unread, and the reader is gone or asleep: it comes back and loads everything anew. */
const MOST_UNREAD = 1_000

/**
 * The changes of a shop as server-sent events, ids only. Whatever fails in its timers ends this stream, or is left to
 * the next heartbeat; it never leaves it.
 * @throws NotListeningError when changes cannot be heard now
 */
export async function changeStream({ shopId, stillMay, heartbeatMs, signal }: ChangeStream) {
  const bytes = new TextEncoder()
  let controller: ReadableStreamDefaultController<Uint8Array> | undefined
  let beat: NodeJS.Timeout | undefined

  const stop = await onChange(shopId, (change) => send(`data: ${JSON.stringify(change)}\n\n`))
  const stream = new ReadableStream<Uint8Array>(
    {
      start(started) {
        controller = started
        signal.addEventListener('abort', end)
        if (signal.aborted) return end()
        send('retry: 3000\n\n')
        beatLater()
      },
      cancel: end,
    },
    { highWaterMark: MOST_UNREAD },
  )
  return stream

  function send(text: string) {
    if (!controller) return
    if ((controller.desiredSize ?? 0) <= 0) return finish()
    controller.enqueue(bytes.encode(text))
  }

  function beatLater() {
    beat = setTimeout(() => void heartbeat(), heartbeatMs)
  }

  async function heartbeat() {
    // A database that does not answer now says nothing about who may listen.
    const may = await stillMay().catch(() => true)
    // The reader may have gone meanwhile.
    if (!controller) return
    if (!may) return finish()
    send(': beat\n\n')
    if (controller) beatLater()
  }

  function end() {
    controller = undefined
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
