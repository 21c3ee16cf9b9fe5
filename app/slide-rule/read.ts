import { inSentence } from './in-sentence'
import { refrigerantCode } from '#core/refrigerants'
import { AmbiguousError, atmospherePa as atmosphereAt, M_PER_FT, UnitError } from '#core/units'
import { isDay } from '~/base/form/day'
import type { ReadersUnits } from '~/base/ui/measure'
import { type Field, type Inputs, type Slot, slots } from './fields'
import { atmosphereOf, type Kind, KINDS, withUnit } from './kinds'
import { check, type Issue } from './check'
import { limitsOf, variantName } from './limits'
import type { Tool } from './tool'

/** One input as it was given, or taken because nothing was. */
export interface Given {
  name: string
  field: Field
  /** SI, or text; undefined where nothing stands. */
  value: number | string | boolean | undefined
  assumed: boolean
}

export interface ReadInputs {
  /** Empty when all could be read. */
  errors: Record<string, string>
  /** Required and not given yet. */
  missing: Slot[]
  given: Given[]
  /** As `work` takes them. */
  values: Record<string, unknown>
  /** With the local atmosphere, where a height is given. */
  reading: ReadersUnits
}

interface How {
  reading: ReadersUnits
  /** Programs must say the unit, and may not send what nobody asked for. */
  strict: boolean
}

/**
 * Reads the inputs of a tool from an address: in the notation of the trade (`t=31 C`), or as plain numbers whose name
 * says the unit (`t_C=31`). Everything passes one check.
 */
export function readInputs(tool: Tool, params: URLSearchParams, { reading: asked, strict }: How): ReadInputs {
  const errors: Record<string, string> = {}
  const all = slots(tool.inputs)
  const reading = readHeight(all, params, asked, strict)
  const wanted: Record<string, string | number> = {}
  /** Read from notation, so that nothing is lost on the way through a unit. */
  const exact: Record<string, number> = {}
  for (const slot of all) {
    const { name, field } = slot
    if (field.type === 'measure') collect(slot, params, reading, strict, { wanted, exact, errors })
    else {
      const text = clean(params.get(name))
      if (text !== '') wanted[name] = field.type === 'gas' ? (refrigerantCode(text) ?? text) : text
    }
  }
  if (strict) {
    refuseStrangers(all, params, wanted)
    for (const key of params.keys())
      if (params.getAll(key).length > 1) errors[slotOf(key, all)?.name ?? key] = `Give ${key} once only.`
  }

  const { value, issues } = check(tool, wanted)
  const missing: Slot[] = []
  for (const issue of issues) place(issue, reading, errors, missing)

  const given = all.map((slot): Given => readSlot(slot, value, exact, reading, errors))
  for (const { name, field, value: si } of given)
    if (typeof si === 'number' && !(name in errors) && !within(si, field))
      errors[name] = rangeSentence(field, reading)
  const values = assemble(tool.inputs, given, errors)
  return { errors, missing: missing.filter(({ name }) => !(name in errors)), given, values, reading }
}

const clean = (text: string | null) => (text ?? '').replaceAll('\0', '').trim().slice(0, 200)

function readHeight(
  all: Slot[],
  params: URLSearchParams,
  asked: ReadersUnits,
  strict: boolean,
): ReadersUnits {
  const slot = all.find(({ name }) => name === 'altitude')
  if (!slot) return asked
  const found = {
    wanted: {} as Record<string, string | number>,
    exact: {} as Record<string, number>,
    errors: {},
  }
  collect(slot, params, asked, strict, found)
  const metres =
    found.exact.altitude ??
    Number(found.wanted.altitude_m ?? (Number(found.wanted.altitude_ft) * M_PER_FT || 0))
  return Number.isFinite(metres) && within(metres, slot.field)
    ? { ...asked, atmospherePa: atmosphereAt(metres) }
    : asked
}

interface Found {
  wanted: Record<string, string | number>
  exact: Record<string, number>
  errors: Record<string, string>
}

function collect(
  { name, field }: Slot,
  params: URLSearchParams,
  reading: ReadersUnits,
  strict: boolean,
  found: Found,
) {
  const kind = KINDS[field.kind!]
  for (const variant of kind.variants) {
    const key = variantName(name, variant)
    const text = clean(params.get(key))
    if (text !== '' && key !== name) found.wanted[key] = text
  }
  const text = clean(params.get(name))
  if (text === '') return
  if (strict && withUnit(field.kind!, text, reading) !== text) {
    found.errors[name] =
      `Say the unit of ${name}: ${kind.variants.map((v) => variantName(name, v)).join(', ')}, or ${name}=${withUnit(field.kind!, text, reading)}.`
    return
  }
  try {
    const si = readWithin(field, kind, text, reading)
    found.exact[name] = si
    const main = kind.variants[0]!
    found.wanted[variantName(name, main)] = main.fromSi(si, atmosphereOf(reading))
  } catch (error) {
    if (!(error instanceof UnitError)) throw error
    found.errors[name] = error.message
  }
}

/** Of several readings the one that the field allows, where it is the only one. @throws UnitError */
function readWithin(field: Field, kind: Kind, text: string, reading: ReadersUnits): number {
  try {
    return kind.read(text, reading)
  } catch (error) {
    if (!(error instanceof AmbiguousError)) throw error
    const [least, most] = limitsOf(field)
    const values = error.readings.map((each) => kind.read(each.notation, reading))
    const allowed = values.filter((value) => value >= least && value <= most)
    if (allowed.length > 1) throw error
    // None: the schema says between what it lies.
    return allowed[0] ?? values[0]!
  }
}

/** What nobody asked for is checked too, which refuses it. */
function refuseStrangers(all: Slot[], params: URLSearchParams, wanted: Record<string, string | number>) {
  const known = new Set(
    all.flatMap(({ name, field }) => [
      name,
      ...(field.type === 'measure' ? KINDS[field.kind!].variants.map((v) => variantName(name, v)) : []),
    ]),
  )
  for (const [key, text] of params) if (!known.has(key) && key !== 'units') wanted[key] = text
}

/** The slot that a key belongs to. */
function slotOf(key: string, all: Slot[]): Slot | undefined {
  return all.find(
    ({ name, field }) =>
      key === name ||
      (field.type === 'measure' && KINDS[field.kind!].variants.some((v) => variantName(name, v) === key)),
  )
}

/** One sentence on the field that the check stumbled over. */
function place(issue: Issue, reading: ReadersUnits, errors: Record<string, string>, missing: Slot[]) {
  if (issue.what === 'stranger') {
    const { key } = issue
    errors[key] = `This tool takes no "${key}": leave it out, or look at /api/v1/openapi.json for its inputs.`
    return
  }
  const { name } = issue.slot
  if (issue.what !== 'missing') errors[name] ??= sentence(issue, reading)
  else if (!(name in errors)) missing.push(issue.slot)
}

function sentence(issue: Exclude<Issue, { what: 'stranger' | 'missing' }>, reading: ReadersUnits): string {
  const { name, field } = issue.slot
  switch (issue.what) {
    case 'twice':
      return `Give ${name} once only, as one of ${issue.peers.join(', ')}.`
    case 'not-offered':
      return field.type === 'gas'
        ? `Keg has no table for "${issue.value}": choose a refrigerant from the list.`
        : `"${issue.value}" is not offered here: choose one from the list.`
    case 'no-day':
      return 'Enter a date as year-month-day, such as 2026-03-31.'
    case 'no-flag':
      return `${field.label}: write yes or no.`
    case 'no-number':
      return `"${issue.value}" is not a number: ${issue.key} takes plain digits, such as 12.5.`
    case 'out-of-range':
      return rangeSentence(field, reading)
  }
}

function within(si: number, field: Field): boolean {
  const [least, most] = limitsOf(field)
  const dust = 1e-9 * Math.max(Math.abs(least), Math.abs(most))
  return si >= least - dust && si <= most + dust
}

function rangeSentence(field: Field, reading: ReadersUnits): string {
  const [least, most] = limitsOf(field)
  const show = (value: number) => KINDS[field.kind!].show(value, reading)
  return `Between ${show(least)} and ${show(most)}: check the number and its unit.`
}

function readSlot(
  { name, field }: Slot,
  value: Record<string, unknown>,
  exact: Record<string, number>,
  reading: ReadersUnits,
  errors: Record<string, string>,
): Given {
  if (field.type !== 'measure') {
    const found = value[name] as string | boolean | undefined
    if (field.type === 'day' && typeof found === 'string' && !(name in errors) && !isDay(found))
      errors[name] = 'There is no such day: enter a date as year-month-day, such as 2026-03-31.'
    return { name, field, value: found, assumed: false }
  }
  if (exact[name] !== undefined) return { name, field, value: exact[name], assumed: false }
  for (const variant of KINDS[field.kind!].variants) {
    const number = value[variantName(name, variant)]
    if (typeof number === 'number')
      return { name, field, value: variant.toSi(number, atmosphereOf(reading)), assumed: false }
  }
  return { name, field, value: name in errors ? undefined : field.fallback, assumed: true }
}

/** Rows are lists of those that count; a row that counts must be whole. */
function assemble(inputs: Inputs, given: Given[], errors: Record<string, string>): Record<string, unknown> {
  const byName = new Map(given.map((each) => [each.name, each]))
  const values: Record<string, unknown> = {}
  for (const [name, input] of Object.entries(inputs)) {
    if (input.type !== 'rows') {
      values[name] = byName.get(name)!.value
      continue
    }
    const rows = []
    for (let i = 1; i <= input.count; i++) {
      const cell = (as: string) => byName.get(`${name}_${i}_${as}`)!
      const by = cell(input.by)
      const begun = Object.keys(input.fields).filter((as) => {
        const { value, assumed, field } = cell(as)
        return value !== undefined && !assumed && (field.type !== 'choice' || value !== field.fallback)
      })
      const counts = by.assumed && by.value !== undefined && begun.length > 0
      if (!counts && (by.value === undefined || by.assumed) && !(`${name}_${i}_${input.by}` in errors)) {
        if (begun.length > 0)
          errors[by.name] = `Enter ${inSentence(by.field.label)} too, or empty the rest of this line.`
        continue
      }
      for (const [as, field] of Object.entries(input.fields))
        if (
          cell(as).value === undefined &&
          !field.optional &&
          field.type === 'measure' &&
          !(cell(as).name in errors)
        )
          errors[cell(as).name] = `Enter ${inSentence(field.label)} too.`
      rows.push({
        row: i,
        ...Object.fromEntries(Object.keys(input.fields).map((as) => [as, cell(as).value])),
      })
    }
    values[name] = rows
  }
  return values
}
