export type { Entry, EntryBodies, EntryKind, EntryOf, Made, ReadOff } from './envelope/entry'
export { NewerEntryError } from './envelope/entry'
export type { FigureKind } from './envelope/chapter'
export { bodyToday, figureOf, KINDS, refsOf, upcast, versionOf, withoutOwnId } from './folding/chapters'
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
export * from './mass/oil-moves'
export type { ChargeBodies, ChargeCorrection } from './chapters/charge'
export { type GasChange, RETROFIT_STEPS, type RetrofitBodies, type RetrofitStep } from './chapters/retrofit'
export * from './mass/charge-lag'
export * from './station/from-station'
export * from './envelope/gas-at'
export * from './mass/kit-uses'
export type { TransferBodies } from './chapters/transfer'
export { openTransfer } from './envelope/open-transfer'
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
export * from './judging/circuit'
export * from './judging/hold-verdict'
export * from './judging/holds'
export {
  type CycleNote,
  type PressureNote,
  type PressurePoint,
  type ReadingsBodies,
  TEMPERATURE_POINTS,
  type TemperatureNote,
  type TemperaturePoint,
} from './chapters/readings'
export type { Programme, ProgrammeBodies } from './chapters/programme'
export { runningProgramme } from './envelope/running-programme'
export { leftOf } from './asks/left-of'
export type { GivenVerdict, VerdictAbout, VerdictBodies } from './chapters/verdicts'
export type { KitBodies, UsedKit } from './chapters/kit'
export { kitAt, kitInUse } from './envelope/kit-at'
export type { Against, AgainstBodies } from './chapters/against'
export type { Watch, WatchBodies, Watched } from './chapters/watches'
export * from './envelope/state'
export * from './mass/weighings'
export { FOLD_VERSION, foldTape, once, withWritten } from './folding/fold'
export * from './folding/checkpoint'
export { type Episode, everEmptied, recoveredEpisode, weighedSinceEmpty } from './mass/episodes'
export { isEmpty, openedAt, shutInAt } from './mass/episodes'
export * from './judging/context'
export { expectedIn, plateOf, wholeByPlate } from './judging/expected-in'
export * from './mass/in-system'
export * from './judging/check-readings'
export * from './mass/instruments'
export * from './mass/charged'
export * from './judging/judge'
export * from './judging/judge-readings'
export * from './mass/leak-known'
export * from './mass/level'
export * from './mass/moved'
export * from './asks/notices'
export * from './mass/pulls'
export * from './judging/shut-in'
export * from './asks/open-points'
export * from './asks/questions'
export * from './judging/time-left'
export * from './asks/clocks'
export * from './judging/vacuum-given'
export * from './asks/whereabouts'
export * from './mass/bookings'
export * from './mass/effects'
export * from './asks/next'
export * from './mass/gross'
export * from './mass/reservations'
export * from './folding/decisions'
export { offsetOf, type Sending } from './envelope/offset-of'
export * from './asks/summary'
