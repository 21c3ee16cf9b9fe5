import {
  formatLength,
  formatLinear,
  formatPressure,
  formatTemperature,
  formatTemperatureDifference,
  formatVacuum,
  formatVolume,
  formatWeight,
  type LinearKind,
  M_PER_FT,
  MG_PER_KG,
  MG_PER_LB,
  MG_PER_OZ,
  ML_PER_US_FL_OZ,
  oneWeight,
  PA_PER_BAR,
  PA_PER_MICRON,
  PA_PER_PSI,
  parseLength,
  parseLinear,
  parsePressure,
  parseTemperature,
  parseVacuum,
  parseVolume,
  bareWeightUnit,
  STANDARD_ATMOSPHERE_PA,
  usualUnit,
  ZERO_CELSIUS_K,
  M2_PER_FT2,
  M3_PER_FT3,
} from '#core/units'
import type { ReadersUnits } from '~/base/ui/measure'

/** What a number on the slide rule measures. */
export type KindName = 'weight' | 'pressure' | 'vacuum' | 'temperature' | 'length' | 'oil' | LinearKind

/** One way in which programs give a number: `t_C`. */
export interface Variant {
  suffix: string
  toSi: (value: number, atmospherePa: number) => number
  fromSi: (value: number, atmospherePa: number) => number
}

export interface Kind {
  /** Unit of the value itself. */
  si: string
  /** @throws UnitError */
  read: (text: string, reading: ReadersUnits) => number
  show: (value: number, reading: ReadersUnits) => string
  /** Unit in which a bare number is taken. */
  beside: (reading: ReadersUnits) => string
  /** What a sensible value lies between, where a field says nothing of its own. */
  limits: [least: number, most: number]
  /** The first is the one that limits are documented in. */
  variants: Variant[]
}

const times = (suffix: string, factor: number): Variant => ({
  suffix,
  toSi: (value) => value * factor,
  fromSi: (value) => value / factor,
})
const gauge = (suffix: string, factor: number): Variant => ({
  suffix,
  toSi: (value, atmospherePa) => value * factor + atmospherePa,
  fromSi: (value, atmospherePa) => (value - atmospherePa) / factor,
})
const linear = (name: LinearKind, si: string, limits: Kind['limits'], ...variants: Variant[]): Kind => {
  const unit = ({ units }: ReadersUnits) => usualUnit(name, units)
  return {
    si,
    limits,
    variants,
    beside: unit,
    read: (text, reading) => parseLinear(name, text, unit(reading)),
    show: (value, reading) => formatLinear(name, value, unit(reading)),
  }
}

export const KINDS: Record<KindName, Kind> = {
  weight: {
    si: 'kg',
    limits: [0, 100_000],
    beside: ({ units }) => bareWeightUnit(units),
    read: (text, { units }) => oneWeight(text, bareWeightUnit(units)) / MG_PER_KG,
    show: (kg, { units }) => formatWeight(kg * MG_PER_KG, units.weight),
    variants: [
      times('kg', 1),
      times('g', 1e-3),
      times('lb', MG_PER_LB / MG_PER_KG),
      times('oz', MG_PER_OZ / MG_PER_KG),
    ],
  },
  pressure: {
    si: 'Pa absolute',
    limits: [0, 2e7],
    beside: ({ units }) => (units.pressure === 'psi' ? 'psi' : 'bar'),
    read: (text, { units, atmospherePa }) => parsePressure(text, units.pressure, atmospherePa),
    show: (pa, { units, atmospherePa }) => formatPressure(pa, units.pressure, atmospherePa),
    variants: [
      gauge('bar_g', PA_PER_BAR),
      gauge('psi_g', PA_PER_PSI),
      times('Pa_abs', 1),
      times('bar_abs', PA_PER_BAR),
    ],
  },
  vacuum: {
    si: 'Pa absolute',
    limits: [0.01, 110_000],
    beside: ({ units }) => units.vacuum,
    read: (text, { units, atmospherePa }) => parseVacuum(text, units.vacuum, atmospherePa),
    show: (pa, { units }) => formatVacuum(pa, units.vacuum),
    variants: [times('Pa_abs', 1), times('micron', PA_PER_MICRON)],
  },
  temperature: {
    si: 'K',
    limits: [173.15, 573.15],
    beside: ({ units }) => units.temperature,
    read: (text, { units }) => parseTemperature(text, units.temperature),
    show: (kelvin, { units }) => formatTemperature(kelvin, units.temperature),
    variants: [
      { suffix: 'C', toSi: (c) => c + ZERO_CELSIUS_K, fromSi: (k) => k - ZERO_CELSIUS_K },
      {
        suffix: 'F',
        toSi: (f) => (f - 32) / 1.8 + ZERO_CELSIUS_K,
        fromSi: (k) => (k - ZERO_CELSIUS_K) * 1.8 + 32,
      },
      times('K', 1),
    ],
  },
  length: {
    si: 'm',
    limits: [0, 1000],
    beside: ({ units }) => units.length,
    read: (text, { units }) => parseLength(text, units.length),
    show: (metres, { units }) => formatLength(metres, units.length),
    variants: [times('m', 1), times('ft', M_PER_FT)],
  },
  oil: {
    si: 'mL',
    limits: [0, 100_000],
    beside: () => 'mL',
    read: (text) => parseVolume(text),
    show: (ml, { units }) => formatVolume(ml, units.oil),
    variants: [times('mL', 1), times('fl_oz', ML_PER_US_FL_OZ)],
  },
  bore: linear('bore', 'm', [1e-4, 1], times('mm', 1e-3), times('in', 0.0254)),
  height: linear('height', 'm', [-500, 9000], times('m', 1), times('ft', M_PER_FT)),
  capacity: linear('capacity', 'm3', [1e-6, 1000], times('L', 1e-3), times('ft3', M3_PER_FT3)),
  room: linear('room', 'm3', [0.01, 1e7], times('m3', 1), times('ft3', M3_PER_FT3)),
  area: linear('area', 'm2', [0.2, 1e5], times('m2', 1), times('ft2', M2_PER_FT2)),
  flow: linear('flow', 'm3/s', [1e-6, 10], times('L_s', 1e-3), times('cfm', 0.4719474e-3)),
  duration: linear('duration', 's', [0, 1e8], times('min', 60), times('s', 1), times('h', 3600)),
  days: linear('days', 'days', [0, 1e5], times('days', 1)),
  difference: {
    ...linear('difference', 'K', [-200, 200], times('K', 1), times('F', 1 / 1.8)),
    // Half degrees are what clamps know.
    show: (kelvin, { units }) => formatTemperatureDifference(kelvin, units.temperature),
  },
  'pressure-difference': linear(
    'pressure-difference',
    'Pa',
    [0, 2e7],
    times('bar', PA_PER_BAR),
    times('psi', PA_PER_PSI),
    times('Pa', 1),
  ),
  density: linear('density', 'kg/m3', [0, 1e4], times('kg_m3', 1)),
  share: linear('share', '1', [0, 1], times('pct', 0.01)),
  current: linear('current', 'A', [0, 1e4], times('A', 1)),
  voltage: linear('voltage', 'V', [0, 1e4], times('V', 1)),
  number: linear('number', '1', [-1e9, 1e9], times('', 1)),
}

const BARE = /^-?\s*[\d.,/ ]+$/

/** A bare number with the unit in which it is meant, so that a link says the same to everybody. */
export function withUnit(kind: KindName, text: string, reading: ReadersUnits): string {
  const unit = KINDS[kind].beside(reading)
  return BARE.test(text) && unit !== '' && text.trim() !== '' ? `${text.trim()} ${unit}` : text.trim()
}

/** A value as it would be typed, to put back into a field or into a job's quick entry. */
export function typedText(kind: KindName, value: number, reading: ReadersUnits): string {
  return KINDS[kind]
    .show(value, reading)
    .replace('−', '-')
    .replace(/ g$/, kind === 'pressure' ? '' : ' g')
    .replace('psig', 'psi')
    .replace(' vacuum', '')
    .replace('°', '')
}

export const atmosphereOf = ({ atmospherePa }: ReadersUnits): number => atmospherePa ?? STANDARD_ATMOSPHERE_PA
