import { AmbiguousError, UnitError, type UnitReading } from './unit-error'

/**
 * A numeral in field notation: `3`, `3.6`, `3,6`, `.5`, `4 1/2`, `1,200`, `1,234.5`. Source text for regular
 * expressions; what has been through {@link tidy}.
 */
export const NUMERAL = String.raw`(?:\d+[ ]+\d+\/\d+|\d+\/\d+|\d{1,3}(?:,\d{3})+\.\d+|\d{1,3}(?:\.\d{3})+,\d+|\d{1,3}(?:,\d{3}){2,}|\d{1,3}(?:\.\d{3}){2,}|\d+(?:[.,]\d+)?|[.,]\d+)`

/** One separator before exactly three digits: a decimal, or thousands. */
const DOUBTFUL = /^([1-9]\d{0,2})[.,](\d{3})$/
const GROUPED = /^\d{1,3}(?:([.,])\d{3})(?:\1\d{3})*(?:[.,]\d+)?$/

/**
 * The values that a numeral can have; a decimal comma is a decimal point, `4 1/2` is four and a half. `1,200` and
 * `1.500` have two: as a decimal, and as thousands.
 * @throws UnitError when it is not a number.
 */
export function numeralReadings(text: string): { value: number; text: string }[] {
  const fraction = /^(?:(\d+)\s+)?(\d+)\/(\d+)$/.exec(text)
  if (fraction) {
    const divisor = Number(fraction[3])
    if (divisor === 0) throw new UnitError(`"${text}" divides by zero: write a plain number`)
    const value = Number(fraction[1] ?? 0) + Number(fraction[2]) / divisor
    return [{ value, text }]
  }
  const doubtful = DOUBTFUL.exec(text)
  if (doubtful) {
    const decimal = Number(`${doubtful[1]}.${doubtful[2]}`)
    return [
      { value: decimal, text: asDecimal(decimal) },
      { value: Number(`${doubtful[1]}${doubtful[2]}`), text: `${doubtful[1]}${doubtful[2]}` },
    ]
  }
  const plain = GROUPED.test(text) && /[.,]\d{3}[.,]/.test(text) ? ungrouped(text) : text.replace(',', '.')
  const value = Number(plain)
  if (text.trim() === '' || !Number.isFinite(value))
    throw new UnitError(`"${text}" is not a number: write digits, such as 12.5`)
  return [{ value, text: plain }]
}

/** A decimal that cannot be taken for thousands: `1.234` becomes `1.2340`. */
export function asDecimal(value: number): string {
  const text = String(value)
  return DOUBTFUL.test(text) ? `${text}0` : text
}

/** `1,234.5` and `1.234,5` are the same; so are `1,234,567` and `1.234.567`. */
function ungrouped(text: string): string {
  const group = /[.,]/.exec(text)![0]
  const last = text.lastIndexOf(group === ',' ? '.' : ',')
  if (last === -1) return text.replaceAll(group, '')
  return `${text.slice(0, last).replaceAll(group, '')}.${text.slice(last + 1)}`
}

/**
 * One number. @throws UnitError when it is none @throws AmbiguousError when it can be read in several ways
 */
export function readNumeral(text: string): number {
  return readEach(text, text, (value) => value)
}

/**
 * The quantity that a numeral stands for. Where the numeral has two readings and both are possible, neither is chosen.
 * @param typed what was typed, for the message
 * @param convert to the unit wanted; throws UnitError where the value is impossible
 * @param unit as it is written after the number
 * @throws AmbiguousError when several readings are possible
 */
export function readEach(
  typed: string,
  numeral: string,
  convert: (value: number) => number,
  unit = '',
): number {
  const readings: UnitReading[] = []
  let refusal: UnitError | undefined
  for (const { value, text } of numeralReadings(numeral))
    try {
      readings.push({ value: convert(value), notation: `${text} ${unit}`.trim() })
    } catch (error) {
      if (!(error instanceof UnitError)) throw error
      refusal ??= error
    }
  if (readings.length === 0) throw refusal!
  if (readings.length > 1) throw new AmbiguousError(typed, readings)
  return readings[0]!.value
}

/** A number with at most so many decimals, without trailing zeros. */
export function trimmed(value: number, decimals: number): string {
  return String(Number(value.toFixed(decimals)) + 0)
}

/**
 * What was typed, made even: single spaces, plain minus sign, lower case, plain digits, fractions written out.
 */
export function tidy(text: string): string {
  return text
    .replace(/(\d)\s*(?=[\u00bc-\u00be\u2150-\u215e])/g, '$1 ')
    .normalize('NFKC')
    .replace(/\u2044/g, '/')
    .replace(/[\u2212\u2013\u2014]/g, '-')
    .replace(/[\u2018\u2019\u2032]/g, "'")
    .replace(/[\u201c\u201d\u2033]/g, '"')
    .replace(/\s+/g, ' ')
    .trim()
    .toLowerCase()
}

/** A space between digits is no thousands here: `1 200` could be two numbers. */
export function refuseSpaced(text: string): void {
  const spaced = /^-?(\d{1,3}) (\d{3})(?!\d|\/)/.exec(tidy(text))
  if (spaced)
    throw new UnitError(
      `"${text}" has a space in the number: write ${spaced[1]}${spaced[2]}, or say which one you mean.`,
    )
}
