import type { PlaceKind } from './movement'

/** What moved between the cylinders and one other kind of place, of one booking of one job or voucher. */
export interface SheetRow {
  refrigerant: string | null
  /** The other end. */
  place: Exclude<PlaceKind, 'cylinder'>
  /** Into cylinders less out of them, mg. A correction stands in the same booking as what it corrects. */
  intoMg: number
}

/** How stock came to be what it is over a span of time, mg; each column is what it says, not a balance of two. */
export interface SheetLine {
  refrigerant: string | null
  startMg: number
  boughtMg: number
  /** There before Keg kept the books. */
  openingMg: number
  recoveredMg: number
  chargedMg: number
  shippedMg: number
  lostMg: number
  /** What re-weighing found; negative: it was missing. */
  unexplainedMg: number
  /** Left in hoses and machines; negative: it came back from there. */
  rigMg: number
  endMg: number
}

export type SheetColumn = Exclude<keyof SheetLine, 'refrigerant'>

/** In the order in which they add up. */
export const SHEET_COLUMNS: SheetColumn[] = [
  'startMg',
  'boughtMg',
  'openingMg',
  'recoveredMg',
  'chargedMg',
  'shippedMg',
  'lostMg',
  'unexplainedMg',
  'rigMg',
  'endMg',
]

/**
 * The sheet of a span of time, a line for each gas, by name. It adds up: start + bought + opening + recovered - charged
 * - shipped - lost + unexplained - rig = end.
 * @param start what the cylinders held of each gas when it began, mg
 */
export function sheetOf(
  rows: readonly SheetRow[],
  start: readonly { refrigerant: string | null; massMg: number }[],
): SheetLine[] {
  const lines = new Map<string | null, SheetLine>()
  const lineOf = (refrigerant: string | null) => {
    const known = lines.get(refrigerant)
    if (known) return known
    const line = blank(refrigerant)
    lines.set(refrigerant, line)
    return line
  }
  for (const { refrigerant, massMg } of start) lineOf(refrigerant).startMg += massMg
  for (const row of rows) add(lineOf(row.refrigerant), row)
  const all = [...lines.values()]
  for (const line of all) line.endMg = endOf(line)
  return all
    .filter((line) => SHEET_COLUMNS.some((column) => line[column] !== 0))
    .sort((a, b) => (a.refrigerant ?? '~').localeCompare(b.refrigerant ?? '~'))
}

/** All gases together. */
export function sheetTotal(lines: readonly SheetLine[]): SheetLine {
  const total = blank(null)
  for (const column of SHEET_COLUMNS) total[column] = lines.reduce((sum, line) => sum + line[column], 0)
  return total
}

const blank = (refrigerant: string | null): SheetLine => ({
  refrigerant,
  startMg: 0,
  boughtMg: 0,
  openingMg: 0,
  recoveredMg: 0,
  chargedMg: 0,
  shippedMg: 0,
  lostMg: 0,
  unexplainedMg: 0,
  rigMg: 0,
  endMg: 0,
})

function add(line: SheetLine, { place, intoMg }: SheetRow) {
  switch (place) {
    case 'supplier':
      line.boughtMg += intoMg
      break
    case 'outside':
      line.openingMg += intoMg
      break
    case 'system':
      if (intoMg > 0) line.recoveredMg += intoMg
      else line.chargedMg -= intoMg
      break
    case 'reclaimer':
      line.shippedMg -= intoMg
      break
    case 'lost':
      line.lostMg -= intoMg
      break
    case 'unexplained':
      line.unexplainedMg += intoMg
      break
    case 'rig':
      line.rigMg -= intoMg
  }
}

function endOf(line: SheetLine): number {
  const { startMg, boughtMg, openingMg, recoveredMg, chargedMg, shippedMg, lostMg, unexplainedMg, rigMg } =
    line
  return startMg + boughtMg + openingMg + recoveredMg - chargedMg - shippedMg - lostMg + unexplainedMg - rigMg
}
