import { seriesConductance, type Tube } from '../hoses'

/** A pump and what lies between it and the system. */
export interface EvacuationRig {
  /** Hoses and valve cores in a row. */
  tubes: readonly Tube[]
  /** Free-air speed of the pump, m3/s. */
  pumpM3s: number
  /** Ultimate pressure of the pump, absolute Pa. */
  ultimatePa: number
}

export interface EvacuationPoint {
  atS: number
  pressurePa: number
}

/** It would never get there: what comes in equals what the rig can carry away. */
export class NeverReachedError extends Error {
  override name = 'NeverReachedError'
  constructor(readonly lowestPa: number) {
    super('the target lies below what this rig can reach')
  }
}

/** Halvings of the range: the speed is exact to a few parts in a million. */
const BISECTIONS = 30

/**
 * Speed that arrives at the system, m3/s: the pressure before the pump is bisected until the hoses carry what the pump
 * takes. 1/S = 1/S_pump + sum 1/C, with C at the mean pressure of both ends.
 */
export function effectiveSpeed(rig: EvacuationRig, pressurePa: number): number {
  const { tubes, pumpM3s, ultimatePa } = rig
  if (tubes.length === 0) return pumpM3s
  let low = ultimatePa
  let high = pressurePa
  for (let i = 0; i < BISECTIONS; i++) {
    const middle = (low + high) / 2
    const through = seriesConductance(tubes, (pressurePa + middle) / 2) * (pressurePa - middle)
    if (through > pumpM3s * (middle - ultimatePa)) low = middle
    else high = middle
  }
  return (pumpM3s * ((low + high) / 2 - ultimatePa)) / (pressurePa - ultimatePa)
}

const STEPS = 200

/**
 * How a dry volume comes down, from one pressure to another: V dp/dt = -S_eff(p) (p - p_ult) + Q, integrated over equal
 * steps of ln p by the midpoint rule. Water is not in it.
 * @param leakPaM3s gas that comes in from outside, Pa m3/s
 * @throws NeverReachedError when the target lies below what the rig can reach
 */
export function evacuationCurve(
  rig: EvacuationRig,
  volumeM3: number,
  fromPa: number,
  toPa: number,
  leakPaM3s = 0,
): EvacuationPoint[] {
  const step = Math.log(fromPa / toPa) / STEPS
  const points: EvacuationPoint[] = [{ atS: 0, pressurePa: fromPa }]
  let atS = 0
  for (let i = 0; i < STEPS; i++) {
    const pressurePa = fromPa * Math.exp(-step * (i + 0.5))
    const away =
      pressurePa > rig.ultimatePa ? effectiveSpeed(rig, pressurePa) * (pressurePa - rig.ultimatePa) : 0
    if (away <= leakPaM3s) throw new NeverReachedError(fromPa * Math.exp(-step * i))
    atS += (volumeM3 * pressurePa * step) / (away - leakPaM3s)
    points.push({ atS, pressurePa: fromPa * Math.exp(-step * (i + 1)) })
  }
  return points
}

/**
 * Share of the first air that is left after so many evacuations, each from atmosphere to the same pressure, with dry
 * nitrogen let in between.
 */
export function airLeft(toPa: number, fromPa: number, evacuations: number): number {
  return (toPa / fromPa) ** evacuations
}
