import type { Content, TDocumentDefinitions } from 'pdfmake/interfaces'
import { show as showIn } from '~/base/ui/measure'
import { LOCAL_CODES } from '~/words/en'
import { headOf, inCopy, sectionsOf } from '../facts'
import { signature } from './drawn'
import type { PaperJob, Show } from './paper-job'
import { drawn } from './parts'

/** What stands on the report, in order: the full copy has curves, kit, cautions and the tape with it. */
export function definition(job: PaperJob): TDocumentDefinitions {
  const { data, reading, copy } = job
  const show: Show = (kind, value, atmospherePa) =>
    showIn(kind, value, atmospherePa === undefined ? reading : { ...reading, atmospherePa })
  const { heading, title, facts } = headOf(job)
  const content: Content[] = [
    { text: heading, style: 'quiet' },
    { text: title, style: 'title' },
    {
      text: facts.map(([name, value]) => `${name}: ${value}`).join(' · '),
      style: 'quiet',
      margin: [0, 0, 0, 8],
    },
    ...sectionsOf(job)
      .filter((section) => inCopy(section, copy))
      .flatMap((section) => drawn(section, job, show)),
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
