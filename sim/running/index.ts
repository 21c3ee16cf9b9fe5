export { HEALTHY_KINDS, healthyJudged, type HealthyKind, SAID_OF } from './healthy'
export { type AlsoRead, ALL_READ, INSTRUMENTS, readAndJudged } from './read'
export {
  type Device,
  type Fault,
  type FaultSize,
  FAULTS,
  madeRunning,
  mayHave,
  type Running,
} from './running'
