import { v5 } from 'uuid'
import { type Entry, type Saying, versionOf } from '#core/tape'

const NAMESPACE = '0b0c9a1e-3d0a-4f7f-9a55-6f2f1e0a7c11'

/** The same id for the same thing of a programme, every time: what is sent again changes nothing. */
export const idIn = (programmeId: string, name: string): string => v5(`${programmeId} ${name}`, NAMESPACE)

/** Who writes: one count for each, so that its own order holds. */
interface Writer {
  programmeId: string
  /** station, or who gave a hand. */
  name: string
  at: number
  /** Where its count stands. */
  from: number
}

/** What is to be said, as entries of one writer, in this order. */
export function entriesOf(sayings: readonly Saying[], { programmeId, name, at, from }: Writer): Entry[] {
  return sayings.map(
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
}
