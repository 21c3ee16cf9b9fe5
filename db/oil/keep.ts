import { type JobState, oilMoves } from '#core/tape'
import type { ShopTx } from '../connection'

/** Keeps where a job's oil went, and what drives its compressor. The caller holds the locks of all that the tape names. */
export async function keepOil(tx: ShopTx, jobId: string, state: JobState): Promise<void> {
  const wanted = oilMoves(state).map(({ key, what, oil, from, to, bottleId, volumeMl, at }) => ({
    key,
    system_id: state.systemId,
    what,
    oil,
    from_place: from,
    to_place: to,
    bottle_id: bottleId,
    volume_ml: volumeMl,
    at: new Date(at).toISOString(),
  }))
  await tx`delete from oil_move where job_id = ${jobId}`
  if (wanted.length > 0)
    await tx`
      insert into oil_move (shop_id, job_id, key, system_id, what, oil, from_place, to_place, bottle_id, volume_ml, at)
      select current_shop(), ${jobId}, r.* from jsonb_to_recordset(${tx.json(wanted as never)}) as r(key text,
        system_id uuid, what text, oil text, from_place text, to_place text, bottle_id uuid, volume_ml real,
        at timestamptz)`
  if (state.systemId && state.drive !== undefined)
    await tx`update system set drive = ${state.drive} where system_id = ${state.systemId} and drive is distinct from ${state.drive}`
}
