import { testDate } from '#core/cylinders'
import type { CylinderRow } from '#db'

/** Last day on which a cylinder may be filled, `2026-11-24`; null where it is not known. */
export function plainDateDue(cylinder: CylinderRow, today: string): string | null {
  return testDate(cylinder.testedOn, cylinder.testYears, today, cylinder.kind === 'one-way').dueOn ?? null
}
