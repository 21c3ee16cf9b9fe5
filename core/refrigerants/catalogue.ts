import data from './data/saturation.json' with { type: 'json' }
import { type SaturationData, type SaturationTable, saturationTable } from './saturation'
import { noTable, UnknownRefrigerantError } from './substances'

/** Where the tables come from, kept with every verdict. */
export const TABLES = { source: data.source, version: data.version }

const rows = new Map((data.refrigerants as unknown as SaturationData[]).map((row) => [row.code, row]))
const prepared = new Map<string, SaturationTable>()

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

function rowOf(code: string): SaturationData {
  const row = rows.get(code)
  if (!row) throw new UnknownRefrigerantError(noTable(code))
  return row
}
