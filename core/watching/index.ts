export type { LinesOf, Place } from './lines'
export { levelPaOf, mayStillComeKg, pullOf } from './pull-of'
export { waitedAfter, waitOf } from './wait-of'
