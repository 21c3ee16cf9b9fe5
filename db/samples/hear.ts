import { askDirectory, inShop } from '../connection'
import { hear } from '../changes'
import { lastBatch, type News, samplesAfter } from './read'

const CHANNEL = 'keg_samples'
/** Announcements of one process within this time go out together. */
const TOGETHER_MS = 20

/** Devices that have said something, with the number of their last batch. */
const waiting = new Map<string, number>()
let timer: NodeJS.Timeout | undefined

/**
 * Tells that a device has said something, once that is committed: whoever listens in this process at once, the others
 * by ids only. What is not told is read with what comes next: whoever listens reads on from the last batch it has.
 */
export function announceSamples(shopId: string, deviceId: string, news: News): void {
  const key = `${shopId} ${deviceId}`
  const ear = ears.get(key)
  if (ear && !ear.reading && ear.last === news.batch - 1) {
    ear.last = news.batch
    tellAll(ear, news)
  } else hearOf(key, news.batch)
  waiting.set(key, Math.max(waiting.get(key) ?? 0, news.batch))
  timer ??= setTimeout(() => {
    timer = undefined
    const all = [...waiting].map(([device, batch]) => `${device} ${batch}`)
    waiting.clear()
    // Not in the transaction of the samples: a notice holds up every other commit while it is written.
    askDirectory((sql) => sql`select pg_notify(${CHANNEL}, said) from unnest(${all}::text[]) said`).catch(
      () => {
        // The database has gone: the next batch tells of this one, too.
      },
    )
  }, TOGETHER_MS)
}

type Tell = (news: News | 'refetch') => void

interface Ear {
  shopId: string
  deviceId: string
  /** The last batch that was told. */
  last: number
  tells: Set<Tell>
  /** Settled once it is known what the last batch was when somebody began to listen. */
  begun: Promise<void>
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
  const ear = ears.get(key) ?? begin(key, shopId, deviceId)
  ear.tells.add(tell)
  const stop = () => {
    ear.tells.delete(tell)
    if (ear.tells.size === 0 && ears.get(key) === ear) ears.delete(key)
  }
  try {
    await ear.begun
    if (since !== undefined && since < ear.last) {
      // What all others have heard already is read for this one; what comes twice is the same.
      const missed = await inShop(shopId, (tx) => samplesAfter(tx, deviceId, since))
      if (ear.tells.has(tell)) tell(missed ?? 'refetch')
    }
  } catch (error) {
    stop()
    throw error
  }
  return stop
}

/** It is there before the database is asked where it stands: what is said meanwhile is read afterwards. */
function begin(key: string, shopId: string, deviceId: string): Ear {
  const ear: Ear = {
    shopId,
    deviceId,
    last: 0,
    tells: new Set<Tell>(),
    begun: Promise.resolve(),
    reading: true,
    again: false,
  }
  ears.set(key, ear)
  ear.begun = lastOf(ear)
    .then((last) => {
      ear.last = last
    })
    .finally(() => {
      ear.reading = false
      if (ear.again) void read(ear)
    })
  return ear
}

async function lastOf({ shopId, deviceId }: Ear): Promise<number> {
  return inShop(shopId, async (tx) => (await lastBatch(tx, [deviceId])).get(deviceId) ?? 0)
}

function heard(payload: string) {
  const at = payload.lastIndexOf(' ')
  hearOf(payload.slice(0, at), Number(payload.slice(at + 1)))
}

function hearOf(key: string, batch: number) {
  const ear = ears.get(key)
  if (ear && (ear.reading || ear.last < batch)) void read(ear)
}

/** The connection was lost and found again: something may have been said meanwhile. */
function lookAgain() {
  for (const ear of ears.values()) void read(ear)
}

/** One that fails is told nothing more, and the others are told all the same. */
function tellAll(ear: Ear, news: News | 'refetch') {
  for (const tell of ear.tells)
    try {
      tell(news)
    } catch (error) {
      ear.tells.delete(tell)
      process.emitWarning(`A listener was given up: ${String(error)}`, 'KegListener')
    }
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
      else ear.last = await lastOf(ear)
      if (!news || news.samples.length > 0) tellAll(ear, news ?? 'refetch')
    } while (ear.again)
  } catch {
    // The database does not answer: the next announcement, or its return, reads on from the same batch.
  } finally {
    ear.reading = false
  }
}
