import { refrigerant as factsOf } from '#core/refrigerants'
import {
  asFound,
  bodyToday,
  checkResult,
  type GivenVerdict,
  inSystemNow,
  type JobState,
  type JudgingContext,
  netMg,
  pressureTestResult,
  STAGES,
  standingVerdict,
} from '#core/tape'
import { formatTemperatureDifference } from '#core/units'
import type { JobData } from '~/job-data/data'
import { entryWords } from '~/words/tape/entry-words'
import { type ReadersUnits, show as showIn } from '~/base/ui/measure'
import { clockTime, day, dayAndTime } from '~/base/ui/time'
import {
  cautionsFor,
  IN_SYSTEM_WORDS,
  JOB_STATUS_WORDS,
  KIT_KIND_WORDS,
  PART_WORDS,
  TESTED_PART_WORDS,
  VERDICT_WORDS,
  wordOf,
  inSentence,
} from '~/words/en'
import type { Show } from './pdf/paper-job'
import { doubtsOf, nextDates, summaryOf } from './summary'

/** A job with what its papers are read in. */
export interface OnPaper {
  data: JobData
  state: JobState
  judging: JudgingContext
  reading: ReadersUnits
}

export interface JudgedOnPaper {
  given: GivenVerdict
  /** What it was built on has changed since. */
  stale: boolean
  /** It rests on weights that are in doubt. */
  doubted: boolean
}

export interface TapeRow {
  entryId: string
  when: string
  words: string
  struck: boolean
  by: string
}

/** What stands on paper, in order: the page and the PDF draw the same. Curves and photos each draws its own way. */
export type Section =
  | {
      id: 'short' | 'doubts' | 'next' | 'tight' | 'repair' | 'kit' | 'cautions' | 'scales'
      heading: string
      lines: string[]
    }
  | { id: 'figures'; heading: string; facts: [name: string, value: string][] }
  | { id: 'weights'; heading: string; columns: string[]; rows: string[][] }
  | { id: 'verdicts'; heading: string; verdicts: JudgedOnPaper[] }
  | { id: 'tape'; heading: string; rows: TapeRow[] }
  | { id: 'curves' }
  | { id: 'photos' }

/** Of a customer's copy: what was found, done and weighed. */
const FULL_ONLY: readonly Section['id'][] = ['curves', 'kit', 'cautions', 'tape']
export const inCopy = ({ id }: Section, copy: 'customer' | 'full'): boolean =>
  copy === 'full' || !FULL_ONLY.includes(id)

/** Above everything: which job, which system, who. */
export function headOf({ data, state }: OnPaper): {
  heading: string
  title: string
  facts: [string, string][]
} {
  const { system, shop, number, people, entries } = data
  const names = [...new Set(entries.map((each) => people[each.userId ?? '']).filter(Boolean))]
  return {
    heading: shop.heading,
    title: state.title || system?.name || `Job ${number}`,
    facts: [
      ['Job', `${number}, ${inSentence(JOB_STATUS_WORDS[state.status])}`],
      ['System', system ? `${system.name}, ${system.customer}, ${system.site}` : 'not named'],
      ['Refrigerant', state.refrigerant ?? 'not known'],
      ['Begun', dayAndTime(state.openedAt, shop.timeZone)],
      ...(state.closedAt === undefined
        ? []
        : [['Closed', dayAndTime(state.closedAt, shop.timeZone)] as [string, string]]),
      ['Technicians', names.join(', ')],
    ],
  }
}

/** Every section that has something in it. */
export function sectionsOf(job: OnPaper): Section[] {
  const { data, state, judging, reading } = job
  const zone = data.shop.timeZone
  const show: Show = (kind, value, atmospherePa) =>
    showIn(kind, value, atmospherePa === undefined ? reading : { ...reading, atmospherePa })
  const dates = nextDates(state, judging).map(({ on, what }) => `${day(on, zone)}: ${what}.`)
  const gas = state.refrigerant ? factsOf(state.refrigerant) : undefined
  const sections: Section[] = [
    { id: 'short', heading: 'In short', lines: summaryOf(state, judging, show) },
    { id: 'doubts', heading: 'To be looked at', lines: doubtsOf(state) },
    { id: 'next', heading: 'Next', lines: dates },
    { id: 'figures', heading: 'Figures', facts: figuresOf(job, show) },
    { id: 'scales', heading: 'Weighed on a scale that failed its check', lines: scalesIn(job, show) },
    { id: 'verdicts', heading: 'What was judged', verdicts: verdictsOf(job) },
    { id: 'tight', heading: 'Tight and dry', lines: testsOf(job, show) },
    { id: 'curves' },
    { id: 'repair', heading: 'Repair', lines: repairOf(state, show) },
    { id: 'photos' },
    { id: 'weights', heading: 'Weights', columns: COLUMNS, rows: weightsOf(job, show) },
    { id: 'kit', heading: 'Measured and done with', lines: kitOf(state) },
    {
      id: 'cautions',
      heading: 'Cautions',
      lines: [...new Set(STAGES.flatMap((stage) => cautionsFor(stage, gas, data.system?.trade)))],
    },
    { id: 'tape', heading: 'Everything that was noted', rows: tapeOf(job, show) },
  ]
  return sections.filter((each) => {
    if ('lines' in each) return each.lines.length > 0
    if ('rows' in each) return each.rows.length > 0
    if ('facts' in each) return each.facts.length > 0
    return !('verdicts' in each) || each.verdicts.length > 0
  })
}

function figuresOf({ state, judging, reading }: OnPaper, show: Show): [string, string][] {
  const { units } = reading
  const found = asFound(judging)
  const { superheatK, subcoolingK } = checkResult(state)
  const now = inSystemNow(state)
  const facts: [string, string][] = []
  if (found)
    facts.push([
      found.from === 'books' ? 'In it by earlier books' : 'Should have been in it',
      `${show('weight', found.weighed.massMg)} ± ${show('weight', 2 * found.weighed.sigmaMg)}`,
    ])
  // From one emptying to the next.
  for (const { outMg, inMg, pulls, charges, end } of state.episodes) {
    if (charges > 0) facts.push(['Charged', show('weight', inMg)])
    if (pulls > 0 || end) facts.push(['Recovered', show('weight', outMg)])
  }
  if (state.target) facts.push(['Target', show('weight', state.target.massMg)])
  if (now.kind !== 'as-found')
    facts.push([IN_SYSTEM_WORDS[now.kind], now.kind === 'empty' ? 'empty' : show('weight', now.massMg)])
  if (state.oil.noted)
    facts.push(['Oil out / in', `${show('volume', state.oil.outMl)} / ${show('volume', state.oil.inMl)}`])
  if (superheatK !== undefined)
    facts.push(['Superheat', formatTemperatureDifference(superheatK, units.temperature)])
  if (subcoolingK !== undefined)
    facts.push(['Subcooling', formatTemperatureDifference(subcoolingK, units.temperature)])
  return facts
}

/** Until somebody decides, verdicts and report rest on them with caution. */
const scalesIn = ({ data }: OnPaper, show: Show): string[] =>
  data.doubts.map(
    ({ use, cylinder, massMg, kit, checkedAt, read, known }) =>
      `${use === 'recover' ? 'Recovered into' : 'Charged from'} ${cylinder}, ${show('weight', massMg)}, on ${kit}: on ${dayAndTime(checkedAt, data.shop.timeZone)} it read ${show('weight', read)} for ${show('weight', known)}.`,
  )

function verdictsOf({ data, state, judging }: OnPaper): JudgedOnPaper[] {
  return state.verdicts.map((given) => {
    const standing = standingVerdict(state, given.about, judging)
    const weighed = given.about === 'recovery' || given.about === 'charge'
    return {
      given,
      // One that another has followed spoke of its time.
      stale: standing?.entryId === given.entryId && standing.stale,
      doubted: weighed && data.doubts.length > 0,
    }
  })
}

/** Nitrogen and vacuum, one after the other. */
function testsOf({ data, state }: OnPaper, show: Show): string[] {
  const when = (at: number) => dayAndTime(at, data.shop.timeZone)
  const tests = state.pressureTests.flatMap((test) => {
    if (!test.end) return []
    const { part, startedAt, pressurePa, tempK, atmospherePa, end } = test
    return `Nitrogen on ${inSentence(TESTED_PART_WORDS[part])}, ${when(startedAt)}: ${show('pressure', pressurePa, atmospherePa)} at ${show('temperature', tempK)}, then ${show('pressure', end.pressurePa, atmospherePa)} at ${show('temperature', end.tempK)}. ${wordOf(VERDICT_WORDS, pressureTestResult(test)!.verdict.code)}.`
  })
  const holds = state.holds
    .filter((each) => each.endedAt !== undefined)
    .map(
      ({ startedAt, readings }) =>
        `Vacuum hold, ${when(startedAt)}: from ${show('vacuum', readings[0]!.pressurePa)} to ${show('vacuum', readings.at(-1)!.pressurePa)}.`,
    )
  return [...tests, ...holds]
}

function repairOf({ parts, takenOff }: JobState, show: Show): string[] {
  const renewed = parts.map(({ part, number, text, oilMl, chargeMg }) =>
    [
      [`${PART_WORDS[part]} renewed`, number && `no. ${number}`, text].filter(Boolean).join(', '),
      oilMl > 0 && `oil ${show('volume', oilMl)}`,
      chargeMg !== 0 && `charge ${show('weight', chargeMg)} more`,
    ]
      .filter(Boolean)
      .join('; '),
  )
  const off = takenOff.flatMap(({ what, leftOff, backAt }) =>
    leftOff !== undefined && backAt === undefined ? `Left off: ${what}, because ${leftOff}.` : [],
  )
  return [...renewed, ...off]
}

const COLUMNS = ['Transfer', 'Cylinder', 'Scale', 'First', 'Last', 'Moved', 'Give or take']

function weightsOf({ data, state }: OnPaper, show: Show): string[][] {
  const labels = new Map(data.cylinders.map((each) => [each.cylinderId, each.label]))
  return state.transfers.map((each) => [
    each.use === 'recover' ? 'Recovered' : 'Charged',
    labels.get(each.cylinderId) ?? '',
    each.segments.map(({ scale, mode }) => `${scale ? `${scale}, ` : ''}${mode}`).join(' then '),
    show('weight', each.weighings[0]!.weightMg),
    show('weight', each.weighings.at(-1)!.weightMg),
    show('weight', netMg(each)),
    show('weight', 2 * each.sigmaMg),
  ])
}

const kitOf = ({ kit }: JobState): string[] => [
  ...new Map(kit.map((each) => [each.kitId, `${KIT_KIND_WORDS[each.kind]}: ${each.label}`])).values(),
]

/** Everything that was noted; of what was corrected, what it was before as well. */
function tapeOf({ data, state }: OnPaper, show: Show): TapeRow[] {
  const labels = new Map(data.cylinders.map((each) => [each.cylinderId, each.label]))
  const words = entryWords(show, {
    cylinder: (id) => labels.get(id),
    system: (id) => (data.system?.systemId === id ? data.system.name : undefined),
  })
  return state.lines.map(({ entry, time, body, struck, correctedBy }) => ({
    entryId: entry.entryId,
    when: `${day(time, data.shop.timeZone)} ${clockTime(time, data.shop.timeZone)}`,
    words: `${words(entry.kind, body)}${struck ? ' (struck)' : correctedBy ? ` (was: ${words(entry.kind, bodyToday(entry))})` : ''}`,
    struck,
    by: data.people[entry.userId ?? ''] ?? '',
  }))
}
