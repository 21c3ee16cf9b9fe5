import { REFRIGERANTS } from '#core/refrigerants'
import { type Field, type Inputs, slots } from '~/slide-rule/fields'
import { KINDS, typedText, withUnit } from '~/slide-rule/kinds'
import type { Figure } from '~/slide-rule/outcome'
import type { Given } from '~/slide-rule/read'
import type { Surroundings, Tool } from '~/slide-rule/tool'
import { workOut } from '~/slide-rule/work-out'
import type { ReadersUnits } from '~/base/ui/measure'

/** A field as the page shows it. */
export interface ShownField {
  name: string
  type: Field['type']
  kind?: Field['kind']
  label: string
  help?: string
  options?: [value: string, words: string][]
  /** What is taken when it stays empty. */
  usual?: string
  typed: string
  error?: string
  aside: boolean
}

/** Fields that stand on their own, or a list of lines of them. */
export type ShownInput =
  { rows: false; field: ShownField } | { rows: true; label: string; lines: ShownField[][] }

/** A job that an answer may be taken into. */
interface JobToUse {
  jobId: string
  number: number | null
  title: string
}

/** Who asks, and what there is to take the answer to. */
export interface Asking {
  userId: string
  mayWrite: boolean
  /** Jobs in hand; asked for only where the answer can be taken there. */
  jobs: () => Promise<JobToUse[]> | JobToUse[]
}

/**
 * The address that says the same to everybody: bare numbers with the unit in which they were meant.
 * @returns undefined: it does already
 */
export function tidyAddress(tool: Tool, given: URLSearchParams, reading: ReadersUnits): string | undefined {
  const asked = tidy(tool, given, reading)
  if (sorted(asked) === sorted(given)) return undefined
  return `/slide-rule/${tool.name}${asked.size > 0 ? `?${asked}` : ''}`
}

/** A tool with what was put in, and its answer where there is one. */
export async function toolPage(tool: Tool, given: URLSearchParams, around: Surroundings, asking: Asking) {
  const { reading } = around
  const asked = tidy(tool, given, reading)
  const done = workOut(tool, asked, around)
  const begun = asked.size > 0
  const { outcome } = done
  return {
    tool: { name: tool.name, title: tool.title, question: tool.question },
    inputs: shownInputs(tool, asked, done.given, begun ? done.errors : {}, done.reading),
    query: asked.toString(),
    missing: begun ? done.missing.map(({ field }) => field.label) : [],
    example: `/slide-rule/${tool.name}?${new URLSearchParams(tool.example)}`,
    outcome: outcome && {
      ...outcome,
      onward: (outcome.onward ?? []).filter(({ to }) => asking.mayWrite || !to.startsWith('/jobs/')),
      figures: outcome.figures.map((figure) => ({ ...figure, text: textOf(figure, done.reading) })),
    },
    jobs: outcome?.carry && asking.mayWrite ? await asking.jobs() : [],
    person: asking.userId,
  }
}

export type ToolPage = Awaited<ReturnType<typeof toolPage>>

/** Only what the tool takes, without what is empty or taken anyway, and every number with its unit. */
function tidy(tool: Tool, params: URLSearchParams, reading: ReadersUnits): URLSearchParams {
  const tidied = new URLSearchParams()
  for (const { name, field } of slots(tool.inputs)) {
    const text = (params.get(name) ?? '').replaceAll('\0', '').trim().slice(0, 200)
    if (text !== '' && !(field.type === 'choice' && text === field.fallback))
      tidied.set(name, field.type === 'measure' ? withUnit(field.kind!, text, reading) : text)
    if (field.type !== 'measure') continue
    for (const { suffix } of KINDS[field.kind!].variants) {
      const value = params.get(`${name}_${suffix}`)
      if (suffix !== '' && value?.trim()) tidied.set(`${name}_${suffix}`, value.trim().slice(0, 200))
    }
  }
  return tidied
}

/** In whichever order they stand. */
function sorted(params: URLSearchParams): string {
  const copy = new URLSearchParams(params)
  copy.sort()
  return copy.toString()
}

function shownInputs(
  tool: Tool,
  asked: URLSearchParams,
  given: Given[],
  errors: Record<string, string>,
  reading: ReadersUnits,
): ShownInput[] {
  const byName = new Map(given.map((each) => [each.name, each]))
  const shown = (name: string, field: Field): ShownField => {
    const { value, assumed } = byName.get(name)!
    const own = asked.get(name)
    // Given as a plain number under a program's name: shown in the reader's units.
    const typed =
      own ??
      (typeof value === 'number' && !assumed
        ? typedText(field.kind!, value, reading)
        : field.type === 'flag' && value
          ? 'yes'
          : '')
    return {
      name,
      type: field.type,
      label: field.label,
      typed: field.type === 'choice' && typed === '' ? String(field.fallback) : typed,
      aside: field.aside ?? false,
      ...(field.kind ? { kind: field.kind } : {}),
      ...(field.help ? { help: field.help } : {}),
      ...(typeof field.fallback === 'number'
        ? { usual: KINDS[field.kind!].show(field.fallback, reading) }
        : {}),
      ...(errors[name] ? { error: errors[name] } : {}),
      ...optionsOf(field),
    }
  }
  return Object.entries(tool.inputs as Inputs).map(([name, input]): ShownInput => {
    if (input.type !== 'rows') return { rows: false, field: shown(name, input) }
    const lines = Array.from({ length: input.count }, (_, i) =>
      Object.entries(input.fields).map(([as, field]) => shown(`${name}_${i + 1}_${as}`, field)),
    )
    const touched = lines.map((line) =>
      line.some(
        ({ name, error }) =>
          error !== undefined ||
          asked.has(name) ||
          (byName.get(name)?.value !== undefined &&
            !byName.get(name)!.assumed &&
            byName.get(name)!.field.type === 'measure'),
      ),
    )
    return { rows: true, label: input.label, lines: lines.slice(0, touched.lastIndexOf(true) + 2) }
  })
}

function optionsOf(field: Field): { options?: [string, string][] } {
  if (field.type === 'choice') return { options: field.options! }
  if (field.type !== 'gas') return {}
  const codes = REFRIGERANTS.map((code): [string, string] => [code, code])
  return { options: [['', field.optional ? 'none' : 'choose …'], ...codes] }
}

function textOf({ kind, value, range }: Figure, reading: ReadersUnits): string {
  const show = (of: number) => KINDS[kind].show(of, reading)
  return range ? `${show(value)} (${show(range.least)} to ${show(range.most)})` : show(value)
}
