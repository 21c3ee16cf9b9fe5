import type { Gives } from './sources'

/** How what is wanted comes out of the cylinder on the scale: as liquid, the last of it as vapour, or not at all. */
export type Reach = 'as-liquid' | 'by-vapour' | 'not'

/**
 * Whether a cylinder gives what is still wanted, by the most that it can.
 * @param gives what stays in it, at its temperature
 * @param contentsMg what is in it now, by its scale
 * @param wantedMg what has still to come out of it
 */
export function reachOf({ staysLeastMg, drawnDown }: Gives, contentsMg: number, wantedMg: number): Reach {
  if (wantedMg <= contentsMg - staysLeastMg) return 'as-liquid'
  return drawnDown && wantedMg <= contentsMg - drawnDown.warmStaysMg ? 'by-vapour' : 'not'
}
