/** What each letter counts in a check digit (49 CFR 565, ISO 3779). I, O and Q are not used. */
const VALUES: Record<string, number> = Object.fromEntries(
  ['ABCDEFGH', 'JKLMN P R', ' STUVWXYZ'].flatMap((letters) =>
    [...letters].flatMap((letter, i) => (letter === ' ' ? [] : [[letter, i + 1] as const])),
  ),
)
const WEIGHTS = [8, 7, 6, 5, 4, 3, 2, 10, 0, 9, 8, 7, 6, 5, 4, 3, 2]
const CHECK_AT = 8

export type Vin =
  /** Seventeen characters, and the ninth is what the others make it. */
  | { kind: 'checked'; vin: string }
  /** Its check digit is another: a slip, or a maker who does not use it (outside North America nobody has to). */
  | { kind: 'unchecked'; vin: string; shouldBe: string }
  | { kind: 'malformed'; why: 'length' | 'letters' }

/** A vehicle identification number as it is typed: spaces and dashes do not count, small letters do. */
export function readVin(typed: string): Vin {
  const vin = typed.replace(/[\s-]/g, '').toUpperCase()
  if (!/^[A-HJ-NPR-Z0-9]*$/.test(vin)) return { kind: 'malformed', why: 'letters' }
  if (vin.length !== WEIGHTS.length) return { kind: 'malformed', why: 'length' }
  const sum = [...vin].reduce(
    (total, letter, i) => total + (VALUES[letter] ?? Number(letter)) * WEIGHTS[i]!,
    0,
  )
  const rest = sum % 11
  const shouldBe = rest === 10 ? 'X' : String(rest)
  return vin[CHECK_AT] === shouldBe ? { kind: 'checked', vin } : { kind: 'unchecked', vin, shouldBe }
}
