// Courses one after the other, each entry held against the rules.
import { type Said, asked, shelved, type Shelf } from './asked'
import { playCourse } from './course'
import type { Hand } from './hand'
import { RULES } from './rules'
import { allKg, inSystemKg } from './world'

export interface Breach {
  seed: number
  /** Which job of the course, and which entry of its tape. */
  job: number
  at: number
  rule: string
  what: string
}

export interface Count {
  /** Courses in which there was something to hold against it. */
  exercised: number
  /** Courses in which it was broken. */
  broken: number
}

export function newCounts(): Record<string, Count> {
  return Object.fromEntries(Object.keys(RULES).map((rule) => [rule, { exercised: 0, broken: 0 }]))
}

/**
 * One course.
 * @param wrong makes Keg say something else, to see whether that would be found
 * @returns the first breach of each rule
 */
export function truthOf(
  seed: number,
  counts: Record<string, Count>,
  wrong: (said: Said) => Said = (said) => said,
): Breach[] {
  const breaches: Breach[] = []
  const exercised = new Set<string>()
  let job = 0
  let before: Said | undefined
  let shelf: Shelf | undefined
  let gasKg: number | undefined
  const seen = (hand: Hand) => {
    shelf ??= firstShelf(hand, seed)
    gasKg ??= allKg(hand.world)
    if (Math.abs(allKg(hand.world) - gasKg) > 1e-6)
      throw new Error(`course ${seed}: the plant itself has lost gas`)
    const said = wrong(asked(hand, shelf))
    const entry = hand.entries.at(-1)!
    for (const [rule, holds] of Object.entries(RULES)) {
      const found = holds({ hand, shelf, said, before, entry })
      if (found.exercised) exercised.add(rule)
      if (found.breach && !breaches.some((each) => each.rule === rule))
        breaches.push({ seed, job, at: hand.entries.length, rule, what: found.breach })
    }
    before = said
  }
  playCourse(seed, seen, (hand) => {
    shelf = shelved(hand, shelf!)
    before = undefined
    job++
  })
  for (const rule of exercised) counts[rule]!.exercised++
  for (const { rule } of breaches) counts[rule]!.broken++
  return breaches
}

/** On the shelf at first: a plate that is right, as good as right, or cannot be read. */
function firstShelf({ world }: Hand, seed: number): Shelf {
  const plateMg = Math.round(world.parameters.system.chargeKg * 1e6)
  return {
    beside: { others: [], lost: [] },
    whole: false,
    trade: world.trade,
    plateMg: seed % 4 === 0 ? null : plateMg,
  }
}

/** For whoever reads a breach: the course up to it. */
export function told(seed: number, upTo: Pick<Breach, 'job' | 'at'>): string[] {
  const lines: string[] = []
  let job = 0
  const start = lines.length
  playCourse(
    seed,
    (hand) => {
      if (job !== upTo.job || hand.entries.length > upTo.at) return
      const { kind, body } = hand.entries.at(-1)!
      lines.push(`${inSystemKg(hand.world).toFixed(3)} kg  ${kind} ${JSON.stringify(body)}`)
    },
    () => void job++,
  )
  return lines.slice(start)
}
