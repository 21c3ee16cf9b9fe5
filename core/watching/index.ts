export { chargeOf, type ChargeSeen, SNIFFED } from './charge-of'
export { type LinesOf, type Place, readingsFrom } from './lines'
export { levelPaOf, mayStillComeKg, ORDINARY_K, pullOf } from './pull-of'
export { waitedAfter, waitOf } from './wait-of'
