import { differenceSigmaMg, divisionMg, divisionThatCould } from '../scales'

export interface ScaleForCharge {
  /** Two standard deviations of a difference of two of its readings, mg. */
  doubtMg: number
  goodEnough: boolean
  /** The coarsest division that would do, mg; undefined: none that is sold. */
  divisionMg: number | undefined
  /** Its own division was not known. */
  assumed: boolean
}

/** Is a scale good enough for a charge? @param own its division, mg; null: not known */
export function scaleForCharge(own: number | null, heaviestMg: number, toleranceMg: number): ScaleForCharge {
  const doubtMg = 2 * differenceSigmaMg(divisionMg(own, heaviestMg))
  return {
    doubtMg,
    goodEnough: doubtMg <= toleranceMg,
    divisionMg: divisionThatCould(toleranceMg),
    assumed: own === null,
  }
}
