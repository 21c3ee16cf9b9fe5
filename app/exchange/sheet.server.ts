import { randomUUID } from 'node:crypto'
import Papa from 'papaparse'
import { METRIC_UNITS } from '#core/units'
import type { ShopTx } from '#db'
import type { Refused, Typed } from '~/base/form/read.server'
import type { ReadersUnits } from '~/base/ui/measure'
import { plain, unplain } from './plain'

/** Files are written and read in metric units, each figure with its unit. */
export const FILE_UNITS: ReadersUnits = { units: METRIC_UNITS }
export const MOST_LINES = 5_000

export interface SheetColumn {
  name: string
  /** What belongs in it, for whoever fills in the template. */
  help: string
  example: string
  /** A figure with a unit: without one it is refused, since nobody knows which was meant. */
  measured?: boolean
}

export interface Known<Row> {
  id: string
  /** As the file has it. */
  fields: Typed
  row: Row
}

export interface ImportContext {
  tx: ShopTx
  now: Date
  today: string
  userId: string
}

/** One kind of thing that can be written into a file and read from one. */
export interface Sheet<Data, Row> {
  title: string
  columns: SheetColumn[]
  /** What a line is found again by; '' where it says too little. */
  keyOf: (typed: Typed) => string
  /** How a person calls it. */
  nameOf: (typed: Typed) => string
  known: (tx: ShopTx) => Promise<Known<Row>[]>
  /** Locks the rows that are changed, all at once. */
  lock?: (tx: ShopTx, ids: string[]) => Promise<unknown>
  /** Reads one line; every refusal is a sentence on its column. */
  read: (
    typed: Typed,
    context: ImportContext,
  ) => Promise<{ data: Data; refused?: undefined } | { data?: undefined; refused: Refused }>
  /** As the file has it. */
  fields: (data: Data) => Typed
  /** What others' marks or the books do not allow. */
  problems?: (before: Row, after: Data, context: ImportContext) => Promise<Record<string, string>>
  add: (id: string, data: Data, typed: Typed, context: ImportContext) => Promise<void>
  change: (id: string, before: Row, data: Data, context: ImportContext) => Promise<void>
}

export interface PlannedLine {
  /** Number in the file, its heading is line 1. */
  line: number
  what: 'add' | 'change' | 'same' | 'refuse'
  name: string
  /** Refusals, or what changes: `tare: 4.500 kg -> 4.600 kg`. */
  reasons: string[]
}

export interface Plan {
  lines: PlannedLine[]
  counts: Record<PlannedLine['what'], number>
  /** Wrong as a whole: nothing of it can be read. */
  wrong?: string
}

interface Step {
  planned: PlannedLine
  carryOut?: () => Promise<void>
}

/** What a file would do, line by line; nothing is written. */
export async function plan<D, R>(sheet: Sheet<D, R>, text: string, context: ImportContext): Promise<Plan> {
  return (await steps(sheet, text, context)).plan
}

/**
 * Does it: every line that is good, in the caller's transaction, or none.
 * @param agreed what a person has seen and agreed to; where it would be something else now, nothing is written
 */
export async function carryOut<D, R>(
  sheet: Sheet<D, R>,
  text: string,
  agreed: string,
  context: ImportContext,
): Promise<{ done: boolean; plan: Plan }> {
  const ids = (await sheet.known(context.tx)).map(({ id }) => id)
  if (ids.length > 0) await sheet.lock?.(context.tx, ids)
  const { plan: now, list } = await steps(sheet, text, context)
  if (now.wrong !== undefined || signature(now) !== agreed) return { done: false, plan: now }
  for (const step of list) await step.carryOut?.()
  return { done: true, plan: now }
}

/** What was agreed to, in a few characters: the outcome of every line. */
export function signature({ lines }: Plan): string {
  return lines
    .map(({ what }) => what[0])
    .join('')
    .replace(/(.)\1*/g, (run) => `${run[0]}${run.length}`)
}

async function steps<D, R>(
  sheet: Sheet<D, R>,
  text: string,
  context: ImportContext,
): Promise<{ plan: Plan; list: Step[] }> {
  const parsed = Papa.parse<Record<string, string>>(text.replace(/^\uFEFF/, ''), {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (name) => name.trim(),
  })
  const empty = { lines: [], counts: { add: 0, change: 0, same: 0, refuse: 0 } }
  const wrong = (sentence: string) => ({ plan: { ...empty, wrong: sentence }, list: [] })
  const heads = parsed.meta.fields ?? []
  const missing = sheet.columns.filter(({ name }) => !heads.includes(name)).map(({ name }) => name)
  if (parsed.data.length === 0)
    return wrong('There is no line in it below the heading: fill in the template.')
  if (missing.length > 0)
    return wrong(
      `These columns are missing: ${missing.join(', ')}. Take the template, and keep its first line.`,
    )
  if (parsed.data.length > MOST_LINES)
    return wrong(`That is more than ${MOST_LINES} lines: bring it in in several files.`)
  const known = new Map((await sheet.known(context.tx)).map((each) => [sheet.keyOf(each.fields), each]))
  const seen = new Map<string, number>()
  const list: Step[] = []
  for (const [i, row] of parsed.data.entries())
    list.push(
      await stepOf(sheet, typedOf(sheet, row), i + 2, {
        known,
        seen,
        context,
        tooMany: '__parsed_extra' in row,
      }),
    )
  const lines = list.map(({ planned }) => planned)
  const counts = { ...empty.counts }
  for (const { what } of lines) counts[what]++
  return { plan: { lines, counts }, list }
}

function typedOf<D, R>(sheet: Sheet<D, R>, row: Record<string, string>): Typed {
  return Object.fromEntries(
    sheet.columns.map(({ name }) => [
      name,
      unplain(String(row[name] ?? ''))
        .replaceAll('\0', '')
        .toWellFormed()
        .trim(),
    ]),
  )
}

const BARE = /^[-+−]?[\d.,\s'’]+$/

async function stepOf<D, R>(
  sheet: Sheet<D, R>,
  typed: Typed,
  line: number,
  among: {
    known: Map<string, Known<R>>
    seen: Map<string, number>
    context: ImportContext
    tooMany: boolean
  },
): Promise<Step> {
  const { known, seen, context } = among
  const key = sheet.keyOf(typed)
  const name = sheet.nameOf(typed) || '(no name)'
  const planned = (what: PlannedLine['what'], reasons: string[]): PlannedLine => ({
    line,
    what,
    name,
    reasons,
  })
  const refuse = (errors: Record<string, string>): Step => ({
    planned: planned(
      'refuse',
      Object.entries(errors).map(([column, sentence]) => `${column}: ${sentence}`),
    ),
  })
  if (among.tooMany)
    return refuse({ line: 'It has more values than there are columns: is a comma not in quotes?' })
  const bare = sheet.columns.filter(({ name: c, measured }) => measured && BARE.test(typed[c]!))
  if (bare.length > 0)
    return refuse(
      Object.fromEntries(
        bare.map((c) => [c.name, `“${typed[c.name]}” has no unit: write it like ${c.example}.`]),
      ),
    )
  const read = await sheet.read(typed, context)
  if (read.refused) return refuse(read.refused.errors)
  const before = seen.get(key)
  if (before !== undefined) return refuse({ line: `The same as line ${before}: once is enough.` })
  seen.set(key, line)
  const there = known.get(key)
  if (!there)
    return {
      planned: planned('add', []),
      carryOut: () => sheet.add(randomUUID(), read.data, typed, context),
    }
  const is = sheet.fields(read.data)
  const changes = Object.keys(is).filter((column) => (there.fields[column] ?? '') !== is[column])
  if (changes.length === 0) return { planned: planned('same', []) }
  const errors = (await sheet.problems?.(there.row, read.data, context)) ?? {}
  if (Object.keys(errors).length > 0) return refuse(errors)
  return {
    planned: planned(
      'change',
      changes.map((column) => `${column}: ${there.fields[column] || 'nothing'} → ${is[column] || 'nothing'}`),
    ),
    carryOut: () => sheet.change(there.id, there.row, read.data, context),
  }
}

/** The whole of it as a file, or the template: its heading and one line as an example. */
export function csvOf<D, R>(sheet: Sheet<D, R>, rows: Typed[]): string {
  const columns = sheet.columns.map(({ name }) => name)
  return `${Papa.unparse(
    { fields: columns, data: rows.map((row) => columns.map((column) => plain(row[column] ?? ''))) },
    { newline: '\r\n' },
  )}\r\n`
}
