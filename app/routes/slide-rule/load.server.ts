import { redirect } from 'react-router'
import { REFRIGERANTS } from '#core/refrigerants'
import { inShop, jobsInHand } from '#db'
import { todayIn } from '~/session/clock.server'
import { preferencesOf } from '~/session/preferences'
import { signedIn } from '~/session/signed-in.server'
import { cylindersFor } from '~/slide-rule/cylinders.server'
import { type Field, type Inputs, slots } from '~/slide-rule/fields'
import { KINDS, typedText, withUnit } from '~/slide-rule/kinds'
import type { Figure } from '~/slide-rule/outcome'
import type { Given } from '~/slide-rule/read.server'
import { workOut } from '~/slide-rule/work-out.server'
import type { Tool } from '~/slide-rule/tool'
import { toolNamed } from '~/slide-rule/tools'
import type { ReadersUnits } from '~/ui/measure'
import type { Route } from './+types/tool'

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

export async function loadTool({ request, params, context }: Route.LoaderArgs) {
  const { shop, person } = signedIn(context)
  const tool = toolNamed(params.tool)
  if (!tool) throw new Response('There is no such tool on the slide rule.', { status: 404 })
  const url = new URL(request.url)
  const reading: ReadersUnits = { units: preferencesOf(person.preferences).units }
  const asked = tidy(tool, url.searchParams, reading)
  // A link says the same to everybody: bare numbers get the unit in which they were meant.
  if (sorted(asked) !== sorted(url.searchParams))
    throw redirect(`/slide-rule/${tool.name}${asked.size > 0 ? `?${asked}` : ''}`)

  return inShop(shop.shopId, async (tx) => {
    const cylinders = await cylindersFor(tx, tool, asked)
    const done = workOut(tool, asked, {
      reading,
      today: todayIn(shop.timeZone),
      fillMarginPct: shop.fillMarginPct,
      ...(cylinders ? { cylinders } : {}),
    })
    const begun = asked.size > 0
    const { outcome } = done
    const jobs = outcome?.carry && person.role !== 'trainee' ? await jobsInHand(tx, 20) : []
    return {
      tool: { name: tool.name, title: tool.title, question: tool.question },
      inputs: shownInputs(tool, asked, done.given, begun ? done.errors : {}, done.reading),
      query: asked.toString(),
      missing: begun ? done.missing.map(({ field }) => field.label) : [],
      example: `/slide-rule/${tool.name}?${new URLSearchParams(tool.example)}`,
      outcome: outcome && {
        ...outcome,
        onward: (outcome.onward ?? []).filter(
          ({ to }) => person.role !== 'trainee' || !to.startsWith('/jobs/'),
        ),
        figures: outcome.figures.map((figure) => ({ ...figure, text: textOf(figure, done.reading) })),
      },
      jobs: jobs.map(({ jobId, number, title, system }) => ({ jobId, number, title: title || system || '' })),
    }
  })
}

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
