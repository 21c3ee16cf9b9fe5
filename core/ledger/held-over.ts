export interface Change {
  /** ms. */
  at: number
  /** Into the place, mg; out of it negative. */
  changeMg: number
}

export interface HeldAt extends Change {
  /** What the place held from then on, mg. */
  heldMg: number
}

/**
 * What a place held over the time of its movements, the oldest first: reckoned back from what it holds now, so that the newest
 * of many movements are enough. What was booked for one moment, corrections too, is one change; what comes to nothing is none.
 */
export function heldOver(changes: readonly Change[], nowMg: number): HeldAt[] {
  const moments = new Map<number, number>()
  for (const { at, changeMg } of changes) moments.set(at, (moments.get(at) ?? 0) + changeMg)
  let heldMg = nowMg
  return [...moments]
    .filter(([, changeMg]) => changeMg !== 0)
    .sort(([a], [b]) => b - a)
    .map(([at, changeMg]) => {
      const point = { at, changeMg, heldMg }
      heldMg -= changeMg
      return point
    })
    .reverse()
}
