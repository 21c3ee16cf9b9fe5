import { type JobState, weighedSinceEmpty } from '#core/tape'
import type { ShopTx } from '../connection'

export interface Retrofit {
  jobId: string
  number: number
  at: Date
  fromGas: string | null
  toGas: string
}

/** What a system's plate said before a job changed its gas. */
export interface BeforeRetrofit {
  fromGas: string | null
  wasOil: string
  wasPlateMg: number | null
  wasPlateText: string
  wasPanelMg: number | null
}

/**
 * A system that a job changed to another gas holds that one from then on, with the total that was charged as its label;
 * what it was is kept, and comes back where the change is struck. The plate speaks of the gas before: it no longer counts.
 * What somebody has entered since stands.
 */
export async function keepRetrofit(tx: ShopTx, jobId: string, state: JobState): Promise<void> {
  const [kept] = await tx<(BeforeRetrofit & { systemId: string; toGas: string })[]>`
    select system_id, to_gas, from_gas, was_oil, was_plate_mg, was_plate_text, was_panel_mg
    from system_retrofit where job_id = ${jobId}`
  const change = state.gasChanges.at(-1)
  const same = kept !== undefined && change !== undefined && kept.systemId === state.systemId
  if (kept && !same) {
    await tx`
      update system set refrigerant = ${kept.fromGas}, oil_type = ${kept.wasOil}, plate_mg = ${kept.wasPlateMg},
        plate_text = ${kept.wasPlateText}, panel_total_mg = ${kept.wasPanelMg}
      where system_id = ${kept.systemId} and refrigerant = ${kept.toGas}`
    await tx`delete from system_retrofit where job_id = ${jobId}`
  }
  if (!change || !state.systemId) return
  const totalMg = weighedSinceEmpty(state)
  // What it was before the first of them; where the job does not say, what the system said.
  const { from } = state.gasChanges[0]!
  if (!same) {
    await tx`
      insert into system_retrofit (shop_id, system_id, job_id, at, from_gas, to_gas, was_oil, was_plate_mg, was_plate_text,
        was_panel_mg, made_panel_mg)
      select shop_id, system_id, ${jobId}, ${new Date(change.at)}, coalesce(${from}, refrigerant), ${change.to}, oil_type, plate_mg,
        plate_text, panel_total_mg, ${totalMg}
      from system where system_id = ${state.systemId}`
    await tx`
      update system set refrigerant = ${change.to}, panel_total_mg = ${totalMg}, plate_mg = null,
        plate_text = left('Before the change of gas: ' || plate_text, 200),
        oil_type = case when ${change.oilType} = '' then oil_type else ${change.oilType} end
      where system_id = ${state.systemId}`
    return
  }
  await tx`
    update system y set refrigerant = ${change.to}, panel_total_mg = ${totalMg}
    from system_retrofit r
    where r.shop_id = y.shop_id and r.job_id = ${jobId} and y.system_id = ${state.systemId} and y.refrigerant = r.to_gas
      and y.panel_total_mg is not distinct from r.made_panel_mg
      and (y.refrigerant, y.panel_total_mg) is distinct from (${change.to}::text, ${totalMg}::bigint)`
  await tx`
    update system_retrofit set to_gas = ${change.to}, from_gas = coalesce(${from}, from_gas), at = ${new Date(change.at)},
      made_panel_mg = ${totalMg}
    where job_id = ${jobId}`
}

/** The system's plate as it was when a job that changed its gas began; undefined: the job changed none. */
export async function beforeRetrofit(tx: ShopTx, jobId: string): Promise<BeforeRetrofit | undefined> {
  const [row] = await tx<BeforeRetrofit[]>`
    select from_gas, was_oil, was_plate_mg, was_plate_text, was_panel_mg from system_retrofit where job_id = ${jobId}`
  return row
}

/** The gases that a system held before, the newest change first. */
export async function retrofitsOf(tx: ShopTx, systemId: string): Promise<Retrofit[]> {
  return tx<Retrofit[]>`
    select r.job_id, j.number, r.at, r.from_gas, r.to_gas
    from system_retrofit r join job j using (shop_id, job_id)
    where r.system_id = ${systemId} order by r.at desc`
}
