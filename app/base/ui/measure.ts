import {
  bareWeightUnit,
  echoWeight,
  formatLength,
  formatPressure,
  formatHeight,
  formatLinear,
  formatTemperature,
  formatTemperatureDifference,
  formatVacuum,
  formatVolume,
  formatWeight,
  parseLength,
  parsePressure,
  parseHeight,
  parseLinear,
  parseTemperature,
  parseTemperatureDifference,
  parseVacuum,
  parseVolume,
  oneWeight,
  plateWeight,
  AmbiguousError,
  UnitError,
  MG_PER_G,
  MG_PER_KG,
  MG_PER_OZ,
  usualUnit,
  type UnitReading,
  type Units,
} from '#core/units'

/** plate: a charge read from a plate, where one decimal of a pound may be ounces. */
export type MeasureKind =
  | 'weight'
  | 'plate'
  | 'pressure'
  | 'vacuum'
  | 'temperature'
  | 'difference'
  | 'volume'
  | 'length'
  | 'height'
  | 'flow'
  | 'bore'
  | 'pressure-difference'

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
        return { kind: 'one', value: massMg, echo: echoWeight(massMg, units.weight) }
      }
      case 'plate': {
        const massMg = plateWeight(text, bareWeightUnit(units))
        return { kind: 'one', value: massMg, echo: echoWeight(massMg, units.weight) }
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
        return one(
          pa,
          ...ownFirst(units.vacuum === 'micron', formatVacuum(pa, 'micron'), formatVacuum(pa, 'Pa')),
        )
      }
      case 'temperature': {
        const kelvin = Math.round(parseTemperature(text, units.temperature) * 100) / 100
        return one(
          kelvin,
          ...ownFirst(
            units.temperature === 'C',
            formatTemperature(kelvin, 'C'),
            formatTemperature(kelvin, 'F'),
          ),
        )
      }
      case 'difference': {
        const kelvin = Math.round(parseTemperatureDifference(text, units.temperature) * 100) / 100
        return one(
          kelvin,
          ...ownFirst(
            units.temperature === 'C',
            formatTemperatureDifference(kelvin, 'C'),
            formatTemperatureDifference(kelvin, 'F'),
          ),
        )
      }
      case 'volume': {
        const ml = Math.round(parseVolume(text, units.oil) * 100) / 100
        return one(ml, ...ownFirst(units.oil === 'mL', formatVolume(ml, 'mL'), formatVolume(ml, 'fl oz')))
      }
      case 'length': {
        const metres = parseLength(text, units.length)
        return one(
          metres,
          ...ownFirst(units.length === 'm', formatLength(metres, 'm'), formatLength(metres, 'ft')),
        )
      }
      case 'flow':
      case 'bore':
      case 'pressure-difference': {
        const unit = usualUnit(kind, units)
        const value = parseLinear(kind, text, unit)
        return one(value, formatLinear(kind, value, unit))
      }
      case 'height': {
        // Below the sea it has a minus, and above a thousand metres it is no length of pipe.
        const metres = Math.round(parseHeight(text, units.length))
        return one(
          metres,
          ...ownFirst(units.length === 'm', formatHeight(metres, 'm'), formatHeight(metres, 'ft')),
        )
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

/** The reader's own notation first. */
const ownFirst = (metric: boolean, inMetric: string, inOther: string): string[] =>
  metric ? [inMetric, inOther] : [inOther, inMetric]

/** A value to read, in the reader's units. */
export function show(kind: MeasureKind, value: number, { units, atmospherePa }: ReadersUnits): string {
  switch (kind) {
    case 'weight':
    case 'plate':
      return formatWeight(value, units.weight)
    case 'pressure':
      return formatPressure(value, units.pressure, atmospherePa)
    case 'vacuum':
      return formatVacuum(value, units.vacuum)
    case 'temperature':
      return formatTemperature(value, units.temperature)
    case 'volume':
      return formatVolume(value, units.oil)
    case 'difference':
      return formatTemperatureDifference(value, units.temperature)
    case 'length':
      return formatLength(value, units.length)
    case 'height':
      return formatHeight(value, units.length)
    case 'flow':
    case 'bore':
    case 'pressure-difference':
      return formatLinear(kind, value, usualUnit(kind, units))
  }
}

/** The unit that stands beside a field: a bare number is taken in it. */
export function unitBeside(kind: MeasureKind, units: Units): string {
  switch (kind) {
    case 'weight':
    case 'plate':
      return bareWeightUnit(units)
    case 'pressure':
      return units.pressure === 'psi' ? 'psig' : 'bar g'
    case 'vacuum':
      return units.vacuum
    case 'temperature':
      return `°${units.temperature}`
    case 'volume':
      return units.oil
    case 'difference':
      return units.temperature === 'F' ? '°F' : 'K'
    case 'length':
    case 'height':
      return units.length
    case 'flow':
    case 'bore':
    case 'pressure-difference':
      return usualUnit(kind, units)
  }
}

function weightTyped(massMg: number, { units }: ReadersUnits): string {
  const style = units.weight === 'kg' ? 'kg' : 'lb-oz'
  const isSame = (notation: string) => Math.abs(oneWeight(notation) - massMg) < HALF_G
  const shown = formatWeight(massMg, style).replace('−', '-')
  if (isSame(shown)) return shown
  const size = Math.abs(massMg)
  const sign = massMg < 0 ? '-' : ''
  // Whole grams were read in grams.
  if (style === 'kg' || size % MG_PER_G === 0)
    return size < MG_PER_KG
      ? `${sign}${Number((size / MG_PER_G).toFixed(1))} g`
      : `${sign}${(size / MG_PER_KG).toFixed(3)} kg`
  const hundredths = Math.round((size / MG_PER_OZ) * 100)
  const pounds = Math.floor(hundredths / 1_600)
  const ounces = `${(hundredths % 1_600) / 100} oz`
  return `${sign}${pounds > 0 ? `${pounds} lb ${ounces}` : ounces}`
}

const HALF_G = MG_PER_G / 2

/**
 * A value as it would be typed, to put back into a field: read again it is the same. A weight that the reader's own notation would
 * round, as a plate's 480 g in ounces, keeps its grams.
 */
export function typed(kind: MeasureKind, value: number | null | undefined, reading: ReadersUnits): string {
  if (value === null || value === undefined) return ''
  if (kind === 'weight') return weightTyped(value, reading)
  return show(kind, value, reading)
    .replace('−', '-')
    .replace(' g', kind === 'pressure' ? '' : ' g')
    .replace('psig', 'psi')
    .replace(' vacuum', '')
    .replace(' °', ' ')
}
