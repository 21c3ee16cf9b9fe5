import { GAS_CONSTANT, saturationPressurePa, saturationTempK, tableOf } from '#core/refrigerants'
import { figuresOf, type Figure, judgePattern, type Pattern, type RunningReadings } from '#core/verify'
import { dice, seedFor } from '../dice'
import type { Device, Running } from './running'

/** Instruments as they are sold, and good ones: limits of error. */
export const INSTRUMENTS = {
  ordinary: { lowPa: 20_000, highPa: 50_000, clampK: 1, airK: 0.7 },
  good: { lowPa: 6_000, highPa: 12_000, clampK: 0.3, airK: 0.3 },
}
const ORDINARY = INSTRUMENTS.ordinary
export const ATMOSPHERE_PA = 101_325
const EVEN = Math.sqrt(3)

/** Which readings were taken beyond pressures, both line temperatures and the air around. */
export interface AlsoRead {
  airOn?: boolean
  airOff?: boolean
  condenserOff?: boolean
  drier?: boolean
  standing?: boolean
  /** The weather's own superheat for the orifice is known. */
  wetBulb?: boolean
}
export const ALL_READ: AlsoRead = {
  airOn: true,
  airOff: true,
  condenserOff: true,
  drier: true,
  standing: true,
  wetBulb: true,
}

/** What a technician reads on it with ordinary instruments, and what it comes to. */
export function readAndJudged(
  { of, readings, right }: Running,
  device: Device,
  also: AlsoRead,
  seed: number,
): Pattern | undefined {
  const d = dice(seedFor(seed, 'reading'))
  const off = (limit: number) => (limit / EVEN) * Math.max(-2.5, Math.min(2.5, d.normal()))
  const clampOff = off(ORDINARY.clampK)
  const airOff = off(ORDINARY.airK)
  // One clamp and one thermometer carry their error from place to place; each placing adds its own.
  const clamp = (k: number) => k + 0.7 * clampOff + 0.7 * off(ORDINARY.clampK)
  const air = (k: number) => k + 0.7 * airOff + 0.7 * off(ORDINARY.airK)
  const liquidK = clamp(readings.liquidK)
  const read: RunningReadings = {
    lowPa: readings.lowPa + off(ORDINARY.lowPa),
    highPa: readings.headPa + off(ORDINARY.highPa),
    suctionK: clamp(readings.suctionK),
    liquidK,
    ambientK: air(of.ambientK),
    ...(also.airOn && { airOnK: air(of.airOnK) }),
    ...(also.airOff && { airOffK: air(readings.airOffK) }),
    ...(also.condenserOff && { condenserOffK: air(readings.condenserAirOffK) }),
    ...(also.drier && {
      drierInK: liquidK,
      drierOutK: liquidK - readings.drierDropK + 0.5 * off(ORDINARY.clampK),
    }),
    ...(also.standing && { standing: { aboveK: standingK(of) + off(1.2), limitK: 1.2 } }),
  }
  const figures: Partial<Record<Figure, { value: number; sigma: number }>> = figuresOf(
    read,
    tableOf(of.refrigerant),
    ATMOSPHERE_PA,
    ORDINARY,
  )
  return judgePattern(figures, {
    service: 'comfort',
    metering: device === 'valve' ? 'valve' : 'fixed',
    plateSubcoolingK: null,
    // It was asked: at full load, its head follows the weather, it cools, and the room is dry.
    states: { 'part-load': false, 'head-held': false, heating: false, humid: false },
    ...(also.wetBulb && device === 'orifice' && { targetSuperheatK: right.superheatK + off(1.5) }),
  })
}

/** Off and at rest at the air around: how far the air in it lifts its pressure, in K of saturation. */
function standingK(of: Running['of']): number {
  const table = tableOf(of.refrigerant)
  const volumeM3 = of.evaporatorM3 + of.condenserM3 + of.liquidLineM3
  const gasM3 = volumeM3 - of.chargeKg / 1_050
  const airPa = (of.airMol * GAS_CONSTANT * of.ambientK) / gasM3
  const atRestPa = saturationPressurePa(table, of.ambientK, 'bubble')
  return saturationTempK(table, atRestPa + airPa, 'bubble') - of.ambientK
}
