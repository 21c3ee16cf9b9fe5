/** Least squares with bounds, by trying which of them hold: exact, and quick while there are few unknowns. */
export interface Bounded {
  chi2: number
  values: number[]
}

export interface Bounds {
  least: number
  /** Infinity: none. */
  most: number
}

/**
 * Minimum of y'y - 2 b'x + x'Gx within bounds. The problem is convex: the first combination of held and free unknowns
 * that keeps its bounds, and whose held ones push outwards, is the minimum (Karush, Kuhn and Tucker).
 * @param gram G, row by row, symmetric; @param right b; @param bounds one for each unknown
 */
export function boundedMinimum(
  gram: readonly number[][],
  right: readonly number[],
  square: number,
  bounds: readonly Bounds[],
): Bounded {
  const n = right.length
  const held: (number | undefined)[] = new Array<number | undefined>(n).fill(undefined)
  let best: Bounded = { chi2: Infinity, values: [] }
  let done = false
  const walk = (unknown: number): void => {
    if (done) return
    if (unknown < n) {
      const { least, most } = bounds[unknown]!
      if (least < most) {
        held[unknown] = undefined
        walk(unknown + 1)
      }
      if (least > -Infinity) {
        held[unknown] = least
        walk(unknown + 1)
      }
      if (most < Infinity && most > least) {
        held[unknown] = most
        walk(unknown + 1)
      }
      held[unknown] = undefined
      return
    }
    const values = solve(gram, right, held)
    if (!values) return
    for (let i = 0; i < n; i++)
      if (held[i] === undefined && (values[i]! < bounds[i]!.least || values[i]! > bounds[i]!.most)) return
    let chi2 = square
    let settled = true
    for (let i = 0; i < n; i++) {
      let product = 0
      for (let j = 0; j < n; j++) product += gram[i]![j]! * values[j]!
      chi2 += values[i]! * (product - 2 * right[i]!)
      // A held one that would rather go further out: it gets no better.
      const downhill = right[i]! - product
      if (held[i] !== undefined && (held[i] === bounds[i]!.least ? downhill > 0 : downhill < 0))
        settled = false
    }
    if (chi2 < best.chi2) best = { chi2, values }
    done = settled
  }
  walk(0)
  return best
}

/** The free unknowns, with the held ones where they are. Undefined where the columns cannot be told apart. */
function solve(
  gram: readonly number[][],
  right: readonly number[],
  held: readonly (number | undefined)[],
): number[] | undefined {
  const free: number[] = []
  for (let i = 0; i < held.length; i++) if (held[i] === undefined) free.push(i)
  const values = held.map((value) => value ?? 0)
  const rows = free.map((i) => {
    let b = right[i]!
    for (let j = 0; j < held.length; j++) if (held[j] !== undefined) b -= gram[i]![j]! * held[j]!
    return [...free.map((j) => gram[i]![j]!), b]
  })
  const n = free.length
  for (let k = 0; k < n; k++) {
    const row = rows[k]!
    const pivot = row[k]!
    if (pivot <= 1e-10 * gram[free[k]!]![free[k]!]!) return undefined
    for (let i = k + 1; i < n; i++) {
      const share = rows[i]![k]! / pivot
      for (let j = k; j <= n; j++) rows[i]![j]! -= share * row[j]!
    }
  }
  for (let k = n - 1; k >= 0; k--) {
    let value = rows[k]![n]!
    for (let j = k + 1; j < n; j++) value -= rows[k]![j]! * values[free[j]!]!
    values[free[k]!] = value / rows[k]![k]!
  }
  return values
}
