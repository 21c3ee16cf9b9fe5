import data from './data/saturation.json' with { type: 'json' }
import { type SaturationData, type SaturationTable, saturationTable } from './saturation'
import { facts, type RefrigerantFacts } from './facts'

/** Where the tables come from, kept with every verdict. */
export const TABLES = { source: data.source, version: data.version }

type Row = SaturationData & { molarMassG: number; composition: Record<string, number> }

const rows = new Map((data.refrigerants as unknown as Row[]).map((row) => [row.code, row]))
const prepared = new Map<string, SaturationTable>()

/** The codes of all refrigerants with a table, in the order of their numbers. */
export const REFRIGERANTS: readonly string[] = [...rows.keys()].sort(
  (a, b) => orderOf(a) - orderOf(b) || a.localeCompare(b),
)

/** No table for this code. */
export class UnknownRefrigerantError extends Error {
  override name = 'UnknownRefrigerantError'
}

/** What is known of a refrigerant beside its curve. @throws UnknownRefrigerantError */
export function refrigerant(code: string): RefrigerantFacts {
  const row = rowOf(code)
  return facts(row.code, row.molarMassG, row.composition)
}

/** The curve ready for look-ups. @throws UnknownRefrigerantError */
export function tableOf(code: string): SaturationTable {
  let table = prepared.get(code)
  if (!table) prepared.set(code, (table = saturationTable(rowOf(code))))
  return table
}

/** The curve as plain data, for sending to a browser. @throws UnknownRefrigerantError */
export function tableDataOf(code: string): SaturationData {
  const { firstC, bubblePa, dewPa, liquid, vapour } = rowOf(code)
  return { code, firstC, bubblePa, liquid, vapour, ...(dewPa ? { dewPa } : {}) }
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

function rowOf(code: string): Row {
  const row = rows.get(code)
  if (!row) throw new UnknownRefrigerantError(`Keg has no table for "${code}": choose one from the list.`)
  return row
}

function orderOf(code: string): number {
  return Number(/\d+/.exec(code)?.[0] ?? 0)
}
