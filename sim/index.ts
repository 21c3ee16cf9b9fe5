// The front door: what the gateway and, later, practice need of the plant.
export { dice, seedFor } from './dice'
export { type Evacuated, evacuatedTimes, madeHold, type MadeHold, type Truth, TRUTHS } from './holds'
export type { PlantState } from './plant'
export {
  mayControl,
  modeOf,
  play,
  type Player,
  playerOf,
  readScenario,
  type Scenario,
  ScenarioError,
  type Standing,
} from './scenario'
export { stationOf, type StationSetup, type StationState } from './station'
export { type SensorChanges, sensorsOf, sensorsWith } from './sensors'
