import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces'
import { show as showIn } from '~/ui/measure'
import { day, dayAndTime } from '~/ui/time'
import { JOB_STATUS_WORDS, LOCAL_CODES } from '~/wording/en'
import { doubtsOf, nextDates, summaryOf } from '../summary'
import { curves, signature } from './drawn'
import type { PaperJob, Show } from './paper-job'
import { cautions, kit, photographs, tape, verdicts, weights } from './parts'

/** What stands on the report, in order: the full copy has curves, kit, cautions and the tape with it. */
export function definition(job: PaperJob): TDocumentDefinitions {
  const { data, state, judging, reading, copy } = job
  const show: Show = (kind, value, atmospherePa) =>
    showIn(kind, value, atmospherePa === undefined ? reading : { ...reading, atmospherePa })
  const title = state.title || data.system?.name || `Job ${data.number}`
  const zone = data.shop.timeZone
  const list = (lines: string[]): Content => ({ ul: lines, margin: [0, 0, 0, 6] })
  const section = (heading: string, ...content: Content[]): Content[] => [
    { text: heading, style: 'heading' },
    ...content,
  ]
  const dates = nextDates(state, judging).map(({ on, what }) => `${day(on, zone)}: ${what}.`)
  const doubts = doubtsOf(state)
  const content: Content[] = [
    { text: data.shop.heading, style: 'quiet' },
    { text: title, style: 'title' },
    {
      text: [
        `Job ${data.number}, ${JOB_STATUS_WORDS[state.status].toLowerCase()}`,
        data.system && `${data.system.name}, ${data.system.customer}, ${data.system.site}`,
        state.refrigerant,
        `begun ${dayAndTime(state.openedAt, zone)}`,
        state.closedAt !== undefined && `closed ${dayAndTime(state.closedAt, zone)}`,
      ]
        .filter(Boolean)
        .join(' · '),
      style: 'quiet',
      margin: [0, 0, 0, 8],
    },
    ...section('In short', list(summaryOf(state, judging, show))),
    ...(doubts.length > 0 ? section('To be looked at', list(doubts)) : []),
    ...(dates.length > 0 ? section('Next', list(dates)) : []),
    ...verdicts(job),
    ...weights(job, show),
    ...(copy === 'full' ? curves(job, show) : []),
    ...photographs(job),
    ...(copy === 'full' ? [...kit(job), ...cautions(job), ...tape(job, show)] : []),
    { text: LOCAL_CODES, style: 'quiet', margin: [0, 8, 0, 8] },
    signature(job),
  ]
  return {
    content,
    info: { title: `${title}, job ${data.number}`, creator: 'Keg', producer: 'Keg' },
    pageSize: 'A4',
    pageMargins: [48, 48, 48, 56],
    defaultStyle: { font: 'Roboto', fontSize: 10, lineHeight: 1.2 },
    styles: {
      title: { fontSize: 20, bold: true },
      heading: { fontSize: 13, bold: true, margin: [0, 10, 0, 4] },
      quiet: { color: '#555555' },
      head: { bold: true },
    },
    footer: (page, pages) => ({
      text: `${title} · job ${data.number} · ${copy === 'full' ? 'full copy' : 'customer copy'} · ${page} of ${pages}`,
      alignment: 'center',
      style: 'quiet',
      fontSize: 8,
    }),
  }
}
