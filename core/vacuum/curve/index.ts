export { type Answer, type Cause, type CauseGiven, judgeCause, type OpenWhy } from './cause'
export { type Curve, onCurve } from './fit'
export { knownAfterS } from './known-after'
export { odditiesIn, type Oddity } from './oddities'
