import type { Tube } from './hose'

/**
 * Conductance of a round tube for air at 20 C, m3/s, from viscous to molecular flow (standard interpolation of vacuum
 * technology): C [L/s] = 135 d^4/l p + 12.1 d^3/l (1 + 192 d p)/(1 + 237 d p), d and l in cm, p in mbar.
 * Holds for long tubes (length over 20 times the bore), laminar flow and air near 20 C: not for the first seconds from
 * atmosphere, where flow is turbulent. Short wide parts come out too good.
 * @param meanPa mean of the pressures at its ends, absolute, above 0
 */
export function conductance({ boreM, lengthM }: Tube, meanPa: number): number {
  const d = boreM * 100
  const l = lengthM * 100
  const p = meanPa / 100
  const litres = ((135 * d ** 4) / l) * p + ((12.1 * d ** 3) / l) * ((1 + 192 * d * p) / (1 + 237 * d * p))
  return litres / 1000
}

/** Of several in a row: 1/C adds. */
export function seriesConductance(tubes: readonly Tube[], meanPa: number): number {
  let resistance = 0
  for (const tube of tubes) resistance += 1 / conductance(tube, meanPa)
  return 1 / resistance
}
