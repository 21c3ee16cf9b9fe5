import type { Tube } from './hose'

/** Inner volume, m3. */
export function tubeVolumeM3({ boreM, lengthM }: Tube): number {
  return (Math.PI / 4) * boreM ** 2 * lengthM
}
