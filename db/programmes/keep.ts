import type { JobState } from '#core/tape'
import type { ShopTx } from '../connection'
import { announce } from '../changes'

const date = (ms: number | undefined) => (ms === undefined ? null : new Date(ms).toISOString())

/** Keeps what the stations of a job are at. The caller holds the locks of all that the tape names. */
export async function keepProgrammes(tx: ShopTx, jobId: string, { programmes }: JobState): Promise<void> {
  if (programmes.length === 0) return
  // One that is known by its reports alone is not begun here: its start is on its way.
  const wanted = programmes
    .filter((each) => each.kitId !== '')
    .map(({ programmeId, kitId, deviceId, begunAt, steps, course, asks, ended }) => {
      const step = course.findLast((each) => each.doneAt === undefined)
      return {
        programme_id: programmeId,
        kit_id: kitId,
        device_id: deviceId,
        begun_at: date(begunAt),
        steps,
        step: step?.step ?? null,
        step_at: date(step?.beganAt),
        ask: asks?.ask ?? null,
        ask_id: asks?.askId ?? null,
        ask_at: date(asks?.at),
        how: ended?.how ?? null,
        why: ended?.why ?? null,
        ended_at: date(ended?.at),
      }
    })
  await tx`delete from programme where job_id = ${jobId}`
  await tx`
    insert into programme (shop_id, job_id, programme_id, kit_id, device_id, begun_at, steps, step, step_at, ask, ask_id,
      ask_at, how, why, ended_at)
    select current_shop(), ${jobId}, r.* from jsonb_to_recordset(${tx.json(wanted as never)}) as r(programme_id uuid,
      kit_id uuid, device_id uuid, begun_at timestamptz, steps jsonb, step text, step_at timestamptz, ask text, ask_id uuid,
      ask_at timestamptz, how text, why text, ended_at timestamptz)`
  // What calls for a hand calls no more once it was given, or the station has stopped.
  await announce(tx, { kind: 'alarm', id: jobId })
}
