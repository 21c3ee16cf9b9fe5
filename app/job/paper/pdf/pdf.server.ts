import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import pdfmake from 'pdfmake'
import { foldTape, judgingContext } from '#core/tape'
import { atmospherePa, type Units } from '#core/units'
import type { JobData } from '~/job-data/data'
import { definition } from './document'
import { type Copy, type PaperJob, photoWords } from './paper-job'

let ready = false

/** The fonts lie beside the program; nothing is fetched, and no file of this machine gets into a report. */
function fonts(): void {
  if (ready) return
  const folder = join(
    dirname(createRequire(import.meta.url).resolve('pdfmake/package.json')),
    'fonts',
    'Roboto',
  )
  const of = (name: string) => join(folder, `Roboto-${name}.ttf`)
  pdfmake.setFonts({
    Roboto: {
      normal: of('Regular'),
      bold: of('Medium'),
      italics: of('Italic'),
      bolditalics: of('MediumItalic'),
    },
  })
  pdfmake.setUrlAccessPolicy(() => false)
  pdfmake.setLocalAccessPolicy((path: string) => path.startsWith(folder))
  ready = true
}

/** The job report as a PDF: a summary a customer understands first; the full copy has everything. */
export async function reportPdf(job: PaperJob): Promise<Buffer> {
  fonts()
  return pdfmake.createPdf(definition(job)).getBuffer()
}

/** What a report is laid out of. */
export interface Report {
  data: JobData
  units: Units
  copy: Copy
  photos: { photoId: string; jpeg: Uint8Array }[]
}

/** The same from a job as it was loaded: folding a long tape takes its time, too. */
export async function layOutReport({ data, units, copy, photos }: Report): Promise<Uint8Array> {
  const state = foldTape(data.entries)
  const altitudeM = data.system?.altitudeM
  const jpegs = new Map(photos.map((each) => [each.photoId, Buffer.from(each.jpeg)]))
  return reportPdf({
    data,
    state,
    judging: judgingContext(data, state),
    reading: { units, ...(altitudeM ? { atmospherePa: atmospherePa(altitudeM) } : {}) },
    copy,
    photos: state.photos.flatMap((photo) => {
      const jpeg = photo.hidden === undefined && jpegs.get(photo.photoId)
      return jpeg ? [{ words: photoWords(photo), jpeg }] : []
    }),
  })
}
