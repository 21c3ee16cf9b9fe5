import { ZERO_CELSIUS_K } from '../units'

/** A saturation curve on a 1 K grid, as it is stored and sent: plain numbers, SI. */
export interface SaturationData {
  code: string
  /** Temperature of the first row, Celsius. */
  firstC: number
  /** Absolute Pa. */
  bubblePa: number[]
  /** Absolute Pa; left out where it is the bubble pressure. */
  dewPa?: number[]
  /** kg/m3 of the liquid at bubble, of the vapour at dew. */
  liquid: number[]
  vapour: number[]
}

/** The same, prepared for look-ups: natural logarithms, which a cubic follows closely. */
export interface SaturationTable {
  code: string
  firstC: number
  rows: number
  lnBubble: Float64Array
  lnDew: Float64Array
  lnLiquid: Float64Array
  lnVapour: Float64Array
}

export type Side = 'bubble' | 'dew'

/** Asked for a state beyond a refrigerant's table: refused, never extrapolated. */
export class OutOfRangeError extends Error {
  override name = 'OutOfRangeError'
}

export function saturationTable(data: SaturationData): SaturationTable {
  const ln = (values: number[]) => Float64Array.from(values, Math.log)
  const lnBubble = ln(data.bubblePa)
  return {
    code: data.code,
    firstC: data.firstC,
    rows: data.bubblePa.length,
    lnBubble,
    lnDew: data.dewPa ? ln(data.dewPa) : lnBubble,
    lnLiquid: ln(data.liquid),
    lnVapour: ln(data.vapour),
  }
}

/**
 * Saturation pressure, absolute Pa. Bubble for liquid and subcooling, dew for vapour and superheat.
 * Four-point cubic in ln p on the 1 K grid.
 * @throws OutOfRangeError outside the table
 */
export function saturationPressurePa(table: SaturationTable, tempK: number, side: Side): number {
  return Math.exp(valueAt(side === 'bubble' ? table.lnBubble : table.lnDew, gridPosition(table, tempK)))
}

/**
 * Saturation temperature, kelvin: the exact inverse of {@link saturationPressurePa}.
 * @param pressurePa absolute
 * @throws OutOfRangeError outside the table
 */
export function saturationTempK(table: SaturationTable, pressurePa: number, side: Side): number {
  const values = side === 'bubble' ? table.lnBubble : table.lnDew
  const wanted = Math.log(pressurePa)
  const last = table.rows - 1
  if (!(wanted >= values[0]! && wanted <= values[last]!)) {
    const lowBar = (Math.exp(values[0]!) / 1e5).toPrecision(3)
    const highBar = (Math.exp(values[last]!) / 1e5).toPrecision(3)
    throw new OutOfRangeError(
      `${table.code} is tabulated from ${lowBar} to ${highBar} bar absolute; this pressure is outside.`,
    )
  }
  let low = 0
  let high = last
  while (high - low > 1) {
    const middle = (low + high) >> 1
    if (values[middle]! <= wanted) low = middle
    else high = middle
  }
  return table.firstC + ZERO_CELSIUS_K + solve(values, wanted, low)
}

/** Density of saturated liquid (at bubble), kg/m3. @throws OutOfRangeError outside the table */
export function liquidDensity(table: SaturationTable, tempK: number): number {
  return Math.exp(valueAt(table.lnLiquid, gridPosition(table, tempK)))
}

/** Density of saturated vapour (at dew), kg/m3. @throws OutOfRangeError outside the table */
export function vapourDensity(table: SaturationTable, tempK: number): number {
  return Math.exp(valueAt(table.lnVapour, gridPosition(table, tempK)))
}

/** The highest bubble pressure of a table, absolute Pa: the critical point, or where the table ends. */
export function highestPressurePa(table: SaturationTable): number {
  return Math.exp(table.lnBubble[table.rows - 1]!)
}

/** Where a table ends, K: its critical point, or beyond what is worked with. */
export const endOfTableK = (table: SaturationTable): number => table.firstC + table.rows - 1 + ZERO_CELSIUS_K

function gridPosition(table: SaturationTable, tempK: number): number {
  const position = tempK - ZERO_CELSIUS_K - table.firstC
  // A hair of tolerance, so that the ends of the table themselves can be asked for.
  if (!(position >= -1e-9 && position <= table.rows - 1 + 1e-9))
    throw new OutOfRangeError(
      `${table.code} is tabulated from ${table.firstC} to ${table.firstC + table.rows - 1} °C; this temperature is outside.`,
    )
  return position
}

/** Cubic through the four rows around a position (Newton's forward differences). */
function valueAt(values: Float64Array, position: number): number {
  const first = Math.max(0, Math.min(Math.floor(position) - 1, values.length - 4))
  const f0 = values[first]!
  const f1 = values[first + 1]!
  const f2 = values[first + 2]!
  const f3 = values[first + 3]!
  const x = position - first
  const d1 = f1 - f0
  const d2 = f2 - 2 * f1 + f0
  const d3 = f3 - 3 * f2 + 3 * f1 - f0
  return f0 + x * (d1 + ((x - 1) / 2) * (d2 + ((x - 2) / 3) * d3))
}

/** Newton on the cubic of one interval; starts within a few millikelvin and squares its error each time. */
function solve(values: Float64Array, wanted: number, interval: number): number {
  const slope = values[interval + 1]! - values[interval]!
  let position = interval + (wanted - values[interval]!) / slope
  for (let pass = 0; pass < 4; pass++) {
    const step = (wanted - valueAt(values, position)) / slope
    position += step
    if (Math.abs(step) < 1e-10) break
  }
  return Math.max(0, Math.min(values.length - 1, position))
}

/** How far dew lies above bubble at the pressure of a bubble temperature, K; 0 for what boils at one. @throws OutOfRangeError */
export function glideK(table: SaturationTable, bubbleK: number): number {
  if (table.lnDew === table.lnBubble) return 0
  return saturationTempK(table, saturationPressurePa(table, bubbleK, 'bubble'), 'dew') - bubbleK
}
