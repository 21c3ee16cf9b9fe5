import {
  GAS_CONSTANT,
  liquidDensity,
  refrigerant,
  saturationPressurePa,
  tableOf,
  vapourDensity,
} from '#core/refrigerants'
import { ZERO_CELSIUS_K } from '#core/units'
import data from './caloric.json' with { type: 'json' }

/** Rows of a prepared curve in each kelvin: fine enough that a straight line between two of them is exact to 1e-6. */
const PER_K = 10

/** One property over temperature, prepared for millions of look-ups; beyond the table it stays at the table's end. */
export type Curve = (tempK: number) => number

/** A refrigerant as the plant needs it: fast, and never out of range. SI, pressures absolute. */
export interface Fluid {
  code: string
  /** kg/mol. */
  molarKg: number
  bubblePa: Curve
  dewPa: Curve
  /** Saturated liquid and vapour, kg/m3. */
  liquid: Curve
  vapour: Curve
  /** Enthalpy of saturated liquid and vapour, J/kg. */
  liquidJ: Curve
  vapourJ: Curve
  /** Heat capacity of the liquid, J/(kg K). */
  liquidCp: Curve
  /** Inverse of the bubble and the dew curve, K. */
  bubbleK: Curve
  dewK: Curve
}

const made = new Map<string, Fluid>()

/** @throws UnknownRefrigerantError */
export function fluidOf(code: string): Fluid {
  let fluid = made.get(code)
  if (!fluid) made.set(code, (fluid = make(code)))
  return fluid
}

/** Pressure of vapour of this density, Pa: ideal gas bent so that it meets the table at saturation; above it, stiff. */
export function vapourPa(fluid: Fluid, density: number, tempK: number): number {
  const saturationPa = fluid.bubblePa(tempK)
  const saturated = fluid.vapour(tempK)
  if (density > saturated) return (saturationPa * density) / saturated
  const ideal = (saturationPa * fluid.molarKg) / (GAS_CONSTANT * tempK)
  return (saturationPa * density) / (ideal + (1 - ideal / saturated) * density)
}

/** The inverse of {@link vapourPa}, kg/m3. */
export function vapourDensityOf(fluid: Fluid, pressurePa: number, tempK: number): number {
  const saturationPa = fluid.bubblePa(tempK)
  const saturated = fluid.vapour(tempK)
  const share = pressurePa / saturationPa
  if (share > 1) return saturated * share
  const ideal = (saturationPa * fluid.molarKg) / (GAS_CONSTANT * tempK)
  return (share * ideal) / (1 - (1 - ideal / saturated) * share)
}

function make(code: string): Fluid {
  const table = tableOf(code)
  const row = data.fluids.find((each) => each.code === code)!
  const firstK = table.firstC + ZERO_CELSIUS_K
  const last = table.rows - 1
  const curve = (at: (tempK: number) => number) => prepared(firstK, last, at)
  const between = (values: number[]) =>
    curve((tempK) => {
      const position = Math.min(tempK - firstK, last - 1e-9)
      const low = Math.floor(position)
      return values[low]! + (position - low) * (values[low + 1]! - values[low]!)
    })
  const bubblePa = curve((tempK) => saturationPressurePa(table, tempK, 'bubble'))
  const dewPa = curve((tempK) => saturationPressurePa(table, tempK, 'dew'))
  const liquidJ = between(row.liquid)
  return {
    code,
    molarKg: refrigerant(code).molarMassG / 1000,
    bubblePa,
    dewPa,
    liquid: curve((tempK) => liquidDensity(table, tempK)),
    vapour: curve((tempK) => vapourDensity(table, tempK)),
    liquidJ,
    vapourJ: between(row.vapour),
    liquidCp: (tempK) => {
      const middle = Math.min(Math.max(tempK, firstK + 1), firstK + last - 1)
      return (liquidJ(middle + 1) - liquidJ(middle - 1)) / 2
    },
    bubbleK: inverse(bubblePa, firstK, last),
    dewK: inverse(dewPa, firstK, last),
  }
}

function prepared(firstK: number, lastRow: number, at: (tempK: number) => number): Curve {
  const rows = lastRow * PER_K
  const values = Float64Array.from({ length: rows + 1 }, (_, i) => at(firstK + Math.min(i / PER_K, lastRow)))
  return (tempK) => {
    const position = (tempK - firstK) * PER_K
    if (!(position > 0)) return values[0]!
    if (position >= rows) return values[rows]!
    const low = Math.floor(position)
    const under = values[low]!
    return under + (position - low) * (values[low + 1]! - under)
  }
}

/** Of a rising curve, by halving. */
function inverse(curve: Curve, firstK: number, lastRow: number): Curve {
  return (wanted) => {
    let low = firstK
    let high = firstK + lastRow
    if (wanted <= curve(low)) return low
    if (wanted >= curve(high)) return high
    for (let pass = 0; pass < 40; pass++) {
      const middle = (low + high) / 2
      if (curve(middle) < wanted) low = middle
      else high = middle
    }
    return (low + high) / 2
  }
}
