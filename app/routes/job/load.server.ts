import { foldTape } from '#core/tape'
import {
  cylinderGains,
  type CylinderRow,
  cylindersFor,
  cylindersOf,
  inShop,
  jobHead,
  people,
  type SignedIn,
  systemOf,
  systems,
  tapeOf,
} from '#db'
import { found } from '~/form/ids.server'
import { now, todayIn } from '~/session/clock.server'

/** A cylinder as a job sees it: its books without what this job has moved. */
export interface JobCylinder extends CylinderRow {
  beforeMg: number
}

/** A job's tape and all that the fold's readers need beside it: without signal the page goes on by itself. */
export async function loadJob({ shop, person }: SignedIn, jobId: string) {
  return inShop(shop.shopId, async (tx) => {
    const head = found(await jobHead(tx, jobId), 'job')
    const [entries, everyone, gains] = await Promise.all([
      tapeOf(tx, jobId),
      people(tx),
      cylinderGains(tx, jobId),
    ])
    const state = foldTape(entries)
    const used = [...new Set([...state.runs, ...state.chosen].map((r) => r.cylinderId))]
    const [system, candidates, named] = await Promise.all([
      state.systemId ? systemOf(tx, state.systemId) : undefined,
      state.refrigerant ? cylindersFor(tx, state.refrigerant, jobId) : [],
      cylindersOf(tx, used, jobId),
    ])
    const choices = state.systemId ? [] : await systems(tx, '', 200)
    const cylinders = new Map<string, JobCylinder>()
    for (const row of [...candidates, ...named])
      cylinders.set(row.cylinderId, { ...row, beforeMg: row.balanceMg - (gains.get(row.cylinderId) ?? 0) })
    return {
      jobId,
      number: head.number,
      entries,
      system: system ?? null,
      cylinders: [...cylinders.values()],
      systems: choices.map(({ systemId, name, site, customer, refrigerant }) => ({
        systemId,
        name: `${name} · ${customer}, ${site}`,
        refrigerant,
      })),
      people: Object.fromEntries(everyone.map((p) => [p.userId, p.name])),
      shop: { timeZone: shop.timeZone, marginPct: shop.fillMarginPct, heading: shop.heading },
      today: todayIn(shop.timeZone),
      loadedAt: now().getTime(),
      mayWrite: person.role !== 'trainee',
    }
  })
}

export type JobData = Awaited<ReturnType<typeof loadJob>>
