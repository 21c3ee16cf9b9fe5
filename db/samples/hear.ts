import { database, inShop } from '../connection'
import { hear } from '../changes'
import { lastBatch, type News, samplesAfter } from './read'

const CHANNEL = 'keg_samples'
/** Announcements of one process within this time go out together. */
const TOGETHER_MS = 20

const waiting = new Set<string>()
let timer: NodeJS.Timeout | undefined

/**
 * Tells every process that a device has said something, once that is committed. Ids only. What is not told is read
 * with what comes next: whoever listens reads on from the last batch it has.
 */
export function announceSamples(shopId: string, deviceId: string): void {
  waiting.add(`${shopId} ${deviceId}`)
  timer ??= setTimeout(() => {
    timer = undefined
    const all = [...waiting]
    waiting.clear()
    // Not in the transaction of the samples: a notice holds up every other commit while it is written.
    database()`select pg_notify(${CHANNEL}, said) from unnest(${all}::text[]) said`.catch(() => {
      // The database has gone: the next batch tells of this one, too.
    })
  }, TOGETHER_MS)
}

type Tell = (news: News | 'refetch') => void

interface Ear {
  shopId: string
  deviceId: string
  last: number
  tells: Set<Tell>
  reading: boolean
  again: boolean
}

const ears = new Map<string, Ear>()

/**
 * Calls back with what a device says, in batches. Several listeners of this process share one read.
 * @param since the last batch that is known already; undefined: from now on
 * @returns a function that ends it
 * @throws NotListeningError
 */
export async function onSamples(
  shopId: string,
  deviceId: string,
  since: number | undefined,
  tell: Tell,
): Promise<() => void> {
  await hear(CHANNEL, heard, lookAgain)
  const key = `${shopId} ${deviceId}`
  const now = await inShop(shopId, async (tx) => (await lastBatch(tx, [deviceId])).get(deviceId) ?? 0)
  const ear = ears.get(key) ?? {
    shopId,
    deviceId,
    last: now,
    tells: new Set<Tell>(),
    reading: false,
    again: false,
  }
  ears.set(key, ear)
  ear.tells.add(tell)
  if (since !== undefined && since < ear.last) {
    // What all others have heard already is read for this one; what comes twice is the same.
    const missed = await inShop(shopId, (tx) => samplesAfter(tx, deviceId, since))
    if (ear.tells.has(tell)) tell(missed ?? 'refetch')
  }
  return () => {
    ear.tells.delete(tell)
    if (ear.tells.size === 0 && ears.get(key) === ear) ears.delete(key)
  }
}

function heard(payload: string) {
  const ear = ears.get(payload)
  if (ear) void read(ear)
}

/** The connection was lost and found again: something may have been said meanwhile. */
function lookAgain() {
  for (const ear of ears.values()) void read(ear)
}

async function read(ear: Ear): Promise<void> {
  if (ear.reading) {
    ear.again = true
    return
  }
  ear.reading = true
  try {
    do {
      ear.again = false
      const news = await inShop(ear.shopId, (tx) => samplesAfter(tx, ear.deviceId, ear.last))
      if (news) ear.last = Math.max(ear.last, news.batch)
      else
        ear.last = await inShop(
          ear.shopId,
          async (tx) => (await lastBatch(tx, [ear.deviceId])).get(ear.deviceId) ?? 0,
        )
      if (!news || news.samples.length > 0) for (const tell of ear.tells) tell(news ?? 'refetch')
    } while (ear.again)
  } catch {
    // The database does not answer: the next announcement, or its return, reads on from the same batch.
  } finally {
    ear.reading = false
  }
}
