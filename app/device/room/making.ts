import type { CylinderRow, SystemRow } from '#db'
import type { Units } from '#core/units'
import type { Typed } from '~/base/form/check'
import type { Pack } from '../pack/pack'

/** A cylinder or a system that was made on this device: its row as it is seen here until the server has it. */
export type Making = MakingOf & {
  /** Its id, given here. */
  id: string
  /** Whose it is: nobody else's session sends it. */
  userId: string
  /** The form, as it was typed: the server reads it once more. */
  typed: Typed
  /** In which bare numbers in it are meant. */
  units: Units
  /** When, by this device's clock, ms. */
  at: number
}

export type MakingOf = { kind: 'cylinder'; row: CylinderRow } | { kind: 'system'; row: SystemRow }

/** What became of one that was sent. */
export type Made =
  | { id: string; became: 'made' }
  /** Another one in use has its label: it has this one now. */
  | { id: string; became: 'renamed'; label: string }
  /** It cannot be made like this. */
  | { id: string; became: 'refused'; sentence: string }

/** Not made, with the reason: it stays until somebody makes it anew or throws it away. */
export type MakingAside = Making & { sentence: string }
/** Made, but its label was taken meanwhile: it stays until somebody has read which one it has now. */
export type MakingRenamed = Making & { renamed: string }
/** As a device keeps it. */
export type MakingKept = Making | MakingAside | MakingRenamed

export const isAside = (kept: MakingKept): kept is MakingAside => 'sentence' in kept
export const isRenamed = (kept: MakingKept): kept is MakingRenamed => 'renamed' in kept
export const isUnsentMaking = (kept: MakingKept): kept is Making => !isAside(kept) && !isRenamed(kept)

/** What was made here is among what was taken along; what the server has meanwhile is as it has it. */
export function withMade(pack: Pack, makings: readonly Making[]): Pack {
  if (makings.length === 0) return pack
  const known = new Set([
    ...pack.cylinders.map(({ cylinderId }) => cylinderId),
    ...pack.systems.map(({ systemId }) => systemId),
  ])
  const fresh = makings.filter(({ id }) => !known.has(id))
  return {
    ...pack,
    cylinders: [...pack.cylinders, ...fresh.flatMap((each) => (each.kind === 'cylinder' ? [each.row] : []))],
    // Tapped before all others: it has just been put there.
    atHand: [...fresh.flatMap((each) => (each.kind === 'cylinder' ? [each.id] : [])), ...pack.atHand],
    systems: [...fresh.flatMap((each) => (each.kind === 'system' ? [each.row] : [])), ...pack.systems],
  }
}
