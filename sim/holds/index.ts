export { madeHold, type MadeHold, type Truth, TRUTHS } from './holds'
export { type Evacuated, evacuatedTimes } from './on-the-plant'
