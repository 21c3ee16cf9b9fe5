import type { LengthStyle } from './length'
import type { PressureStyle, VacuumStyle } from './pressure'
import type { TemperatureStyle } from './temperature'
import type { VolumeStyle } from './volume'
import type { WeightStyle, WeightUnit } from './weight'

/** The units that one person reads and writes. */
export interface Units {
  weight: WeightStyle
  pressure: PressureStyle
  vacuum: VacuumStyle
  temperature: TemperatureStyle
  length: LengthStyle
  oil: VolumeStyle
}

export const US_UNITS: Units = {
  weight: 'lb-oz',
  pressure: 'psi',
  vacuum: 'micron',
  temperature: 'F',
  length: 'ft',
  oil: 'fl oz',
}
export const METRIC_UNITS: Units = {
  weight: 'kg',
  pressure: 'bar',
  vacuum: 'micron',
  temperature: 'C',
  length: 'm',
  oil: 'mL',
}

/** The unit in which a bare weight is taken. */
export function bareWeightUnit(units: Units): WeightUnit {
  return units.weight === 'kg' ? 'kg' : 'lb'
}
