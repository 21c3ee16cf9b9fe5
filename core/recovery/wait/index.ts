export { M3_PER_KG, type Range } from './returned'
export { type AfterPull, judgeWait, type Wait, type WaitCode, type WaitReason } from './wait'
