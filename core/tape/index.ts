export type { Entry, EntryBodies, EntryKind, EntryOf, Made, ReadOff } from './entry'
export { NewerEntryError } from './entry'
export type { FigureKind } from './chapter'
export { bodyToday, figureOf, KINDS, refsOf, upcast, versionOf, withoutOwnId } from './chapters'
export type { JobBodies, JobStatus } from './chapters/job'
export type { GasTest, RecoveryBodies, RecoveryPlan } from './chapters/recovery'
export {
  needsClearing,
  type OilBodies,
  type OilClearing,
  type OilDirection,
  oilDueMl,
  type OilPut,
  wrongOil,
} from './chapters/oil'
export * from './oil-moves'
export type { ChargeBodies, ChargeCorrection } from './chapters/charge'
export { type GasChange, RETROFIT_STEPS, type RetrofitBodies, type RetrofitStep } from './chapters/retrofit'
export * from './charge-lag'
export * from './from-station'
export * from './gas-at'
export * from './kit-uses'
export type { TransferBodies } from './chapters/transfer'
export { openTransfer } from './chapters/transfer'
export {
  type LeakMethod,
  type LeakTestBodies,
  LOOKED_WITH,
  type LookedWith,
  type PressureTest,
  pressureTestResult,
  TESTED_PARTS,
  type TestedPart,
} from './chapters/leak-test'
export { type Part, PARTS, type Photo, type PhotoOf, type RepairBodies } from './chapters/repair'
export type { EvacuationBodies, Hold, VacuumMethod, VacuumPlan } from './chapters/evacuation'
export * from './circuit'
export * from './hold-verdict'
export * from './holds'
export {
  type CycleNote,
  type PressureNote,
  type PressurePoint,
  type ReadingsBodies,
  TEMPERATURE_POINTS,
  type TemperatureNote,
  type TemperaturePoint,
} from './chapters/readings'
export { type Programme, type ProgrammeBodies, runningProgramme } from './chapters/programme'
export { leftOf } from './left-of'
export type { GivenVerdict, VerdictAbout, VerdictBodies } from './chapters/verdicts'
export type { KitBodies, UsedKit } from './chapters/kit'
export { kitAt, kitInUse } from './chapters/kit'
export type { Against, AgainstBodies } from './chapters/against'
export type { Watch, WatchBodies, Watched } from './chapters/watches'
export * from './state'
export * from './weighings'
export { FOLD_VERSION, foldTape, once, withWritten } from './fold'
export * from './checkpoint'
export { type Episode, everEmptied, recoveredEpisode, weighedSinceEmpty } from './episodes'
export { isEmpty, openedAt, shutInAt } from './episodes'
export * from './expected-in'
export * from './in-system'
export * from './check-readings'
export * from './instruments'
export * from './charged'
export * from './judge'
export * from './judge-readings'
export * from './leak-known'
export * from './level'
export * from './moved'
export * from './notices'
export * from './pulls'
export * from './shut-in'
export * from './open-points'
export * from './questions'
export * from './time-left'
export * from './clocks'
export * from './vacuum-given'
export * from './whereabouts'
export * from './bookings'
export * from './effects'
export * from './next'
export * from './gross'
export * from './reservations'
export * from './decisions'
export { offsetOf, type Sending } from './offset-of'
export * from './summary'
