import type { Content } from 'pdfmake/interfaces'
import { quantityText, reasonText, ruleText } from '~/words/verdict/said'
import { clockTime } from '~/base/ui/time'
import { OUTCOME_WORDS, QUANTITY_WORDS, VERDICT_WORDS, wordOf, inSentence } from '~/words/en'
import type { JudgedOnPaper, Section, TapeRow } from '../facts'
import { curves } from './drawn'
import type { PaperJob, Show } from './paper-job'

/** More lines of a tape than this make a book, and no report. */
const MOST_LINES = 1_500
/** Of these together: 60 pages of them. */
const MOST_CHARACTERS = 240_000

/** A section as the PDF lays it out. */
export function drawn(section: Section, job: PaperJob, show: Show): Content[] {
  if (section.id === 'curves') return curves(job, show)
  if (section.id === 'photos') return photographs(job)
  return [{ text: section.heading, style: 'heading' }, ...contentOf(section, job)]
}

function contentOf(section: Exclude<Section, { id: 'curves' } | { id: 'photos' }>, job: PaperJob): Content[] {
  if ('lines' in section) return [{ ul: section.lines, margin: [0, 0, 0, 6] }]
  if ('facts' in section)
    return [{ ul: section.facts.map(([name, value]) => `${name}: ${value}`), margin: [0, 0, 0, 6] }]
  if ('verdicts' in section) return section.verdicts.map((each) => verdict(each, job))
  return section.id === 'tape' ? tape(section.rows) : [grid(section.columns, section.rows)]
}

function verdict({ given, stale, doubted }: JudgedOnPaper, { reading, data }: PaperJob): Content {
  const { code, outcome, reasons, numbers, rule } = given.verdict
  return {
    stack: [
      {
        text: [
          { text: wordOf(VERDICT_WORDS, code), bold: true },
          ` (${inSentence(OUTCOME_WORDS[outcome])}, ${clockTime(given.at, data.shop.timeZone)})`,
        ],
      },
      { text: reasons.map((each) => reasonText(each, reading)).join(' ') },
      {
        text: numbers
          .map((each) => `${wordOf(QUANTITY_WORDS, each.name)} ${quantityText(each, reading)}`)
          .join(' · '),
        style: 'quiet',
      },
      { text: `${ruleText(rule, reading)}.`, style: 'quiet' },
      ...(stale ? [{ text: 'What it was built on has been changed since.', bold: true }] : []),
      ...(doubted
        ? [
            {
              text: 'It rests on a scale that failed its check since, and nobody has decided yet.',
              bold: true,
            },
          ]
        : []),
      ...(given.overruled === undefined ? [] : [{ text: `Overruled: ${given.overruled}`, bold: true }]),
    ],
    margin: [0, 0, 0, 6],
    unbreakable: true,
  }
}

function photographs({ photos }: PaperJob): Content[] {
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

/** The newest rows that fit: a page holds some 4,000 characters. */
function lastRows(rows: string[][]): string[][] {
  let left = MOST_CHARACTERS
  const first = rows.findLastIndex((row) => (left -= row.join('').length) < 0)
  return rows.slice(first + 1)
}

function tape(all: readonly TapeRow[]): Content[] {
  const rows = lastRows(all.slice(-MOST_LINES).map(({ when, words, by }) => [when, words, by]))
  return [
    ...(rows.length < all.length
      ? [
          {
            text: `The last ${rows.length} of ${all.length} entries; the job’s file has all.`,
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
