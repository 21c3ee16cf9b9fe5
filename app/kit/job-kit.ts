import { type KitPiece, weighs } from '#core/kit'

/** A piece of kit as a job offers it. */
export interface JobKit extends KitPiece {
  keepsAt: string
  /** Its last check was not passed. */
  failed: boolean
  /** Something on it is due. */
  due: boolean
}

/** A scale as the start of a transfer names it. */
export function namedScale({ kitId, label, facts }: Pick<JobKit, 'kitId' | 'label' | 'facts'>) {
  const { divisionMg, accuracyMg } = facts
  return {
    scale: label,
    scaleId: kitId,
    ...(divisionMg === undefined ? {} : { divisionMg }),
    ...(accuracyMg === undefined ? {} : { accuracyMg }),
  }
}

export const scalesOf = (kit: readonly JobKit[]): JobKit[] =>
  kit.filter((each) => weighs(each.kind) && each.state === 'in-use')
