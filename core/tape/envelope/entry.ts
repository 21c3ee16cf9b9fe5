import type { Channel } from '../../samples'
import type { AgainstBodies } from '../chapters/against'
import type { ChargeBodies } from '../chapters/charge'
import type { EvacuationBodies } from '../chapters/evacuation'
import type { JobBodies } from '../chapters/job'
import type { KitBodies } from '../chapters/kit'
import type { LeakTestBodies } from '../chapters/leak-test'
import type { OilBodies } from '../chapters/oil'
import type { ProgrammeBodies } from '../chapters/programme'
import type { ReadingsBodies } from '../chapters/readings'
import type { RecoveryBodies } from '../chapters/recovery'
import type { RepairBodies } from '../chapters/repair'
import type { RetrofitBodies } from '../chapters/retrofit'
import type { TransferBodies } from '../chapters/transfer'
import type { VerdictBodies } from '../chapters/verdicts'
import type { WatchBodies } from '../chapters/watches'

/** What each kind of entry says. Masses in whole mg, pressures absolute Pa, temperatures K, volumes mL. */
export interface EntryBodies
  extends
    JobBodies,
    ProgrammeBodies,
    TransferBodies,
    RecoveryBodies,
    RepairBodies,
    RetrofitBodies,
    LeakTestBodies,
    EvacuationBodies,
    OilBodies,
    ChargeBodies,
    ReadingsBodies,
    WatchBodies,
    AgainstBodies,
    KitBodies,
    VerdictBodies {}

export type EntryKind = keyof EntryBodies

/** Names one sample of a live instrument, which the server keeps. */
export interface ReadOff {
  deviceId: string
  channel: Channel
  seq: number
}

/**
 * When an entry was made by what nobody can set: the time since its page was opened. A clock that is set between making and
 * sending is told apart from a phone that slept by it, and by what was heard of the server (`offsetOf`).
 */
export interface Made {
  /** Which life of which page: its times can be compared with one another. */
  life: string
  /** Since that page was opened, ms; on some phones it stands still while they sleep. */
  ms: number
  /** How far the device's clock was ahead of the server's, as it had heard last, ms; left out: never. */
  heardMs?: number
}

export interface EntryOf<K extends EntryKind> {
  /** Made where it was written: sending it twice changes nothing. */
  entryId: string
  kind: K
  version: number
  /** When it was so, milliseconds since 1970, by the clock of the device. */
  at: number
  /** Written later than that: its time was said by hand, and is no clock's. */
  backdated?: boolean
  deviceId: string
  /** Read off a live instrument: the sample that counts. */
  sample?: ReadOff
  /** The device's own count: within one device it decides the order, whatever its clock did. */
  deviceSeq: number
  body: EntryBodies[K]
  /** Sent along, and not kept: its offset is what it was for. */
  made?: Made
  /** How far the device's clock was ahead of the server's when it made this, ms; missing in old and in waiting ones. */
  offsetMs?: number
  /** Given by the server under the job's lock; missing while it waits to be sent. */
  seq?: number
  userId?: string
}

export type Entry = { [K in EntryKind]: EntryOf<K> }[EntryKind]

/** The tape holds an entry from a newer Keg. */
export class NewerEntryError extends Error {
  override name = 'NewerEntryError'
}
