import { M_PER_FT, M_PER_IN } from './factors'
import { NUMERAL, readNumeral, tidy, trimmed } from './numeral'
import { UnitError } from './unit-error'

export type LengthStyle = 'ft' | 'm'

const LENGTH = new RegExp(`^(${NUMERAL}) ?(ft|feet|'|in|"|m|mm|cm)?$`)
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
 * Reads a length: `25 ft`, `7.5 m`, `30'`. Without a unit it is taken in `style`.
 * @returns metres, 0 to 1000
 * @throws UnitError when it is no length
 */
export function parseLength(text: string, style: LengthStyle): number {
  const found = LENGTH.exec(tidy(text))
  if (!found) throw new UnitError(`"${text}" is not a length Keg can read: write it like 25 ft or 7.5 m.`)
  const metres = readNumeral(found[1]!) * PER[found[2] ?? style]!
  if (metres > 1000) throw new UnitError(`"${text}" is more than a kilometre: check the number and its unit.`)
  return metres
}

/** A length to read. */
export function formatLength(lengthM: number, style: LengthStyle): string {
  return style === 'm' ? `${trimmed(lengthM, 2)} m` : `${trimmed(lengthM / M_PER_FT, 1)} ft`
}
