import { recoveredEpisode } from '../mass/episodes'
import { asFound, inSystemNow, type Reference } from '../mass/in-system'
import { expectedMass } from '../judging/judge'
import type { JobState } from '../envelope/state'

export type Whereabouts =
  | { place: 'in-system' | 'added-to-system' | 'should-be-in-system' | 'rig' | 'missing'; massMg: number }
  | { place: 'cylinder'; cylinderId: string; massMg: number }

/** Where the refrigerant of a job is now; places with nothing in them are left out. */
export function whereabouts(state: JobState, reference: Reference): Whereabouts[] {
  const now = inSystemNow(state)
  const parts: Whereabouts[] = []
  if (now.kind === 'weighed') parts.push({ place: 'in-system', massMg: now.massMg })
  if (now.kind === 'added') parts.push({ place: 'added-to-system', massMg: now.massMg })
  const foundMg = asFound(reference)?.weighed.massMg ?? 0
  if (now.kind === 'as-found' || now.kind === 'taken')
    parts.push({ place: 'should-be-in-system', massMg: foundMg - (now.kind === 'taken' ? now.massMg : 0) })
  const into = new Map<string, number>()
  let rigMg = state.rigKept.reduce((sum, each) => sum + each.massMg, 0)
  for (const transfer of state.transfers) {
    const sign = transfer.use === 'recover' ? 1 : -1
    into.set(transfer.cylinderId, (into.get(transfer.cylinderId) ?? 0) + sign * transfer.amountMg)
    if (transfer.use === 'charge') rigMg += transfer.hoseMg
  }
  for (const [cylinderId, massMg] of into) parts.push({ place: 'cylinder', cylinderId, massMg })
  parts.push({ place: 'rig', massMg: rigMg }, { place: 'missing', massMg: missingMg(state, reference) })
  return parts.filter((part) => part.massMg > 0)
}

/** What should have been in a system that was emptied, and did not come out. */
function missingMg(state: JobState, reference: Reference): number {
  const episode = recoveredEpisode(state)
  const how = episode?.emptiedAt === undefined ? undefined : episode.end?.how
  if (!episode || (how !== 'emptied' && how !== 'lost')) return 0
  return (expectedMass(state, reference)?.massMg ?? 0) - episode.recoveredMg - episode.keptMg
}
