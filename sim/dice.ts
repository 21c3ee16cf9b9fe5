/** Seeded dice: the same seed throws the same numbers on every machine (mulberry32, 32 bits of state). */
export interface Dice {
  /** Even between 0 and 1. */
  even(): number
  /** Normal, mean 0, deviation 1 (Box and Muller). */
  normal(): number
}

export function dice(seed: number): Dice {
  let state = seed >>> 0
  const even = () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = state
    t = Math.imul(t ^ (t >>> 15), t | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296
  }
  return {
    even,
    normal: () => Math.sqrt(-2 * Math.log(1 - even())) * Math.cos(2 * Math.PI * even()),
  }
}

/** A seed for each of several dice, from one seed and a name. */
export function seedFor(seed: number, name: string): number {
  let hash = seed >>> 0
  for (let i = 0; i < name.length; i++) hash = Math.imul(hash ^ name.charCodeAt(i), 0x01000193) >>> 0
  return hash
}
