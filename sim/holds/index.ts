export { madeHold, type MadeHold, type Truth, TRUTHS } from './holds'
