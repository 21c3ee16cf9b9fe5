// What a test starts from, put there without a page.
import { randomUUID } from 'node:crypto'
import { inShop, tapeOf } from '#db'
import { aCylinder, aJob, anEntry, type AShop, note } from '../testing/a-shop'

/** A job from the roof with a recovery of R-410A running, begun at 12 kg gross. */
export async function aRunningJob(shop: AShop, over: Parameters<typeof aCylinder>[1] = {}) {
  const label = over.label ?? `Quick ${randomUUID().slice(0, 8)}`
  const [jobId, cylinderId] = await Promise.all([aJob(shop), aCylinder(shop, { ...over, label })])
  await note(
    shop,
    jobId,
    anEntry('job-described', { refrigerant: 'R-410A' }),
    anEntry('run-started', {
      runId: randomUUID(),
      use: 'recover',
      cylinderId,
      scale: '',
      mode: 'gross',
      weightMg: over.tareMg ?? 12e6,
    }),
  )
  const tape = () => inShop(shop.shopId, (tx) => tapeOf(tx, jobId))
  return { jobId, cylinderId, label, tape, path: `/jobs/${jobId}` }
}
