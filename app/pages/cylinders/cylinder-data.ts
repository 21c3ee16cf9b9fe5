import type { CylinderRow, lastJudgement, lastPreparation, MovementRow } from '#db'
import type { CylinderSight } from '~/cylinders/sight'

/** What the page of a cylinder shows. */
export interface CylinderData {
  cylinder: CylinderRow & CylinderSight
  dueOn: string | null
  /** null: not known here. */
  ledger: MovementRow[] | null
  /** Jobs in hand that count on it. */
  jobs: { jobId: string; number: number | null; title: string; roomMg: number }[]
  judged: Awaited<ReturnType<typeof lastJudgement>> | null
  prepared: Awaited<ReturnType<typeof lastPreparation>> | null
  /** Something was done with it here that the server does not know yet. */
  ahead: boolean
  timeZone: string
  loadedAt: number
  mayWrite: boolean
}

/** What the form of a new cylinder offers. */
export interface NewCylinderData {
  cylinderId: string
  voucherId: string
  refrigerants: readonly string[]
  customers: { customerId: string; name: string }[]
}
