/** Where mass can be. `outside`: what a system held before Keg knew it; `unexplained`: what a re-weigh found. */
export type PlaceKind =
  'supplier' | 'cylinder' | 'system' | 'rig' | 'reclaimer' | 'lost' | 'outside' | 'unexplained'

export interface Place {
  kind: PlaceKind
  /** Cylinder, system, or the machine or hoses of a rig; null for all other places, and for a rig that nobody named. */
  id: string | null
}

export type KnownBy = 'weighed' | 'computed' | 'declared'

/** A movement that a tape or a voucher calls for. Mass is positive, whole milligrams; the two ends differ. */
export interface Booking {
  /** Names the movement within its job or voucher: corrections find what was booked by it. */
  key: string
  from: Place
  to: Place
  massMg: number
  refrigerant: string | null
  knownBy: KnownBy
  uncertaintyMg: number
  /** Milliseconds since 1970. */
  at: number
}

export const place = (kind: PlaceKind, id: string | null = null): Place => ({ kind, id })
