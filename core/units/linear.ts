import {
  M2_PER_FT2,
  M3_PER_FT3,
  M_PER_FT,
  M_PER_IN,
  ML_PER_US_FL_OZ,
  PA_PER_BAR,
  PA_PER_KPA,
  PA_PER_PSI,
} from './factors'
import { NUMERAL, readEach, refuseSpaced, tidy, trimmed } from './numeral'
import type { Units } from './preferences'
import { UnitError } from './unit-error'

/** Quantities whose units differ by a factor only. Values are SI. */
export type LinearKind =
  | 'bore'
  | 'height'
  | 'capacity'
  | 'room'
  | 'area'
  | 'flow'
  | 'duration'
  | 'days'
  | 'difference'
  | 'pressure-difference'
  | 'share'
  | 'density'
  | 'current'
  | 'voltage'
  | 'number'

interface Spec {
  /** How a sentence names it. */
  what: string
  example: string
  units: Record<string, number>
}

const L = 1e-3
const CFM = 0.4719474e-3
const SECONDS = {
  s: 1,
  sec: 1,
  seconds: 1,
  min: 60,
  minute: 60,
  minutes: 60,
  h: 3600,
  hr: 3600,
  hrs: 3600,
  hour: 3600,
  hours: 3600,
}
const VOLUMES = {
  l: L,
  litres: L,
  liters: L,
  ml: 1e-6,
  'fl oz': ML_PER_US_FL_OZ * 1e-6,
  m3: 1,
  ft3: M3_PER_FT3,
  'cu ft': M3_PER_FT3,
  gal: 3.785411784e-3,
}
const SPECS: Record<LinearKind, Spec> = {
  bore: {
    what: 'a bore',
    example: '8 mm or 3/8 in',
    units: { mm: 1e-3, cm: 1e-2, in: M_PER_IN, '"': M_PER_IN },
  },
  height: { what: 'a height', example: '300 m or 1000 ft', units: { m: 1, ft: M_PER_FT, "'": M_PER_FT } },
  capacity: { what: 'a volume', example: '14 L or 0.5 ft3', units: VOLUMES },
  room: { what: 'a volume', example: '60 m3 or 2100 ft3', units: VOLUMES },
  area: {
    what: 'a floor',
    example: '12 m2 or 130 sq ft',
    units: { m2: 1, ft2: M2_PER_FT2, 'sq ft': M2_PER_FT2, sqft: M2_PER_FT2 },
  },
  flow: {
    what: 'a pump speed',
    example: '2.8 L/s or 6 cfm',
    units: { 'l/s': L, 'l/min': L / 60, cfm: CFM, 'm3/h': 1 / 3600 },
  },
  duration: { what: 'a time', example: '15 min', units: SECONDS },
  days: {
    what: 'a number of days',
    example: '200 days or 8 months',
    units: { d: 1, day: 1, days: 1, weeks: 7, months: 365 / 12, years: 365 },
  },
  difference: {
    what: 'a temperature difference',
    example: '5 K or 9 F',
    units: { k: 1, c: 1, '°c': 1, f: 1 / 1.8, '°f': 1 / 1.8 },
  },
  'pressure-difference': {
    what: 'a pressure difference',
    example: '0.3 bar or 5 psi',
    units: { bar: PA_PER_BAR, mbar: 100, psi: PA_PER_PSI, kpa: PA_PER_KPA, pa: 1 },
  },
  density: { what: 'a density', example: '1100 kg/m3', units: { 'kg/m3': 1, 'lb/ft3': 16.018463 } },
  share: { what: 'a percentage', example: '20 %', units: { '%': 0.01, pct: 0.01 } },
  current: { what: 'a current', example: '8 A', units: { a: 1 } },
  voltage: { what: 'a voltage', example: '230 V', units: { v: 1 } },
  number: { what: 'a number', example: '3', units: {} },
}

/**
 * Reads a quantity in field notation.
 * @param bare the unit in which a bare number is taken; '' for plain numbers
 * @returns SI
 * @throws UnitError when it cannot be read
 * @throws AmbiguousError when it can be read in several ways
 */
export function parseLinear(kind: LinearKind, text: string, bare: string): number {
  refuseSpaced(text)
  const { what, example, units } = SPECS[kind]
  const found = new RegExp(`^(-?)(${NUMERAL}) ?(.*)$`).exec(tidy(text))
  const unit = (found?.[3] || bare).toLowerCase()
  const factor = unit === '' ? 1 : units[unit]
  if (!found || factor === undefined)
    throw new UnitError(`"${text}" is not ${what} Keg can read: write it like ${example}.`)
  return readEach(text, found[2]!, (value) => value * (found[1] ? -1 : 1) * factor, found[3] || bare)
}

/** Decimals that gauges and clamps have, by unit: more say nothing. What is smaller than their last one keeps one digit. */
const INSTRUMENT_DECIMALS: Partial<Record<LinearKind, Record<string, number>>> = {
  'pressure-difference': { bar: 2, psi: 1, kpa: 0, mbar: 0, pa: 0 },
  difference: { k: 1, '°f': 1, f: 1, c: 1, '°c': 1 },
}

/**
 * A quantity to read, in one of its units, with as many digits as make sense, and no more than its instrument
 * has; or with so many significant ones, to be read back. */
export function formatLinear(kind: LinearKind, value: number, unit: string, digits?: number): string {
  const scaled = value / (SPECS[kind].units[unit.toLowerCase()] ?? 1)
  const size = Math.abs(scaled)
  const place = (significant: number) => Math.max(0, significant - 1 - Math.floor(Math.log10(size)))
  const most = digits === undefined ? (INSTRUMENT_DECIMALS[kind]?.[unit.toLowerCase()] ?? 6) : 6
  const decimals = size === 0 ? 0 : Math.min(6, Math.max(place(1), Math.min(most, place(digits ?? 3))))
  return `${trimmed(scaled, decimals).replace('-', '−')} ${unit.replace(/m3|ft3/, (u) => u.replace('3', '³')).replace(/m2|ft2/, (u) => u.replace('2', '²'))}`.trim()
}

/** The unit that a person reads and writes for a kind. */
export function usualUnit(kind: LinearKind, { length, temperature, pressure }: Units): string {
  const metric = length === 'm'
  switch (kind) {
    case 'bore':
      return metric ? 'mm' : 'in'
    case 'height':
      return length
    case 'capacity':
      return metric ? 'L' : 'ft3'
    case 'room':
      return metric ? 'm3' : 'ft3'
    case 'area':
      return metric ? 'm2' : 'ft2'
    case 'flow':
      return metric ? 'L/s' : 'cfm'
    case 'duration':
      return 'min'
    case 'days':
      return 'days'
    case 'difference':
      return temperature === 'C' ? 'K' : '°F'
    case 'pressure-difference':
      return pressure
    case 'density':
      return metric ? 'kg/m3' : 'lb/ft3'
    case 'share':
      return '%'
    case 'current':
      return 'A'
    case 'voltage':
      return 'V'
    case 'number':
      return ''
  }
}
