import { openTransfer, type JobState, type PressurePoint, type TemperaturePoint } from '#core/tape'
import { type Draft, draft } from '~/tape/draft'
import { pressureDraft } from '../field/pressure-draft'
import { measure, type Measured, type MeasureKind, type ReadersUnits } from '~/base/ui/measure'

export type QuickParse =
  | { kind: 'empty' }
  | { kind: 'ready'; drafts: Draft[]; echo: string; at?: number }
  | { kind: 'choose'; readings: { notation: string; text: string }[] }
  | { kind: 'wrong'; message: string }

export interface QuickContext {
  state: JobState
  reading: ReadersUnits
  now: number
  /** What is read was so at an earlier time. */
  earlier?: boolean
  /** Turns `10:42` of today where the shop is into ms since 1970. */
  todayAt: (hours: number, minutes: number) => number
}

export const QUICK_HELP: [example: string, what: string][] = [
  ['w 12 lb 4 oz', 'weight on the scale of the running transfer'],
  ['p 118 · p high 20 bar · p cyl 9', 'pressure: low side, high side, cylinder'],
  ['t 31C · t suction 12 · t liquid 35', 'temperature: ambient, suction, liquid, vent, cyl'],
  ['v 480', 'vacuum gauge'],
  ['oil out 30 · oil in 45 · oil parts 15', 'oil, in your own unit unless you say otherwise'],
  ['note valve core leaks', 'a note'],
  ['wait compressor', 'the job waits for something'],
  ['@10:42 w 5.5 kg', 'any of these, as it was at 10:42 today'],
]

const PRESSURE_POINTS: Record<string, PressurePoint> = {
  low: 'low',
  suction: 'low',
  high: 'high',
  discharge: 'high',
  cyl: 'cylinder',
  cylinder: 'cylinder',
}
const TEMPERATURE_POINTS: Record<string, TemperaturePoint> = {
  suction: 'suction',
  liquid: 'liquid',
  ambient: 'ambient',
  cyl: 'cylinder',
  cylinder: 'cylinder',
  vent: 'vent',
}

/** Reads one line of quick entry. A weight may be written without its `w`. */
export function parseQuick(line: string, context: QuickContext): QuickParse {
  const text = line.trim()
  if (text === '') return { kind: 'empty' }
  const timed = /^@(\d{1,2}):(\d{2})\s+(.*)$/.exec(text)
  if (timed) return atTime(timed, context)
  const [, word = '', rest = ''] = /^([a-z]+)\s*(.*)$/i.exec(text) ?? []
  switch (word.toLowerCase()) {
    case 'w':
    case '':
      return weight(word === '' ? text : rest, word === '' ? '' : 'w ', context)
    case 'p':
      return pointed('p', rest, PRESSURE_POINTS, 'low', 'pressure', context, (point, pressurePa) =>
        pressureDraft(point, pressurePa, context.reading),
      )
    case 't':
      return pointed('t', rest, TEMPERATURE_POINTS, 'ambient', 'temperature', context, (point, tempK) =>
        draft('temperature-noted', { point, tempK }),
      )
    case 'v':
      return measured('vacuum', rest, context, (pressurePa) => draft('vacuum-noted', { pressurePa }), 'v ')
    case 'oil':
      return oil(rest, context)
    case 'note':
    case 'n':
      return rest
        ? ready([draft('note', { text: rest })], 'Note')
        : wrong('Write the note after the word note.')
    case 'wait':
      return rest
        ? ready([draft('job-waiting', { what: rest })], `The job waits for ${rest}`)
        : wrong('Write what the job waits for, such as: wait compressor')
    default:
      return wrong(`"${word}" is no command here: start with w, p, t, v, oil, note or wait.`)
  }
}

function atTime([, h, m, rest]: RegExpExecArray, context: QuickContext): QuickParse {
  const [hours, minutes] = [Number(h), Number(m)]
  if (hours > 23 || minutes > 59) return wrong(`${h}:${m} is no time of day: write it like @10:42.`)
  const at = context.todayAt(hours, minutes)
  if (at > context.now) return wrong(`${h}:${m} has not been yet today.`)
  const parse = parseQuick(rest!, { ...context, earlier: true })
  if (parse.kind === 'ready') return { ...parse, at, echo: `At ${h}:${m}: ${parse.echo}` }
  if (parse.kind === 'choose')
    return { ...parse, readings: parse.readings.map((r) => ({ ...r, text: `@${h}:${m} ${r.text}` })) }
  return parse
}

function weight(text: string, prefix: string, context: QuickContext): QuickParse {
  const run = openTransfer(context.state)
  if (!run) return wrong('No transfer is running: start one under Recover or Charge, then note weights.')
  return measured(
    'weight',
    text,
    context,
    (weightMg) =>
      draft('weight-noted', {
        runId: run.transferId,
        weightMg,
        // Earlier it may have stood on another scale: then its time says which.
        ...(context.earlier ? {} : { on: run.segments.at(-1)!.openedBy }),
      }),
    prefix,
  )
}

function oil(text: string, context: QuickContext): QuickParse {
  const [, direction, amount] = /^(out|in|parts)\s+(.*)$/i.exec(text) ?? []
  if (!direction) return wrong('Write oil out, oil in or oil parts, then how much: oil out 30')
  return measured(
    'volume',
    amount!,
    context,
    (volumeMl) =>
      draft('oil-noted', {
        direction: direction.toLowerCase() as 'out' | 'in' | 'parts',
        volumeMl,
        text: '',
      }),
    `oil ${direction} `,
  )
}

function pointed<P extends string>(
  command: string,
  text: string,
  points: Record<string, P>,
  usual: P,
  kind: MeasureKind,
  context: QuickContext,
  make: (point: P, value: number) => Draft,
): QuickParse {
  const [, word, rest] = /^([a-z]+)\s+(.*)$/i.exec(text) ?? []
  if (word && !(word.toLowerCase() in points))
    return wrong(`"${word}" is no point of measurement: write ${Object.keys(points).join(', ')}.`)
  const point = word ? points[word.toLowerCase()]! : usual
  const prefix = word ? `${command} ${word} ` : `${command} `
  const parse = measured(kind, word ? rest! : text, context, (value) => make(point, value), prefix)
  return parse.kind === 'ready' ? { ...parse, echo: `${point}: ${parse.echo}` } : parse
}

function measured(
  kind: MeasureKind,
  text: string,
  context: QuickContext,
  make: (value: number) => Draft,
  prefix = '',
): QuickParse {
  const found: Measured = measure(kind, text, context.reading)
  if (found.kind === 'empty') return wrong('Write the figure after it.')
  if (found.kind === 'wrong') return found
  if (found.kind === 'choose')
    return {
      kind: 'choose',
      readings: found.readings.map(({ notation }) => ({ notation, text: prefix + notation })),
    }
  return ready([make(found.value)], found.echo)
}

const ready = (drafts: Draft[], echo: string): QuickParse => ({ kind: 'ready', drafts, echo })
const wrong = (message: string): QuickParse => ({ kind: 'wrong', message })
