import { asPiece } from '#core/kit'
import type { KitRow } from '#db'
import type { JobKit } from './job-kit'

/** @param today where the shop is */
export function jobKit(row: KitRow, today: string): JobKit {
  return {
    ...asPiece(row),
    keepsAt: row.keepsAt,
    failed: row.failedAt !== null,
    due: row.dueOn !== null && row.dueOn <= today,
  }
}
