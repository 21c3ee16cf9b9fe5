import { FOLD_VERSION } from '#core/tape'
import { askDirectory, inShop, type ShopTx } from '../connection'
import { lock } from '../locks'
import { settle } from './settle'
import { foldOpen, keepCheckpoint, openTape } from './tape'

const AT_ONCE = 200

/**
 * Folds the jobs of a shop again, and brings their books, reservations and cylinders to what the fold says now.
 * @param all also those that this fold has made already
 * @param tell how many are done so far
 * @returns how many
 */
export async function rebuildSummaries(
  shopId: string,
  { all = true, tell = (_jobs: number) => {} } = {},
): Promise<number> {
  let count = 0
  let after = -1
  for (;;) {
    const jobs = await inShop(
      shopId,
      (tx) => tx<{ jobId: string; number: number }[]>`
        select j.job_id, j.number from job j left join job_summary m on m.shop_id = j.shop_id and m.job_id = j.job_id
        where j.number > ${after} and (${all} or m.fold_version is distinct from ${FOLD_VERSION})
        order by j.number limit ${AT_ONCE}`,
    )
    if (jobs.length === 0) return count
    for (const { jobId, number } of jobs) {
      await inShop(shopId, (tx) => rebuild(tx, jobId))
      after = number
      tell(++count)
    }
  }
}

async function rebuild(tx: ShopTx, jobId: string) {
  await lock(tx, { jobId })
  const tape = await openTape(tx, jobId)
  const lastSeq = tape.entries.at(-1)?.seq
  if (lastSeq === undefined) return
  const state = await foldOpen(tx, jobId, tape)
  const { systems: systemIds, cylinders: cylinderIds, kit: kitIds } = state.named
  await lock(tx, { systemIds, cylinderIds, kitIds })
  const [job] = await tx<{ openedBy: string }[]>`select opened_by from job where job_id = ${jobId}`
  await settle(tx, { jobId, lastSeq, userId: job!.openedBy, now: new Date() }, state, { mark: false })
  await keepCheckpoint(tx, jobId, tape)
}

/** Every shop, for commands that run over all of them. */
export async function allShops(): Promise<string[]> {
  return (
    await askDirectory((sql) => sql<{ shopId: string }[]>`select shop_id from all_shops() as shop_id`)
  ).map((r) => r.shopId)
}

/**
 * Brings what another version of the fold has made, in all shops, to what it says now.
 * @param tell how many are done so far
 * @returns how many jobs
 */
export async function rebuildOutdated(tell: (jobs: number) => void = () => {}): Promise<number> {
  let count = 0
  for (const shopId of await allShops())
    count += await rebuildSummaries(shopId, { all: false, tell: (jobs) => tell(count + jobs) })
  return count
}
