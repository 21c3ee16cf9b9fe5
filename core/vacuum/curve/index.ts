export {
  type Answer,
  type Cause,
  type CauseGiven,
  DRY_END,
  DRY_RISE,
  judgeCause,
  NO_LEAK,
  type OpenWhy,
} from './cause'
export { type Curve, onCurve } from './fit'
export { knownAfterS } from './known-after'
export { odditiesIn, type Oddity } from './oddities'
