import { inShop } from '../connection'
import { announceSamples } from './hear'
import { type Post, takePosts, type Taken } from './take'

interface Waiting extends Post {
  done: (taken: Taken | undefined) => void
  failed: (error: unknown) => void
}

/** What one transaction takes at most. */
const MOST_POSTS = 64
const MOST_SAMPLES = 10_000

const waiting = new Map<string, Waiting[]>()

/**
 * Takes a batch of a device, and tells everybody once it is committed. What comes for one shop while a batch is being
 * written goes into the next transaction together: one commit for all that wait, and no wait where nobody else does.
 * @returns undefined when the device has been revoked
 */
export function takeSamples(
  shopId: string,
  deviceId: string,
  sent: readonly unknown[],
  now: Date,
): Promise<Taken | undefined> {
  return new Promise((done, failed) => {
    const queue = waiting.get(shopId)
    const own = { deviceId, sent, now, done, failed }
    if (queue) return void queue.push(own)
    const begun = [own]
    waiting.set(shopId, begun)
    void work(shopId, begun)
  })
}

async function work(shopId: string, queue: Waiting[]) {
  while (queue.length > 0) await takeTogether(shopId, next(queue))
  waiting.delete(shopId)
}

/** The next of a queue that go together; of each device only one, so that batches have a number each. */
function next(queue: Waiting[]): Waiting[] {
  const together: Waiting[] = []
  const later: Waiting[] = []
  const devices = new Set<string>()
  let samples = 0
  for (const each of queue.splice(0)) {
    const fits =
      together.length === 0 || (together.length < MOST_POSTS && samples + each.sent.length <= MOST_SAMPLES)
    if (!fits || devices.has(each.deviceId)) later.push(each)
    else {
      together.push(each)
      samples += each.sent.length
    }
    devices.add(each.deviceId)
  }
  queue.push(...later)
  return together
}

async function takeTogether(shopId: string, posts: Waiting[]): Promise<void> {
  let all: Awaited<ReturnType<typeof takePosts>>
  try {
    all = await inShop(shopId, (tx) => takePosts(tx, posts))
  } catch (error) {
    // What is wrong with one of them, the others need not suffer. A database that does not answer refuses all at once.
    if (posts.length > 1 && isAboutData(error)) for (const each of posts) await takeTogether(shopId, [each])
    else for (const each of posts) each.failed(error)
    return
  }
  for (const [i, each] of all.entries()) {
    const { deviceId, done } = posts[i]!
    done(each?.taken)
    if (each?.taken.batch !== undefined)
      announceSamples(shopId, deviceId, {
        batch: each.taken.batch,
        samples: each.good.map(({ channel, at, value, seq }) => [channel, at, value, seq]),
      })
  }
}

/** SQLSTATE classes of values that do not fit: data exceptions, and what breaks a rule of its table. */
const isAboutData = (error: unknown) => /^2[23]/.test((error as { code?: string }).code ?? '')
