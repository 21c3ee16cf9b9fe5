export { type Cause, type MachineState, STATES } from './causes'
export type { NextCheck } from './checks'
export {
  figuresOf,
  type Derived,
  type Figure,
  type ReadWith,
  type RunningReadings,
  type ShownFigure,
} from './figures'
export {
  judgePattern,
  type Pattern,
  type PatternCode,
  type PatternReason,
  type PatternVerdict,
  type Ranked,
} from './judge'
export {
  type Healthy,
  healthyRange,
  lowGaugeIsUsual,
  type RangedFigure,
  type Service,
  type ServiceFacts,
  SERVICES,
  boxAboveK,
  settlesInS,
  settleTimeS,
} from './service'
