// One job noted on for weeks beside one just begun: what a note costs, and what its page weighs.
import { randomUUID } from 'node:crypto'
import { append, inShop, openSession } from '#db'
import type { Entry } from '#core/tape'
import { cookieOf } from '../testing/a-session'
import { aCylinder, aJob, anEntry, aShop, aSystem } from '../testing/a-shop'

const KG = 1_000_000
const MINUTE = 60_000
const ROUNDS = 120
const WARM_UP = 40

export interface TapeCost {
  /** Median of noting one weight, ms. */
  noteMs: number
  /** 95 of 100 are quicker, ms. */
  pageMs: number
  pageKb: number
}

/** @param entries how many the tape has before */
export async function tapeCost(origin: string, entries: number): Promise<TapeCost> {
  const shop = await aShop()
  const headers = {
    cookie: cookieOf(await openSession(shop.shopId, shop.userId)),
    'sec-fetch-site': 'same-origin',
  }
  const [cylinder, system, jobId] = await Promise.all([aCylinder(shop), aSystem(shop), aJob(shop)])
  const runId = randomUUID()
  const start = Date.now() - (entries + 10) * MINUTE
  const at = (i: number) => ({ at: start + i * MINUTE, deviceId: 'bench', deviceSeq: i + 1 })
  const tape: Entry[] = [
    anEntry('job-described', { systemId: system, refrigerant: 'R-410A' }, at(0)),
    anEntry(
      'run-started',
      { runId, use: 'recover', cylinderId: cylinder, scale: 'S', mode: 'gross', weightMg: 12 * KG },
      at(1),
    ),
  ]
  for (let i = 2; i < entries; i++) {
    const kind = i % 5
    if (kind === 0)
      tape.push(anEntry('pressure-noted', { point: 'low', pressurePa: 3e5 - (i % 100) * 1000 }, at(i)))
    else if (kind === 1) tape.push(anEntry('note', { text: `Looked at the machine, minute ${i}` }, at(i)))
    else tape.push(anEntry('weight-noted', { runId, weightMg: 12 * KG + i * 1000 }, at(i)))
  }
  for (let i = 0; i < tape.length; i += 250)
    await inShop(shop.shopId, (tx) =>
      append(tx, {
        jobId,
        userId: shop.userId,
        entries: tape.slice(i, i + 250),
        sentAt: Date.now(),
        offsetMs: 0,
        now: new Date(),
        today: '2026-06-01',
      }),
    )

  const notes: number[] = []
  for (let i = 0; i < WARM_UP + ROUNDS; i++) {
    const entry = anEntry(
      'weight-noted',
      { runId, weightMg: 16 * KG + i * 1000 },
      { at: Date.now(), deviceId: 'bench', deviceSeq: entries + i + 1 },
    )
    const started = performance.now()
    const response = await fetch(`${origin}/jobs/${jobId}/tape`, {
      method: 'POST',
      headers: { ...headers, 'content-type': 'application/json' },
      body: JSON.stringify({ userId: shop.userId, sentAt: Date.now(), entries: [entry] }),
    })
    await response.arrayBuffer()
    if (!response.ok) throw new Error(`a note was answered ${response.status}`)
    if (i >= WARM_UP) notes.push(performance.now() - started)
  }
  const pages: number[] = []
  let bytes = 0
  for (let i = 0; i < WARM_UP + ROUNDS; i++) {
    const started = performance.now()
    const response = await fetch(`${origin}/jobs/${jobId}`, {
      headers: { ...headers, 'accept-encoding': 'identity' },
    })
    bytes = (await response.arrayBuffer()).byteLength
    if (i >= WARM_UP) pages.push(performance.now() - started)
  }
  const sorted = (times: number[]) => times.sort((a, b) => a - b)
  return {
    noteMs: sorted(notes)[ROUNDS >> 1]!,
    pageMs: sorted(pages)[Math.ceil(0.95 * ROUNDS) - 1]!,
    pageKb: bytes / 1000,
  }
}
