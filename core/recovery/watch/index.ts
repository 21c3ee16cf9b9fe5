export { type AlarmFacts, type PullAlarm, pullAlarms } from './alarms'
export type { Jump } from './jumps'
export { type Pull, type PullState, watch, type Watched } from './pull'
export { type At, trendOf } from './trend'
