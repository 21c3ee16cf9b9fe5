export { headOf, modeOf, rowOf } from './columns'
export { play, type Player, playerOf } from './play'
export { readScenario, type Scenario, ScenarioError } from './scenario'
