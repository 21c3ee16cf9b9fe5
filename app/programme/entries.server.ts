import { v5 } from 'uuid'
import { type Entry, type Saying, versionOf } from '#core/tape'
import { append, type Appended, readShop, type ShopTx } from '#db'
import { todayIn } from '~/base/session/clock.server'

const NAMESPACE = '0b0c9a1e-3d0a-4f7f-9a55-6f2f1e0a7c11'

/** The same id for the same thing of a programme, every time: what is sent again changes nothing. */
export const idIn = (programmeId: string, name: string): string => v5(`${programmeId} ${name}`, NAMESPACE)

interface Telling {
  jobId: string
  userId: string
  programmeId: string
  /** Who says it, station or hand: one count for each, so that its own order holds. */
  name: string
  /** When it was so by its clock, and where its count stands; left out: now, and at the beginning. */
  at?: number
  from?: number
  /** How far that clock is ahead of ours, ms. */
  offsetMs?: number
  /** It has happened: nothing of it is a decision that could be refused. */
  happened?: boolean
  now: Date
}

/** Writes on the tape what is said of a programme, in this order, once. */
export async function tell(tx: ShopTx, sayings: readonly Saying[], telling: Telling): Promise<Appended> {
  const { jobId, userId, programmeId, name, now, from = 0, offsetMs = 0, happened = false } = telling
  const at = telling.at ?? now.getTime()
  const entries = sayings.map(
    ({ kind, body }, i) =>
      ({
        entryId: idIn(programmeId, `${name} ${from + i}`),
        kind,
        version: versionOf(kind),
        at,
        deviceId: `${name}-${programmeId}`,
        deviceSeq: from + i,
        body,
      }) as Entry,
  )
  const sentAt = happened ? Infinity : now.getTime()
  const today = todayIn((await readShop(tx)).timeZone)
  return append(tx, { jobId, userId, entries, sentAt, offsetMs, now, today })
}
