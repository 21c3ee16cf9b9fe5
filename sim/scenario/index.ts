export { headOf, modeOf, rowOf } from './columns'
export { play, type Player, playerOf, type Standing } from './play'
export { mayControl } from './scenario'
export { readScenario, type Scenario, ScenarioError } from './scenario'
