import { facts, type RefrigerantFacts } from './facts'
import data from './data/substances.json' with { type: 'json' }

interface Substance {
  code: string
  molarMassG: number
  bubble40Pa: number | null
  composition: Record<string, number>
}

const substances = new Map((data as unknown as Substance[]).map((row) => [row.code, row]))

/** The codes of all refrigerants with a table, in the order of their numbers. */
export const REFRIGERANTS: readonly string[] = [...substances.keys()].sort(
  (a, b) => orderOf(a) - orderOf(b) || a.localeCompare(b),
)

/** No table for this code. */
export class UnknownRefrigerantError extends Error {
  override name = 'UnknownRefrigerantError'
}

/** What is known of a refrigerant beside its curve. @throws UnknownRefrigerantError */
export function refrigerant(code: string): RefrigerantFacts {
  const row = substances.get(code)
  if (!row) throw new UnknownRefrigerantError(noTable(code))
  return facts(row.code, row.molarMassG, row.bubble40Pa, row.composition)
}

/** `r410a`, `R 410A` and `410a` are all R-410A; undefined when there is no such refrigerant. */
export function refrigerantCode(typed: string): string | undefined {
  const plain = (code: string) =>
    code
      .toLowerCase()
      .replace(/^r/, '')
      .replace(/[^a-z0-9]/g, '')
  const wanted = plain(typed)
  return REFRIGERANTS.find((code) => plain(code) === wanted)
}

/** What to say of a code that is none. */
export const noTable = (code: string): string => `Keg has no table for "${code}": choose one from the list.`

function orderOf(code: string): number {
  return Number(/\d+/.exec(code)?.[0] ?? 0)
}
