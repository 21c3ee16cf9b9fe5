export * from './identify'
export * from './air'
export { type AtRestCode, judgeAtRest, type RestVerdict } from './at-rest'
