import type { AgainstSlice } from '../chapters/against'
import type { ChargeSlice } from '../chapters/charge'
import type { EvacuationSlice } from '../chapters/evacuation'
import type { JobSlice } from '../chapters/job'
import type { KitSlice } from '../chapters/kit'
import type { LeakTestSlice } from '../chapters/leak-test'
import type { OilSlice } from '../chapters/oil'
import type { ProgrammeSlice } from '../chapters/programme'
import type { ReadingsSlice } from '../chapters/readings'
import type { RecoverySlice } from '../chapters/recovery'
import type { RepairSlice } from '../chapters/repair'
import type { RetrofitSlice } from '../chapters/retrofit'
import type { TransferSlice } from '../chapters/transfer'
import type { VerdictSlice } from '../chapters/verdicts'
import type { WatchSlice } from '../chapters/watches'
import type { Entry } from './entry'

/** The usual order of a job's stages. Never a forced one: any may be entered at any time, and again. */
export const STAGES = [
  'prepare',
  'recover',
  'repair',
  'leak-test',
  'evacuate',
  'oil',
  'charge',
  'verify',
  'close',
] as const
export type Stage = (typeof STAGES)[number]
export type StageProgress = 'untouched' | 'begun' | 'done'

/** What a tape says that cannot be so, or should be looked at. */
export type FlagCode =
  | 'weight-without-start'
  | 'weight-after-end'
  | 'hold-without-start'
  | 'noted-after-close'
  | 'correction-without-entry'
  | 'two-at-once'
  | 'emptied-not-borne-out'
  | 'gas-unaccounted'
  | 'backflow'
  | 'against-the-books'
  | 'oil-wrong-for-drive'

/** An entry as the tape shows it. */
export interface TapeLine {
  entry: Entry
  /** When it was so, by the server's clock as far as it is known. */
  time: number
  /** What counts: the entry's own body in today's version, or that of its last correction. */
  body: Entry['body']
  struck: boolean
  correctedBy?: Entry
}

/** How far a device has been heard. */
export interface DeviceClock {
  seq: number
  time: number
  offsetMs: number
}

interface TapeSlice {
  /** How many entries it was folded from. */
  entries: number
  lines: TapeLine[]
  /** Raised by entries; {@link JobState.flags} has those that follow from the state as well. */
  raised: FlagCode[]
  flags: FlagCode[]
  clocks: Record<string, DeviceClock>
  /** All cylinders, systems and kit that its entries ever named, struck ones too. */
  named: { cylinders: string[]; systems: string[]; kit: string[] }
}

/** Everything that follows from a tape. Flat: chapters write their slice, and read the whole. */
export interface JobState
  extends
    TapeSlice,
    JobSlice,
    ProgrammeSlice,
    TransferSlice,
    RecoverySlice,
    RepairSlice,
    RetrofitSlice,
    LeakTestSlice,
    EvacuationSlice,
    OilSlice,
    ChargeSlice,
    ReadingsSlice,
    WatchSlice,
    AgainstSlice,
    KitSlice,
    VerdictSlice {}

export function raise(state: JobState, code: FlagCode): void {
  if (!state.raised.includes(code)) state.raised.push(code)
}

/** Whether a step was ticked off, at or after a time where one is given. */
export function stepDone({ steps }: JobState, step: string, since = -Infinity): boolean {
  return steps.some((each) => each.step === step && each.at >= since)
}

/** By the last word of an identifier: not one gas, or not the one that is named. */
export function gasIsFoul({ gasTests }: Pick<JobState, 'gasTests'>): boolean {
  return gasTests.findLast((each) => each.test === 'identifier')?.passed === false
}
