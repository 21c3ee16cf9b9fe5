// The papers of a job as other programs get them: the PDF is opened again and read, the JSON parsed.
import { randomUUID } from 'node:crypto'
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs'
import type { RouterContextProvider } from 'react-router'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { EntryBodies, EntryKind } from '#core/tape'
import { closeDatabase, inShop, keepPhoto } from '#db'
import { letIn } from '../../../testing/a-request'
import { aCylinder, aJob, anEntry, type AShop, aShop, aSystem, note, NOW } from '../../../testing/a-shop'
import { loader as json } from './job-json'
import { loader as pdf } from './report-pdf'

let shop: AShop
let technician: RouterContextProvider
let stranger: RouterContextProvider
beforeAll(async () => {
  shop = await aShop()
  technician = await letIn(shop, 'technician')
  stranger = await letIn(await aShop(), 'technician')
})
afterAll(closeDatabase)

const KG = 1_000_000
const get = async (loader: typeof pdf | typeof json, jobId: string, search = '', who = technician) => {
  const answer: unknown = await Promise.resolve(
    loader({
      request: new Request(`http://keg.test/${search}`),
      context: who,
      params: { jobId },
    } as never),
  ).catch((thrown: unknown) => thrown)
  return answer as Response
}
async function textOf(answer: Response): Promise<{ text: string; pages: number; images: number }> {
  const document = await getDocument({ data: new Uint8Array(await answer.arrayBuffer()) }).promise
  let text = ''
  let images = 0
  for (let n = 1; n <= document.numPages; n++) {
    const page = await document.getPage(n)
    const content = await page.getTextContent()
    text += content.items.map((item) => ('str' in item ? item.str : '')).join(' ')
    const { fnArray } = await page.getOperatorList()
    // paintImageXObject
    images += fnArray.filter((fn) => fn === 85).length
  }
  return { text: text.replace(/\s+/g, ' '), pages: document.numPages, images }
}

/** 2.95 kg out, a drier renewed, 3.010 kg in. */
async function aWholeJob(): Promise<string> {
  const [cylinder, system, job] = await Promise.all([
    aCylinder(shop, { label: `Gull ${randomUUID().slice(0, 6)}` }),
    aSystem(shop, { name: 'Net loft cooler', plateMg: 3 * KG }),
    aJob(shop),
  ])
  const runs = [randomUUID(), randomUUID()] as const
  const weighed = { cylinderId: cylinder, scale: 'Platform', mode: 'gross' as const, divisionMg: 5_000 }
  let minutes = 0
  // Told afterwards: what has happened is not judged as a decision any more.
  const told = <K extends EntryKind>(kind: K, body: EntryBodies[K]) =>
    anEntry(kind, body, { at: NOW.getTime() + 300_000 * minutes++ })
  await note(
    shop,
    job,
    told('job-described', { title: 'Noisy fan', systemId: system, refrigerant: 'R-410A' }),
    told('run-started', { runId: runs[0], use: 'recover', weightMg: 12 * KG, ...weighed }),
    told('pressure-noted', { point: 'low', pressurePa: 901_325 }),
    told('weight-noted', { runId: runs[0], weightMg: 13_900_000 }),
    told('pressure-noted', { point: 'low', pressurePa: 401_325 }),
    told('run-ended', { runId: runs[0], weightMg: 14_950_000 }),
    told('pressure-noted', { point: 'low', pressurePa: 91_325 }),
    told('recovery-ended', { how: 'emptied' }),
    told('part-replaced', { part: 'drier', number: 'HB-163', text: '' }),
    told('leak-checked', { method: 'nitrogen', found: false, text: '' }),
    told('target-set', { massMg: 3 * KG, toleranceMg: 30_000, basis: 'expected' }),
    told('run-started', { runId: runs[1], use: 'charge', weightMg: 14_950_000, ...weighed }),
    told('run-ended', { runId: runs[1], weightMg: 11_940_000 }),
    told('customer-signed', { name: 'Bea Kelp', strokes: [[100, 100, 300, 200, 500, 90]] }),
  )
  return job
}

describe('the report as a PDF', () => {
  it('says in short what came out, what was renewed, and what is in it now', async () => {
    const answer = await get(pdf, await aWholeJob())
    expect(answer.headers.get('content-type')).toBe('application/pdf')
    const { text } = await textOf(answer)
    expect(text).toContain('Noisy fan')
    expect(text).toContain('2.950 kg came out of the system.')
    expect(text).toContain('Renewed: filter-drier')
    expect(text).toContain('none was found')
    // 14.950 less 11.940.
    expect(text).toContain('In the system now: 3.010 kg of R-410A')
    expect(text).toContain('Bea Kelp')
    // The customer's copy has no tape.
    expect(text).not.toContain('Everything that was noted')
  })
  it('the full copy has every entry, the kit and the cautions with it', async () => {
    const { text } = await textOf(await get(pdf, await aWholeJob(), '?copy=full'))
    expect(text).toContain('Everything that was noted')
    expect(text).toContain('Transfer ended at 14.950 kg')
    // Three weights of the recovery, two of the charge: what was seen on its way is drawn.
    expect(text).toMatch(/Weights over time .*: recovered 2\.950 kg/)
    expect(text).not.toContain('charged 3.010 kg')
    expect(text).toContain('Low side: −0.10 bar g to 8.00 bar g')
    expect(text).toContain('Cautions')
  })
  it('says what stood before a correction, what the page says besides, and by which rule it was judged', async () => {
    const job = await aWholeJob()
    const renewed = anEntry('part-replaced', { part: 'fan', number: 'F-1', text: '', oilMl: 0 })
    await note(
      shop,
      job,
      renewed,
      anEntry('correction', {
        entryId: renewed.entryId,
        kind: 'part-replaced',
        body: { part: 'fan', number: 'F-2', text: '', oilMl: 0 },
        reason: 'misread',
      }),
      anEntry('verdict-given', {
        about: 'hold',
        verdict: {
          outcome: 'bad',
          code: 'hold-failed',
          reasons: [{ code: 'rose-above-limit' }],
          numbers: [],
          rule: {
            code: 'hold-below-limit',
            numbers: [
              { name: 'down-to', value: 250 * 0.133322368, unit: 'Pa' },
              { name: 'limit', value: 500 * 0.133322368, unit: 'Pa' },
              { name: 'at-least', value: 300, unit: 's' },
            ],
          },
        },
        engine: 8,
        tables: 1,
      }),
    )
    const { text } = await textOf(await get(pdf, job, '?copy=full'))
    expect(text).toMatch(/no\. F-2.*\(was: .*F-1.*\)/)
    expect(text).toContain('Should have been in it: 3.000 kg')
    expect(text).toContain('down to 250 micron, pump valved off, at least 5 min, must stay below 500 micron')
  })
  it('photos come with it, hidden ones do not', async () => {
    const job = await aWholeJob()
    const jpeg = await sharp({ create: { width: 60, height: 40, channels: 3, background: '#b46a3c' } })
      .jpeg()
      .toBuffer()
    const [shown, hidden] = [randomUUID(), randomUUID()]
    for (const photoId of [shown, hidden])
      await inShop(shop.shopId, (tx) =>
        keepPhoto(tx, { photoId, jobId: job, userId: shop.userId, at: NOW, width: 60, height: 40, jpeg }),
      )
    await note(
      shop,
      job,
      anEntry('photo-noted', { photoId: shown, of: 'after', text: 'the new drier' }),
      anEntry('photo-noted', { photoId: hidden, of: 'before', text: 'a face' }),
      anEntry('photo-hidden', { photoId: hidden, reason: 'a face is on it' }),
    )
    const { text, images } = await textOf(await get(pdf, job))
    expect(text).toContain('the new drier')
    expect(text).not.toContain('a face')
    expect(images).toBe(1)
  })
  it('a job in which nothing was noted yet is a report, too', async () => {
    const { pages } = await textOf(await get(pdf, await aJob(shop), '?copy=full'))
    expect(pages).toBe(1)
  })
  it('is nobody else’s', async () => {
    const job = await aWholeJob()
    for (const loader of [pdf, json]) expect((await get(loader, job, '', stranger)).status).toBe(404)
  })
})

describe('a job as JSON', () => {
  it('has entries, verdicts and movements, in SI and milligrams', async () => {
    const job = await aWholeJob()
    const answer = await get(json, job)
    const body = (await answer.json()) as {
      format: string
      version: number
      recoveredMg: number
      chargedMg: number
      movements: { from: { place: string }; to: { place: string }; massMg: number }[]
      entries: { kind: string; trueTime: string }[]
      verdicts: { about: string; now: { code: string } | null }[]
    }
    expect([body.format, body.version]).toEqual(['keg-job', 2])
    expect([body.recoveredMg, body.chargedMg]).toEqual([2_950_000, 3_010_000])
    expect(body.entries.map((each) => each.kind)).toContain('part-replaced')
    expect(
      body.movements
        .filter((each) => each.from.place !== 'outside')
        .map((each) => [each.from.place, each.to.place, each.massMg])
        .sort((a, b) => Number(a[2]) - Number(b[2])),
    ).toEqual([
      ['system', 'cylinder', 2_950_000],
      ['cylinder', 'system', 3_010_000],
    ])
    expect(body.verdicts.find((each) => each.about === 'charge')?.now?.code).toBe('charge-on-target')
  })
})
