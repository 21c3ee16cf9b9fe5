import type { KindName } from './kinds'

/** One input of a tool. Limits and fallbacks are SI. */
export interface Field<T = unknown> {
  type: 'measure' | 'choice' | 'gas' | 'day' | 'flag'
  label: string
  help?: string
  kind?: KindName
  least?: number
  most?: number
  /** Taken when nothing is given. */
  fallback?: number | string
  optional?: boolean
  options?: [value: string, words: string][]
  /** Seldom changed: kept out of the way on screen. */
  aside?: boolean
  /** Of its type only; never set. */
  readonly valueType?: T
}

/** Several of the same, numbered in their names: `line_1_length`. A row counts when its field `by` is filled. */
export interface Rows<F extends Fields = Fields> {
  type: 'rows'
  label: string
  count: number
  by: keyof F & string
  fields: F
}

export type Fields = Record<string, Field>
export type Inputs = Record<string, Field | Rows>

/** A row knows its number, so that a sentence can stand on it. */
type ValueOf<F> =
  F extends Rows<infer R>
    ? ({ [K in keyof R]: ValueOf<R[K]> } & { row: number })[]
    : F extends Field<infer T>
      ? T
      : never
export type Values<I> = { [K in keyof I]: ValueOf<I[K]> }

interface Limits {
  help?: string
  aside?: boolean
  least?: number
  most?: number
}

/** A number in the notation of the trade that must be given. */
export function measure(kind: KindName, label: string, limits: Limits = {}): Field<number> {
  return { type: 'measure', kind, label, ...limits }
}

/** The same with what is taken when it is left empty. */
export function usually(kind: KindName, label: string, fallback: number, limits: Limits = {}): Field<number> {
  return { type: 'measure', kind, label, fallback, ...limits }
}

/** The same where nothing may stand. */
export function maybe(kind: KindName, label: string, limits: Limits = {}): Field<number | undefined> {
  return { type: 'measure', kind, label, optional: true, ...limits }
}

export function gas(label = 'Refrigerant', help?: string): Field<string> {
  return { type: 'gas', label, ...(help ? { help } : {}) }
}

export function maybeGas(label: string, help?: string): Field<string | undefined> {
  return { type: 'gas', label, optional: true, ...(help ? { help } : {}) }
}

/** One of several; the first is taken when nothing is given. */
export function choice<T extends string>(label: string, options: Record<T, string>, help?: string): Field<T> {
  const list = Object.entries(options) as [string, string][]
  return { type: 'choice', label, options: list, fallback: list[0]![0], ...(help ? { help } : {}) }
}

export function maybeDay(label: string, help?: string): Field<string | undefined> {
  return { type: 'day', label, optional: true, ...(help ? { help } : {}) }
}

export function flag(label: string, help?: string): Field<boolean> {
  return { type: 'flag', label, ...(help ? { help } : {}) }
}

export function rows<F extends Fields>(
  label: string,
  count: number,
  by: keyof F & string,
  fields: F,
): Rows<F> {
  return { type: 'rows', label, count, by, fields }
}

/** One input as it stands in an address. */
export interface Slot {
  name: string
  field: Field
  /** Where it belongs to a row: which rows, and which one of them from zero, and its name in the row. */
  row?: { of: string; index: number; as: string }
}

/** The inputs as they stand in an address: rows are numbered from one. */
export function slots(inputs: Inputs): Slot[] {
  return Object.entries(inputs).flatMap(([name, input]): Slot[] => {
    if (input.type !== 'rows') return [{ name, field: input }]
    return Array.from({ length: input.count }, (_, index) =>
      Object.entries(input.fields).map(([as, field]): Slot => ({
        name: `${name}_${index + 1}_${as}`,
        field,
        row: { of: name, index, as },
      })),
    ).flat()
  })
}

export const ALTITUDE = usually('height', 'Height above the sea', 0, {
  least: 0,
  most: 5000,
  aside: true,
  help: 'Gauges are zeroed in the local air: 1 000 m take 0.11 bar (1.7 psi) off it.',
})
