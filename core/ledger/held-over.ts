export interface Change {
  /** ms. */
  at: number
  /** Into the place, mg; out of it negative. */
  changeMg: number
}

export interface HeldAt {
  at: number
  inMg: number
  outMg: number
  /** What the place held from then on, mg. */
  heldMg: number
}

/**
 * What a place held over the time of its movements, the oldest first: reckoned back from what it holds now, so that the newest
 * of many movements are enough. What was booked for one moment is one point: what came in by it, and what went out.
 */
export function heldOver(changes: readonly Change[], nowMg: number): HeldAt[] {
  const moments = new Map<number, { inMg: number; outMg: number }>()
  for (const { at, changeMg } of changes) {
    const known = moments.get(at) ?? { inMg: 0, outMg: 0 }
    if (changeMg > 0) known.inMg += changeMg
    else known.outMg -= changeMg
    moments.set(at, known)
  }
  let heldMg = nowMg
  return [...moments]
    .sort(([a], [b]) => b - a)
    .map(([at, { inMg, outMg }]) => {
      const point = { at, inMg, outMg, heldMg }
      heldMg -= inMg - outMg
      return point
    })
    .reverse()
}
