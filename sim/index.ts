// The front door: what the gateway and, later, practice need of the plant.
export {
  type Controls,
  newPlant,
  type PlantParameters,
  type PlantState,
  STEP_S,
  step,
  totalKg,
  TYPICAL,
} from './plant'
export {
  headOf,
  modeOf,
  play,
  type Player,
  playerOf,
  readScenario,
  rowOf,
  type Scenario,
  ScenarioError,
} from './scenario'
export { type Channel, type SensorSetup, type Sensors, sensorsOf, USUAL_SENSORS } from './sensors'
