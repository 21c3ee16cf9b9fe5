import type { InSystem } from '#core/tape'

/** What a figure of what is in the system is. */
export const IN_SYSTEM_WORDS: Record<InSystem['kind'], string> = {
  empty: 'In the system',
  weighed: 'In the system',
  'as-found': 'In the system: as found, not weighed',
  added: 'Added; the total is not known',
  taken: 'Taken out; what is left is not known',
}
