import { M_PER_FT, M_PER_IN } from './factors'
import { NUMERAL, readEach, readNumeral, refuseSpaced, tidy, trimmed } from './numeral'
import { UnitError } from './unit-error'

export type LengthStyle = 'ft' | 'm'

const LENGTH = new RegExp(`^(${NUMERAL}) ?(ft|feet|'|in|"|m|mm|cm)?$`)
const FEET_INCHES = new RegExp(`^(\\d+) ?(?:ft|feet|') ?(${NUMERAL}) ?(?:in|"|inch|inches)?$`)
const PER: Record<string, number> = {
  ft: M_PER_FT,
  feet: M_PER_FT,
  "'": M_PER_FT,
  in: M_PER_IN,
  '"': M_PER_IN,
  m: 1,
  mm: 1e-3,
  cm: 1e-2,
}

/**
 * Reads a length: `25 ft`, `25 ft 6 in`, `7.5 m`, `30'`. Without a unit it is taken in `style`.
 * @returns metres, 0 to 1000
 * @throws UnitError when it is no length
 * @throws AmbiguousError when it can be read in several ways
 */
export function parseLength(text: string, style: LengthStyle): number {
  refuseSpaced(text)
  const typed = tidy(text)
  const both = FEET_INCHES.exec(typed)
  if (both) {
    const inches = readNumeral(both[2]!)
    if (inches >= 12)
      throw new UnitError(
        `${both[2]} in is more than a foot: write it with less than 12 in, or as inches only.`,
      )
    return within(text, Number(both[1]) * M_PER_FT + inches * M_PER_IN)
  }
  const found = LENGTH.exec(typed)
  if (!found)
    throw new UnitError(`"${text}" is not a length Keg can read: write it like 25 ft, 25 ft 6 in or 7.5 m.`)
  const unit = found[2] ?? style
  return readEach(text, found[1]!, (value) => within(text, value * PER[unit]!), unit)
}

function within(text: string, metres: number): number {
  if (metres > 1000) throw new UnitError(`"${text}" is more than a kilometre: check the number and its unit.`)
  return metres
}

/** A length to read. */
export function formatLength(lengthM: number, style: LengthStyle): string {
  return style === 'm' ? `${trimmed(lengthM, 2)} m` : `${trimmed(lengthM / M_PER_FT, 1)} ft`
}

/**
 * Reads a height above the sea: `1200`, `1200 m`, `4,000 ft`, `-400`. Without a unit it is taken in `style`.
 * @returns metres, -450 to 5500
 * @throws UnitError when it is no height that people work at
 */
export function parseHeight(text: string, style: LengthStyle): number {
  refuseSpaced(text)
  const found = HEIGHT.exec(tidy(text))
  if (!found) throw new UnitError(`"${text}" is not a height Keg can read: write it like 1200 m or 4000 ft.`)
  const unit = found[3] ?? style
  return readEach(
    text,
    found[2]!,
    (size) => {
      const metres = (found[1] ? -size : size) * PER[unit]!
      if (metres < -450 || metres > 5500)
        throw new UnitError(`"${text}" is no height that people work at: check the number and its unit.`)
      return metres
    },
    unit,
  )
}

const HEIGHT = new RegExp(`^(-?) ?(${NUMERAL}) ?(ft|feet|m)?$`)

/** A height to read: whole metres or feet. */
export function formatHeight(heightM: number, style: LengthStyle): string {
  const value = style === 'm' ? heightM : heightM / M_PER_FT
  return `${Math.round(value)} ${style}`.replace('-', '−')
}
