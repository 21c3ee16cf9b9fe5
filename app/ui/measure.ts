import {
  bareWeightUnit,
  echoWeight,
  formatLength,
  formatPressure,
  formatTemperature,
  formatVacuum,
  formatVolume,
  formatWeight,
  parseLength,
  parsePressure,
  parseTemperature,
  parseVacuum,
  parseVolume,
  oneWeight,
  AmbiguousError,
  UnitError,
  type UnitReading,
  type Units,
} from '#core/units'

export type MeasureKind = 'weight' | 'pressure' | 'vacuum' | 'temperature' | 'volume' | 'length'

/** Units of the reader, and the atmosphere that his gauges are zeroed in. */
export interface ReadersUnits {
  units: Units
  /** Absolute Pa; standard where the place is not known. */
  atmospherePa?: number
}

/** What was typed: read, read in several ways, or not read. */
export type Measured =
  | { kind: 'empty' }
  | { kind: 'one'; value: number; echo: string }
  | { kind: 'choose'; readings: UnitReading[] }
  | { kind: 'wrong'; message: string }

/** Reads a field in the notation of the trade. Values: mg, Pa absolute, K, mL, m. */
export function measure(kind: MeasureKind, text: string, { units, atmospherePa }: ReadersUnits): Measured {
  if (text.trim() === '') return { kind: 'empty' }
  try {
    switch (kind) {
      case 'weight': {
        const massMg = oneWeight(text, bareWeightUnit(units))
        return { kind: 'one', value: massMg, echo: echoWeight(massMg) }
      }
      case 'pressure': {
        const pa = Math.round(parsePressure(text, units.pressure, atmospherePa))
        const other = units.pressure === 'psi' ? 'bar' : 'psi'
        return one(
          pa,
          formatPressure(pa, units.pressure, atmospherePa),
          formatPressure(pa, other, atmospherePa),
        )
      }
      case 'vacuum': {
        const pa = Math.round(parseVacuum(text, units.vacuum, atmospherePa) * 100) / 100
        return one(pa, formatVacuum(pa, 'micron'), formatVacuum(pa, 'Pa'))
      }
      case 'temperature': {
        const kelvin = Math.round(parseTemperature(text, units.temperature) * 100) / 100
        return one(kelvin, formatTemperature(kelvin, 'C'), formatTemperature(kelvin, 'F'))
      }
      case 'volume': {
        const ml = Math.round(parseVolume(text) * 100) / 100
        return one(ml, formatVolume(ml, 'mL'), formatVolume(ml, 'fl oz'))
      }
      case 'length': {
        const metres = parseLength(text, units.length)
        return one(metres, formatLength(metres, 'm'), formatLength(metres, 'ft'))
      }
    }
  } catch (error) {
    if (error instanceof AmbiguousError) return { kind: 'choose', readings: error.readings }
    if (error instanceof UnitError) return { kind: 'wrong', message: error.message }
    throw error
  }
}

function one(value: number, ...notations: string[]): Measured {
  return { kind: 'one', value, echo: notations.join(' = ') }
}

/** A value to read, in the reader's units. */
export function show(kind: MeasureKind, value: number, { units, atmospherePa }: ReadersUnits): string {
  switch (kind) {
    case 'weight':
      return formatWeight(value, units.weight)
    case 'pressure':
      return formatPressure(value, units.pressure, atmospherePa)
    case 'vacuum':
      return formatVacuum(value, units.vacuum)
    case 'temperature':
      return formatTemperature(value, units.temperature)
    case 'volume':
      return formatVolume(value, units.oil)
    case 'length':
      return formatLength(value, units.length)
  }
}

/** The unit that stands beside a field: a bare number is taken in it. */
export function unitBeside(kind: MeasureKind, units: Units): string {
  switch (kind) {
    case 'weight':
      return bareWeightUnit(units)
    case 'pressure':
      return units.pressure === 'psi' ? 'psig' : 'bar g'
    case 'vacuum':
      return units.vacuum
    case 'temperature':
      return `°${units.temperature}`
    case 'volume':
      return 'mL'
    case 'length':
      return units.length
  }
}

/** A value as it would be typed, to put back into a field without loss that matters. */
export function typed(kind: MeasureKind, value: number | null | undefined, reading: ReadersUnits): string {
  if (value === null || value === undefined) return ''
  return show(kind, value, reading)
    .replace('−', '-')
    .replace(' g', kind === 'pressure' ? '' : ' g')
    .replace('psig', 'psi')
    .replace(' vacuum', '')
    .replace(' °', ' ')
}
