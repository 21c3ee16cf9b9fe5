import { REFRIGERANTS } from '#core/refrigerants'
import { STANDARD_ATMOSPHERE_PA } from '#core/units'
import { type Field, type Slot, slots } from './fields'
import { KINDS, type Variant } from './kinds'
import { edgesOf, isRequired, variantName } from './limits'
import type { Tool } from './tool'

/** What is wrong with what was given. */
export type Issue =
  | { what: 'stranger'; key: string }
  | { what: 'missing'; slot: Slot }
  /** In several ways at once. */
  | { what: 'twice'; slot: Slot; peers: string[] }
  | {
      what: 'not-offered' | 'no-day' | 'no-flag' | 'no-number' | 'out-of-range'
      slot: Slot
      key: string
      value: string
    }

export interface Checked {
  issues: Issue[]
  /** Texts, flags, and numbers in the units that their names say; what was left out and has a usual choice has it. */
  value: Record<string, string | boolean | number>
}

const NUMBER = /^[+-]?(\d+\.?\d*|\.\d+)(e[+-]?\d{1,3})?$/i
const DAY = /^\d{4}-\d{2}-\d{2}$/
const YES = ['true', 'on', 'yes']
const NO = ['false', 'off', 'no']

/**
 * Checks what was given against what a tool takes: the same in a browser as on the server. What it takes is documented as a
 * schema for programs (schema.server), which says the same.
 */
export function check(tool: Tool, given: Readonly<Record<string, string | number>>): Checked {
  const value: Checked['value'] = {}
  const issues: Issue[] = []
  const known = new Set<string>()
  const late: Issue[] = []
  for (const slot of slots(tool.inputs)) {
    const { name, field, row } = slot
    if (field.type !== 'measure') {
      known.add(name)
      const found = plain(field, Object.hasOwn(given, name) ? String(given[name]) : undefined)
      if (found === 'missing') {
        if (isRequired(field, row !== undefined)) issues.push({ what: 'missing', slot })
      } else if (typeof found === 'object')
        issues.push({ what: found.what, slot, key: name, value: String(given[name]) })
      else value[name] = found
      continue
    }
    const { variants } = KINDS[field.kind!]
    const keys = variants.map((variant) => [variantName(name, variant), variant] as const)
    for (const [key, variant] of keys) {
      known.add(key)
      if (!Object.hasOwn(given, key)) continue
      const found = numeric(field, variant, given[key]!)
      if (typeof found === 'number') value[key] = found
      else issues.push({ what: found, slot, key, value: String(given[key]) })
    }
    const present = keys.filter(([key]) => Object.hasOwn(given, key))
    const peers = keys.map(([key]) => key)
    if (present.length > 1) late.push({ what: 'twice', slot, peers })
    if (present.length === 0 && isRequired(field, row !== undefined)) late.push({ what: 'missing', slot })
  }
  for (const key of Object.keys(given)) if (!known.has(key)) issues.push({ what: 'stranger', key })
  return { value, issues: [...issues, ...late] }
}

function plain(
  { type, options, fallback }: Field,
  text: string | undefined,
): string | boolean | 'missing' | { what: 'not-offered' | 'no-day' | 'no-flag' } {
  switch (type) {
    case 'gas':
      if (text === undefined) return 'missing'
      return (REFRIGERANTS as readonly string[]).includes(text) ? text : { what: 'not-offered' }
    case 'choice':
      if (text === undefined) return String(fallback)
      return options!.some(([value]) => value === text) ? text : { what: 'not-offered' }
    case 'day':
      if (text === undefined) return 'missing'
      return DAY.test(text) ? text : { what: 'no-day' }
    case 'flag': {
      const word = text?.toLowerCase()
      if (word === undefined || NO.includes(word)) return false
      return YES.includes(word) ? true : { what: 'no-flag' }
    }
    case 'measure':
      throw new Error('a measure has variants')
  }
}

function numeric(
  field: Field,
  variant: Variant,
  given: string | number,
): number | 'no-number' | 'out-of-range' {
  const text = String(given).trim()
  const number = Number(text)
  if (typeof given === 'string' && !NUMBER.test(text)) return 'no-number'
  if (!Number.isFinite(number)) return 'no-number'
  const [least, most] = edgesOf(field, variant, STANDARD_ATMOSPHERE_PA)
  return number >= least && number <= most ? number : 'out-of-range'
}
