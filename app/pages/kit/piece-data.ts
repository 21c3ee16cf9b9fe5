import type { ActRow, cylindersOfGas, doubtsOfScale, KitRow, MovementRow, usesOf } from '#db'

/** What the page of one piece of kit shows. */
export interface PieceData {
  piece: KitRow
  /** null: only the server has it. */
  record: PieceRecord | null
  /** It was used here, and the server does not know yet. */
  ahead: boolean
  today: string
  timeZone: string
  mayWrite: boolean
}

/** All that was done with it, and what follows from that alone. */
interface PieceRecord {
  acts: ActRow[]
  doubts: Awaited<ReturnType<typeof doubtsOfScale>>
  uses: Awaited<ReturnType<typeof usesOf>>
  ledger: MovementRow[]
  /** That what it holds may go into. */
  cylinders: Awaited<ReturnType<typeof cylindersOfGas>>
  /** Hours since a pump's oil was changed. */
  ran: number | null
  bottle: BottleLevel | undefined
}

/** What a bottle held when it was looked at last, or full, and what jobs took since. */
export interface BottleLevel {
  ml: number | undefined
  since: Date | null
  takenMl: number
}
