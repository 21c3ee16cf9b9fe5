/** Lists as the books sort them: by what a row says, what says nothing last, and then by name. */
export function sorted<T>(
  rows: readonly T[],
  by: (row: T) => string | number | null,
  name: (row: T) => string,
  down = false,
): T[] {
  const turn = down ? -1 : 1
  return rows.toSorted((a, b) => {
    const [x, y] = [by(a), by(b)]
    if (x !== y) return x === null ? 1 : y === null ? -1 : x < y ? -turn : turn
    const [left, right] = [name(a).toLowerCase(), name(b).toLowerCase()]
    return left < right ? -1 : left > right ? 1 : 0
  })
}

export const pageOf = <T>(rows: readonly T[], page: number, size: number): T[] =>
  rows.slice((page - 1) * size, page * size)

/** Whether a text has another one in it, whichever way it is written. */
export const has = (text: string | null, part: string): boolean =>
  text?.toLowerCase().includes(part.toLowerCase()) ?? false

/** The rows whose label has this in it, the likest first: as the books find them. */
export const labelled = <T extends { label: string }>(rows: readonly T[], part: string): T[] =>
  sorted(
    rows.filter(({ label }) => has(label, part)),
    ({ label }) => label.length,
    ({ label }) => label,
  )
