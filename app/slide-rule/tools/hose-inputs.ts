import { HOSE_BORE_M, type Tube, VALVE_CORE } from '#core/hoses'
import { choice, maybe, usually } from '../fields'

/** How a hose is described, wherever one is asked for. */
export const HOSE = {
  size: choice('Hose', {
    '1/4': '1/4 in, 4.8 mm bore',
    '3/8': '3/8 in, 8 mm bore',
    '1/2': '1/2 in, 11 mm bore',
  }),
  bore: maybe('bore', 'Its bore, if measured', {
    aside: true,
    least: 0.5e-3,
    most: 0.1,
    help: 'Makes differ: the 1/2 in may have up to 12.7 mm.',
  }),
  length: usually('length', 'Length', 1.5, { least: 0.1, most: 50 }),
}

export function hoseTube({
  size,
  bore,
  length,
}: {
  size: string
  bore: number | undefined
  length: number
}): Tube {
  return { boreM: bore ?? HOSE_BORE_M[size]!, lengthM: length }
}

/** Valve cores in the way, in a row with the hose. */
export const cores = (count: number): Tube[] => Array.from({ length: count }, () => VALVE_CORE)
