import { expose } from 'comlink'
import { judgeVacuum, type VacuumGiven, type VacuumJudgement } from '#core/vacuum'

/** A hold judged away from the page's own thread. */
const api = {
  judge: (given: VacuumGiven): VacuumJudgement => judgeVacuum(given),
}
export type HoldWorker = typeof api
expose(api)
