import type { JobKit } from '~/kit/job-kit'
import { useJob } from '../job-context'

/** Bottles of oil, or of dye, to choose from. */
export function useBottles(contents: 'oil' | 'dye'): JobKit[] {
  const { data } = useJob()
  return data.kit.filter((each) => each.kind === 'bottle' && (each.facts.contents ?? 'oil') === contents)
}

export const bottleName = ({ label, facts }: JobKit) =>
  [label, [facts.oilType, facts.viscosity].filter(Boolean).join(' '), facts.dyed && 'with dye']
    .filter(Boolean)
    .join(', ')
