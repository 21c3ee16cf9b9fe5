export type { LinesOf, Place } from './lines'
export { levelPaOf, pullOf } from './pull-of'
export { waitedAfter, waitOf } from './wait-of'
