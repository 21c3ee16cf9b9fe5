import { OutOfRangeError, type SaturationTable, saturationTempK } from '../../refrigerants'
import type { RangedFigure } from './service'

/** What was read on a running system. Absolute Pa, K; what is missing was not read. */
export interface RunningReadings {
  lowPa?: number
  highPa?: number
  suctionK?: number
  liquidK?: number
  /** Around the condenser; for a vehicle the air that goes in. */
  ambientK?: number
  airOnK?: number
  airOffK?: number
  condenserOffK?: number
  wetBulbK?: number
  ventK?: number
  /** Before and after the liquid-line drier. */
  drierInK?: number
  drierOutK?: number
  /** At rest, before or after: how far its pressure stood above saturation, K, and what that may be off (limit). */
  standing?: { aboveK: number; limitK: number }
}

/** Figures with a meaning of their own, whatever the machine. */
export type PlainFigure = 'approach' | 'air-rise-share' | 'drier-drop' | 'standing'
/** A temperature that a state of the machine goes by, K: no figure that is shown. */
export type AidFigure = 'condensing' | 'air-on'
export type Figure = RangedFigure | PlainFigure | AidFigure
export type ShownFigure = Exclude<Figure, AidFigure>

export interface Derived {
  value: number
  /** One standard deviation that the instruments leave. */
  sigma: number
}

/** Limits of error of what was read with. */
export interface ReadWith {
  lowPa: number
  highPa: number
  clampK: number
  /** Thermometer in air. */
  airK: number
}

const EVEN = Math.sqrt(3)

/**
 * What the readings come to: TD = air on - dew at suction; over ambient = bubble at head - ambient; approach = liquid
 * line - ambient; the share of it by which the condenser's air warms; superheat and subcooling.
 * Each only where its readings are there and lie within the refrigerant's table.
 */
export function figuresOf(
  readings: RunningReadings,
  table: SaturationTable,
  atmospherePa: number,
  by: ReadWith,
): Partial<Record<Figure, Derived>> {
  const low = saturated(table, readings.lowPa, by.lowPa, 'dew')
  const high = saturated(table, readings.highPa, by.highPa, 'bubble')
  const clamp = (value: number | undefined) => value !== undefined && { value, sigma: by.clampK / EVEN }
  const air = (value: number | undefined) => value !== undefined && { value, sigma: by.airK / EVEN }
  const ambient = air(readings.ambientK)
  const over = less(high, ambient)
  const rise = less(air(readings.condenserOffK), ambient)
  const found: Record<Figure, Derived | undefined> = {
    td: less(air(readings.airOnK), low),
    'over-ambient': over,
    superheat: less(clamp(readings.suctionK), low),
    subcooling: less(high, clamp(readings.liquidK)),
    'air-drop': less(air(readings.airOnK), air(readings.airOffK)),
    'low-gauge':
      readings.lowPa === undefined
        ? undefined
        : { value: readings.lowPa - atmospherePa, sigma: by.lowPa / EVEN },
    'vent-drop': less(ambient, air(readings.ventK)),
    approach: less(clamp(readings.liquidK), ambient),
    // Of hardly any difference a share says nothing.
    'air-rise-share':
      over && rise && over.value > 5
        ? {
            value: rise.value / over.value,
            sigma: Math.hypot(rise.sigma, (over.sigma * rise.value) / over.value) / over.value,
          }
        : undefined,
    // Kelvin: what a state of the machine goes by.
    condensing: high,
    'air-on': air(readings.airOnK) || undefined,
    'drier-drop': moved(readings.drierInK, readings.drierOutK, by.clampK / EVEN),
    standing: readings.standing && {
      value: readings.standing.aboveK,
      sigma: readings.standing.limitK / EVEN,
    },
  }
  return Object.fromEntries(Object.entries(found).filter(([, value]) => value !== undefined))
}

/** One clamp read at two places near each other: most of its error is the same at both. */
const MOVED = 0.5

function moved(from: number | undefined, to: number | undefined, sigma: number): Derived | undefined {
  return from === undefined || to === undefined ? undefined : { value: from - to, sigma: MOVED * sigma }
}

function less(a: Derived | undefined | false, b: Derived | undefined | false): Derived | undefined {
  return a && b ? { value: a.value - b.value, sigma: Math.hypot(a.sigma, b.sigma) } : undefined
}

function saturated(
  table: SaturationTable,
  pressurePa: number | undefined,
  limitPa: number,
  point: 'dew' | 'bubble',
): Derived | undefined {
  if (pressurePa === undefined) return undefined
  try {
    const value = saturationTempK(table, pressurePa, point)
    const sigma = Math.abs(saturationTempK(table, pressurePa - limitPa / EVEN, point) - value)
    return { value, sigma }
  } catch (error) {
    // Above the critical point, or below the table: there is no such temperature, and what needs it is left out.
    if (!(error instanceof OutOfRangeError)) throw error
    return undefined
  }
}
