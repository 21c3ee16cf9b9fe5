import type { Content } from 'pdfmake/interfaces'
import { refrigerant as factsOf } from '#core/refrigerants'
import { netMg, STAGES, standingVerdict } from '#core/tape'
import { entryWords } from '~/tape/entry-words'
import { clockTime, day } from '~/ui/time'
import { quantityText, reasonText, ruleText } from '~/ui/verdict-card'
import {
  cautionsFor,
  KIT_KIND_WORDS,
  OUTCOME_WORDS,
  QUANTITY_WORDS,
  VERDICT_WORDS,
  wordOf,
} from '~/wording/en'
import type { PaperJob, Show } from './paper-job'

/** More lines of a tape than this make a book, and no report. */
const MOST_LINES = 1_500
/** Of these together: 60 pages of them. */
const MOST_CHARACTERS = 240_000

export function verdicts({ state, judging, reading, data }: PaperJob): Content[] {
  if (state.verdicts.length === 0) return []
  return [
    { text: 'What was judged', style: 'heading' },
    ...state.verdicts.map((given): Content => {
      const standing = standingVerdict(state, given.about, judging)
      const stale = standing?.entryId === given.entryId && standing.stale
      return {
        stack: [
          {
            text: [
              { text: wordOf(VERDICT_WORDS, given.verdict.code), bold: true },
              ` (${OUTCOME_WORDS[given.verdict.outcome].toLowerCase()}, ${clockTime(given.at, data.shop.timeZone)})`,
            ],
          },
          { text: given.verdict.reasons.map((each) => reasonText(each, reading)).join(' ') },
          {
            text: given.verdict.numbers
              .map((each) => `${wordOf(QUANTITY_WORDS, each.name)} ${quantityText(each, reading)}`)
              .join(' · '),
            style: 'quiet',
          },
          { text: `${ruleText(given.verdict.rule, reading)}.`, style: 'quiet' },
          ...(stale ? [{ text: 'What it was built on has been changed since.', bold: true }] : []),
          ...(given.overruled === undefined ? [] : [{ text: `Overruled: ${given.overruled}`, bold: true }]),
        ],
        margin: [0, 0, 0, 6],
        unbreakable: true,
      }
    }),
  ]
}

export function weights({ state, data }: PaperJob, show: Show): Content[] {
  if (state.transfers.length === 0) return []
  const label = (id: string) => data.cylinders.find((each) => each.cylinderId === id)?.label ?? ''
  return [
    { text: 'Weights', style: 'heading' },
    grid(
      ['What', 'Cylinder', 'Scale, how', 'First', 'Last', 'Moved', 'Give or take'],
      state.transfers.map((each) => [
        each.use === 'recover' ? 'Recovered' : 'Charged',
        label(each.cylinderId),
        each.segments.map(({ scale, mode }) => `${scale ? `${scale}, ` : ''}${mode}`).join(' then '),
        show('weight', each.weighings[0]!.weightMg),
        show('weight', each.weighings.at(-1)!.weightMg),
        show('weight', netMg(each)),
        show('weight', 2 * each.sigmaMg),
      ]),
    ),
  ]
}

export function photographs({ photos }: PaperJob): Content[] {
  if (photos.length === 0) return []
  return [
    { text: 'Photos', style: 'heading' },
    ...photos.map(({ words, jpeg }): Content => ({
      stack: [
        { image: `data:image/jpeg;base64,${jpeg.toString('base64')}`, fit: [330, 240] },
        { text: words, style: 'quiet' },
      ],
      unbreakable: true,
      margin: [0, 0, 0, 8],
    })),
  ]
}

export function kit({ state }: PaperJob): Content[] {
  if (state.kit.length === 0) return []
  const used = new Map(state.kit.map((each) => [each.kitId, `${KIT_KIND_WORDS[each.kind]}: ${each.label}`]))
  return [
    {
      stack: [{ text: 'Measured and done with', style: 'heading' }, { ul: [...used.values()] }],
      unbreakable: true,
    },
  ]
}

export function cautions({ state, data }: PaperJob): Content[] {
  const gas = state.refrigerant ? factsOf(state.refrigerant) : undefined
  const lines = [...new Set(STAGES.flatMap((stage) => cautionsFor(stage, gas, data.system?.trade)))]
  return [{ text: 'Cautions', style: 'heading' }, { ul: lines }]
}

/** The newest rows that fit: a page holds some 4,000 characters. */
function lastRows(rows: string[][]): string[][] {
  let left = MOST_CHARACTERS
  const first = rows.findLastIndex((row) => (left -= row.join('').length) < 0)
  return rows.slice(first + 1)
}

export function tape({ state, data }: PaperJob, show: Show): Content[] {
  const labels = new Map(data.cylinders.map((each) => [each.cylinderId, each.label]))
  const words = entryWords(show, {
    cylinder: (id) => labels.get(id),
    system: (id) => (data.system?.systemId === id ? data.system.name : undefined),
  })
  const rows = lastRows(
    state.lines
      .slice(-MOST_LINES)
      .map(({ entry, time, body, struck }) => [
        `${day(time, data.shop.timeZone)} ${clockTime(time, data.shop.timeZone)}`,
        `${words(entry.kind, body)}${struck ? ' (struck)' : ''}`,
        data.people[entry.userId ?? ''] ?? '',
      ]),
  )
  return [
    { text: 'Everything that was noted', style: 'heading' },
    ...(rows.length < state.lines.length
      ? [
          {
            text: `The last ${rows.length} of ${state.lines.length} entries; the job’s file has all.`,
            style: 'quiet',
          },
        ]
      : []),
    grid(['Time', 'Entry', 'By'], rows, ['auto', '*', 'auto']),
  ]
}

function grid(head: string[], rows: string[][], widths?: (string | number)[]): Content {
  return {
    table: {
      headerRows: 1,
      ...(widths && { widths }),
      body: [head.map((text) => ({ text, style: 'head' })), ...rows],
    },
    layout: 'lightHorizontalLines',
    fontSize: 8,
  }
}
