import type { Field } from './fields'
import { KINDS, type Variant } from './kinds'

/** How programs name one way of giving an input: `t_C`; a plain number has its name only. */
export const variantName = (name: string, { suffix }: Variant): string =>
  suffix === '' ? name : `${name}_${suffix}`

/** Lowest and highest value of a field, SI. */
export function limitsOf(field: Field): [least: number, most: number] {
  const [least, most] = KINDS[field.kind!].limits
  return [field.least ?? least, field.most ?? most]
}

/** What is never required by itself: it has a fallback, may be left out, or belongs to a line. */
export const isRequired = ({ optional, fallback }: Field, inRow: boolean): boolean =>
  !optional && fallback === undefined && !inRow

/**
 * Limits in the unit of a variant, without the dust of binary fractions. Gauges are zeroed in the local air: the exact limit is
 * checked once that is known.
 */
export function edgesOf(field: Field, variant: Variant, atmospherePa: number): [least: number, most: number] {
  const edge = (value: number) => Number(variant.fromSi(value, atmospherePa).toPrecision(12))
  const [least, most] = limitsOf(field)
  return [edge(least), edge(most)]
}
