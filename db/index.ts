export { BusyError } from './busy'
export { closeDatabase, databaseAnswers, databaseLoad, inShop, onJob, type ShopTx } from './connection'
export { line, lines } from './line'
export * from './people/sign-in'
export * from './shop'
export * from './people/people'
export * from './customers'
export * from './cylinders'
export * from './systems'
export * from './jobs/jobs'
export { foldOpen, openTape, type OpenTape, tapeOf } from './jobs/tape'
export * from './jobs/append'
export { keepPhoto, photoOf } from './jobs/photos'
export * from './oil/oil'
export { chargeLags } from './jobs/charge-lags'
export { pastRuns } from './jobs/past-runs'
export { beforeRetrofit, type BeforeRetrofit, type Retrofit, retrofitsOf } from './jobs/retrofits'
export * from './ledger/movements'
export { type Difference, differencesByCause, flows, heldAt, unbalanced } from './ledger/conservation'
export { sheetRows, type SheetPart, stockAt } from './ledger/sheet'
export * from './ledger/vouchers'
export {
  bookDecant,
  DecantAsked,
  type Decanted,
  decantedInto,
  DecantRefused,
  type Giver,
  givers,
} from './decants/decant'
export * from './kit/kit'
export { type ActBody, type ActRow, actsOf, hoursRun, type NewAct, strikeAct, writeAct } from './kit/acts'
export { type DoubtfulTransfer, doubtsOfJob, doubtsOfScale, usesOf } from './kit/uses'
export { bookPurge } from './kit/purge'
export { announce, type Change, NotListeningError, onChange } from './changes'
export { allShops, rebuildOutdated, rebuildSummaries } from './jobs/rebuild'
export {
  busyElsewhere,
  dueRechecks,
  jobsAgainstTheBooks,
  leaksLookedFor,
  leftOffItems,
  type Recheck,
} from './jobs/summary'
export * from './people/tokens'
export { lock } from './locks'
export { ARCHIVE_PARTS } from './archive/parts'
export * from './archive/archive'
export * from './samples'
export { raiseAlarms, raisedIn, unseenAlarms, type UnseenAlarm } from './alarms/alarms'
export {
  forgetRunning,
  keepRunning,
  type Running,
  runningEverywhere,
  type RunningJob,
  runningJobs,
} from './alarms/running'
export * from './programmes/programmes'
export { alone } from './leader'
