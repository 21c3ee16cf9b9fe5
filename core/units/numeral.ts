import { UnitError } from './unit-error'

/** A numeral in field notation: `3`, `3.6`, `3,6`, `.5`, `4 1/2`. Source text for regular expressions. */
export const NUMERAL = String.raw`(?:\d+[ ]+\d+\/\d+|\d+\/\d+|\d+(?:[.,]\d+)?|[.,]\d+)`

/**
 * Reads one numeral; a decimal comma is a decimal point, `4 1/2` is four and a half.
 * @throws UnitError when it is not a number.
 */
export function readNumeral(text: string): number {
  const fraction = /^(?:(\d+)\s+)?(\d+)\/(\d+)$/.exec(text)
  if (fraction) {
    const divisor = Number(fraction[3])
    if (divisor === 0) throw new UnitError(`"${text}" divides by zero: write a plain number`)
    return Number(fraction[1] ?? 0) + Number(fraction[2]) / divisor
  }
  const value = Number(text.replace(',', '.'))
  if (text.trim() === '' || !Number.isFinite(value))
    throw new UnitError(`"${text}" is not a number: write digits, such as 12.5`)
  return value
}

/** A number with at most so many decimals, without trailing zeros. */
export function trimmed(value: number, decimals: number): string {
  return String(Number(value.toFixed(decimals)) + 0)
}

/** What was typed, made even: single spaces, plain minus sign, lower case. */
export function tidy(text: string): string {
  return text
    .replace(/[\u2212\u2013\u2014]/g, '-')
    .replace(/\s+/g, ' ')
    .trim()
    .toLowerCase()
}
