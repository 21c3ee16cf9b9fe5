import type { JobState } from './state'

/**
 * The gas that the system of a job held at a time: another one before a retrofit than after it.
 * @returns null: nobody has said
 */
export function gasAt({ gasChanges, refrigerant }: JobState, at: number): string | null {
  const next = gasChanges.find((change) => at < change.at)
  return next ? next.from : refrigerant
}
