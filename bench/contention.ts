// Twenty seconds in which everybody wants the same: quick starts and re-weighs on one cylinder, two jobs on one system.
import { randomUUID } from 'node:crypto'
import { cylinderOf, inShop, openSession } from '#db'
import { cookieOf } from '../testing/a-session'
import { aCylinder, aJob, anEntry, aShop, aSystem } from '../testing/a-shop'

const SECONDS = 20

export interface Contention {
  medianMs: number
  answers: Record<number, number>
}

export async function contention(origin: string): Promise<Contention> {
  const shop = await aShop()
  const token = await openSession(shop.shopId, shop.userId)
  const headers = {
    cookie: cookieOf(token),
    'sec-fetch-site': 'same-origin',
  }
  const [cylinder, system] = await Promise.all([aCylinder(shop, { label: 'Wanted' }), aSystem(shop)])
  const pair = await Promise.all([aJob(shop), aJob(shop)])
  const until = Date.now() + SECONDS * 1000
  const times: number[] = []
  const answers: Record<number, number> = {}

  const send = async (path: string, body: string | URLSearchParams) => {
    const all = new Headers(headers)
    if (typeof body === 'string') all.set('content-type', 'application/json')
    const started = performance.now()
    const response = await fetch(origin + path, {
      method: 'POST',
      redirect: 'manual',
      headers: all,
      body,
    })
    await response.arrayBuffer()
    times.push(performance.now() - started)
    answers[response.status] = (answers[response.status] ?? 0) + 1
  }
  const quickStart = () =>
    send(
      '/jobs/new',
      new URLSearchParams({
        jobId: randomUUID(),
        runId: randomUUID(),
        refrigerant: 'R-410A',
        cylinder: 'Wanted',
        startWeight: '12 kg',
        mode: 'gross',
      }),
    )
  const reweigh = async () => {
    const { version } = (await inShop(shop.shopId, (tx) => cylinderOf(tx, cylinder)))!
    const weight = `${(12 + Math.random()).toFixed(3)} kg`
    await send(
      `/cylinders/${cylinder}`,
      new URLSearchParams({ kind: 'reweigh', voucherId: randomUUID(), version: String(version), weight }),
    )
  }
  const onSystem = (jobId: string) => () => {
    const runId = randomUUID()
    const entries = [
      anEntry('job-described', { systemId: system, refrigerant: 'R-410A' }),
      anEntry('run-started', {
        runId,
        use: 'recover',
        cylinderId: cylinder,
        scale: '',
        mode: 'gross',
        weightMg: 12e6,
      }),
      anEntry('run-ended', { runId, weightMg: 12e6 + 1_000, hoseMg: 0 }),
    ]
    return send(`/jobs/${jobId}/tape`, JSON.stringify({ userId: shop.userId, sentAt: Date.now(), entries }))
  }
  const loop = async (work: () => Promise<void>) => {
    while (Date.now() < until) {
      await work()
      await new Promise((resolve) => setTimeout(resolve, 50))
    }
  }
  await Promise.all([quickStart, quickStart, reweigh, onSystem(pair[0]), onSystem(pair[1])].map(loop))
  times.sort((a, b) => a - b)
  return { medianMs: times[Math.floor(times.length / 2)]!, answers }
}
