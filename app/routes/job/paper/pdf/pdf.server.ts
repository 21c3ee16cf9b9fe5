import { createRequire } from 'node:module'
import { dirname, join } from 'node:path'
import pdfmake from 'pdfmake'
import { definition } from './document'
import type { PaperJob } from './paper-job'

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
