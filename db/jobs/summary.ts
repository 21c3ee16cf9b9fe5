import { type Entry, FOLD_VERSION, foldTape, type JobState, nextStep } from '#core/tape'
import { database, inShop, type ShopTx } from '../connection'
import { lock } from '../locks'
import { tapeOf } from './tape'

/** Keeps the projection of a tape that lists read. */
export async function summarise(tx: ShopTx, jobId: string, state: JobState, tape: Entry[]): Promise<void> {
  const row = {
    foldVersion: FOLD_VERSION,
    lastSeq: Math.max(0, ...tape.map((entry) => entry.seq ?? 0)),
    status: state.status,
    stage: state.stage,
    next: nextStep(state),
    title: state.title,
    systemId: state.systemId,
    refrigerant: state.refrigerant,
    recoveredMg: state.recoveredMg,
    chargedMg: state.chargedMg,
    targetMg: state.target?.massMg ?? null,
    waitingFor: state.waitingFor,
    flags: state.flags,
    openedAt: new Date(state.openedAt),
    lastAt: new Date(state.lastAt),
    closedAt: state.closedAt === undefined ? null : new Date(state.closedAt),
  }
  await tx`
    insert into job_summary (shop_id, job_id, fold_version, last_seq, status, stage, next, title, system_id, refrigerant,
      recovered_mg, charged_mg, target_mg, waiting_for, flags, opened_at, last_at, closed_at)
    values (current_shop(), ${jobId}, ${row.foldVersion}, ${row.lastSeq}, ${row.status}, ${row.stage}, ${row.next},
      ${row.title}, ${row.systemId}, ${row.refrigerant}, ${row.recoveredMg}, ${row.chargedMg}, ${row.targetMg},
      ${row.waitingFor}, ${row.flags}, ${row.openedAt}, ${row.lastAt}, ${row.closedAt})
    on conflict (shop_id, job_id) do update set ${tx(row)}`
}

/** Folds every job of a shop again into the job list. @returns how many */
export async function rebuildSummaries(shopId: string): Promise<number> {
  const jobs = await inShop(shopId, (tx) => tx<{ jobId: string }[]>`select job_id from job order by number`)
  for (const { jobId } of jobs)
    await inShop(shopId, async (tx) => {
      await lock(tx, { jobId })
      const tape = await tapeOf(tx, jobId)
      if (tape.length > 0) await summarise(tx, jobId, foldTape(tape), tape)
    })
  return jobs.length
}

/** Every shop, for commands that run over all of them. */
export async function allShops(): Promise<string[]> {
  return (await database()<{ shopId: string }[]>`select shop_id from all_shops() as shop_id`).map(
    (r) => r.shopId,
  )
}
