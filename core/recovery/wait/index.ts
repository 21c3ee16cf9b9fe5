export type { Range } from './returned'
export { type AfterPull, judgeWait, type Wait, type WaitCode, type WaitReason } from './wait'
