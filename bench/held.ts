// The worst of each route: what takes longest to work out is asked for, and how long nobody else was answered is read from
// the server's own figures.
import { randomUUID } from 'node:crypto'
import sharp from 'sharp'
import { append, inShop, openSession } from '#db'
import { cookieOf } from '../testing/a-session'
import { aJob, anEntry, aShop } from '../testing/a-shop'

const NOTES = 1_500
const BATCH = 250
/** A note as people write one who write much. */
const LONG_NOTE = 'Looked at the machine again, and what it says has not changed. '.repeat(12).trim()
const EMPTY_ROWS = 1_000_000

/** @param largeCookie of somebody in a large shop */
export async function askTheWorst(origin: string, largeCookie: string): Promise<void> {
  const shop = await aShop()
  const cookie = cookieOf(await openSession(shop.shopId, shop.userId))
  const jobId = await aJob(shop)
  const start = Date.now() - NOTES * 60_000
  for (let i = 0; i < NOTES; i += BATCH)
    await inShop(shop.shopId, (tx) =>
      append(tx, {
        jobId,
        userId: shop.userId,
        entries: Array.from({ length: BATCH }, (_, j) =>
          anEntry(
            'note',
            { text: LONG_NOTE },
            { at: start + (i + j) * 60_000, deviceId: 'bench', deviceSeq: i + j + 1 },
          ),
        ),
        sentAt: Date.now(),
        offsetMs: 0,
        now: new Date(),
        today: '2026-06-01',
      }),
    )
  const get = async (path: string, of = cookie) => {
    const answer = await fetch(origin + path, { headers: { cookie: of } })
    await answer.arrayBuffer()
    if (answer.status >= 500) throw new Error(`${path} answered ${answer.status}`)
  }
  const send = async (path: string, name: string, file: File, more: Record<string, string> = {}) => {
    const form = new FormData()
    for (const [field, value] of Object.entries(more)) form.set(field, value)
    form.set(name, file)
    const headers = { cookie, 'sec-fetch-site': 'same-origin' }
    const answer = await fetch(origin + path, { method: 'POST', body: form, headers })
    await answer.arrayBuffer()
    if (answer.status >= 500) throw new Error(`${path} answered ${answer.status}`)
  }
  for (const path of ['', '/report', '/report.pdf?copy=full', '/job.json', '/label'])
    await get(`/jobs/${jobId}${path}`)
  for (const path of [
    '/pack',
    '/ledger',
    '/ledger.csv',
    '/ledger/conservation',
    '/ledger/month',
    '/due',
    '/due.ics',
  ])
    await get(path, largeCookie)
  await get('/exchange/archive', largeCookie)
  const rows = `{"format":"keg-archive","version":1,"writtenAt":"2026-01-01T00:00:00Z","entries":[${'{},'.repeat(EMPTY_ROWS - 1)}{}]}`
  await send('/exchange/archive', 'archive', new File([rows], 'rows.json'))
  const photo = await sharp({
    create: {
      width: 8_000,
      height: 6_000,
      channels: 3,
      noise: { type: 'gaussian', mean: 120, sigma: 20 },
      background: '#333',
    },
  })
    .jpeg({ quality: 40 })
    .toBuffer()
  const pixels = new File([new Uint8Array(photo)], 'photo.jpg', { type: 'image/jpeg' })
  await Promise.all(
    Array.from({ length: 8 }, () =>
      send(`/jobs/${jobId}/photos`, 'photo', pixels, { photoId: randomUUID() }),
    ),
  )
}

/** By what was asked, the longest time in which nobody was answered, ms; what was under 100 is not among them. */
export async function heldBy(origin: string): Promise<[asked: string, ms: number][]> {
  const text = await (await fetch(`${origin}/metrics`)).text()
  return [...text.matchAll(/^keg_loop_held_seconds_max\{asked="([^"]+)"\} ([\d.e-]+)$/gm)]
    .map(([, asked, seconds]): [string, number] => [asked!, 1_000 * Number(seconds)])
    .toSorted((a, b) => b[1] - a[1])
}
