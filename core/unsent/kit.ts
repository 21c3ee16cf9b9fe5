import { holdsGas, type KitKind, recovers } from '../kit'
import { type KitUse, kitUses } from '../tape'
import { gained, type JobAhead } from './books'

/** What of a piece of kit follows from the jobs that used it. */
export interface KitInUse {
  kitId: string
  kind: KitKind
  /** What it holds by the books, mg. */
  balanceMg: number
  /** What went through it last, and when; and when it was purged last. */
  lastGas: string | null
  gasAt: Date | null
  purgedAt: Date | null
  /** Through its filter-drier since that was fitted, mg. */
  passedMg: number
}

/**
 * Kit as it is once what jobs have ahead of the books went through it: the gas that a machine holds now decides what it may pull
 * next. What is no longer said of it (a purge, a pull that was struck) is taken back where it was the last one; what was before it
 * only the server knows, and a machine is then held for one that was not purged.
 */
export function kitAfter<K extends KitInUse>(kit: readonly K[], jobs: readonly JobAhead[]): K[] {
  if (jobs.length === 0) return [...kit]
  const pulled = (state: JobAhead['after']) => kitUses(state).filter(({ use }) => use === 'recover')
  const was = jobs.flatMap(({ before }) => pulled(before))
  const is = jobs.flatMap(({ after }) => pulled(after))
  const held = new Map<string, number>()
  for (const { before, after } of jobs)
    for (const [kitId, massMg] of gained('rig', before, after))
      held.set(kitId, (held.get(kitId) ?? 0) + massMg)
  return kit.map((piece) => {
    const moreMg = held.get(piece.kitId) ?? 0
    const own = (uses: readonly KitUse[]) => uses.filter(({ kitId }) => kitId === piece.kitId)
    const [ownWas, ownIs] = [own(was), own(is)]
    if (moreMg === 0 && ownWas.length + ownIs.length === 0) return piece
    const after = holdsGas(piece.kind) ? { balanceMg: piece.balanceMg + moreMg } : {}
    return { ...piece, ...after, ...(recovers(piece.kind) && throughIt(piece, ownWas, ownIs)) }
  })
}

function throughIt(piece: KitInUse, was: readonly KitUse[], is: readonly KitUse[]): Partial<KitInUse> {
  const passed = (uses: readonly KitUse[]) => uses.reduce((sum, { massMg }) => sum + Math.max(0, massMg), 0)
  const last = is.filter(({ refrigerant }) => refrigerant !== null).sort((a, b) => b.at - a.at)[0]
  const newer = last !== undefined && last.at >= (piece.gasAt?.getTime() ?? -Infinity)
  const purges = (uses: readonly KitUse[]) => uses.flatMap(({ purgedAt }) => purgedAt ?? [])
  const knownAt = piece.purgedAt?.getTime()
  const withdrawn = knownAt !== undefined && purges(was).includes(knownAt) && !purges(is).includes(knownAt)
  const purgedAt = Math.max(...purges(is), withdrawn ? -Infinity : (knownAt ?? -Infinity))
  return {
    passedMg: Math.max(0, piece.passedMg + passed(is) - passed(was)),
    ...(newer && { lastGas: last.refrigerant, gasAt: new Date(last.at) }),
    purgedAt: Number.isFinite(purgedAt) ? new Date(purgedAt) : null,
  }
}
