export { type AlsoRead, ALL_READ, readAndJudged } from './read'
export {
  type Device,
  type Fault,
  type FaultSize,
  FAULTS,
  madeRunning,
  mayHave,
  type Running,
} from './running'
