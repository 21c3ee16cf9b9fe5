/**
 * Cylinders whose label is like what was typed, the likest first: each word typed begins, or is in, a word of the label,
 * or is one letter off from its beginning. `gul 4` finds Gull 4 before Gull 14.
 */
export function nearLabels<T extends { label: string }>(cylinders: readonly T[], typed: string): T[] {
  const wanted = wordsOf(typed)
  if (wanted.length === 0) return [...cylinders]
  return cylinders
    .map((cylinder) => ({ cylinder, miss: missOf(cylinder.label, wanted) }))
    .filter(({ miss }) => miss < Infinity)
    .sort((a, b) => a.miss - b.miss || a.cylinder.label.length - b.cylinder.label.length)
    .map(({ cylinder }) => cylinder)
}

const wordsOf = (text: string) =>
  text
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+|(?<=\p{L})(?=\p{N})|(?<=\p{N})(?=\p{L})/u)
    .filter((word) => word !== '')

/** How far a label is from the words typed: 0 all words are there, Infinity one of them is not like any. */
function missOf(label: string, wanted: string[]): number {
  const has = wordsOf(label)
  return wanted.reduce((sum, word) => sum + Math.min(...has.map((each) => wordMiss(each, word)), Infinity), 0)
}

function wordMiss(has: string, typed: string): number {
  if (has === typed) return 0
  if (/^\d+$/.test(typed)) return has.includes(typed) ? 2 : Infinity
  if (has.startsWith(typed)) return 1
  if (has.includes(typed)) return 2
  return typed.length >= 3 && oneLetterOff(has.slice(0, typed.length), has.slice(0, typed.length + 1), typed)
    ? 3
    : Infinity
}

/** One letter changed, one left out, or two neighbours swapped. */
function oneLetterOff(same: string, longer: string, typed: string): boolean {
  const changed = [...typed].filter((letter, i) => letter !== same[i]).length
  if (same.length === typed.length && changed <= 1) return true
  if ([...typed].some((_, i) => swapped(typed, i) === same)) return true
  return (
    longer.length === typed.length + 1 &&
    [...longer].some((_, i) => longer.slice(0, i) + longer.slice(i + 1) === typed)
  )
}

const swapped = (text: string, i: number) =>
  text.slice(0, i) + (text[i + 1] ?? '') + text[i] + text.slice(i + 2)
