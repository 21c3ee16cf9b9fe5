import type { Ask, PlannedStep, ProgrammeStep } from '#core/programme'
import type { ShopTx } from '../connection'

/** A station of the shop: its device, its tank, and what it is at. */
export interface StationRow {
  kitId: string
  label: string
  keepsAt: string
  deviceId: string
  standIn: boolean
  heardAt: Date | null
  divisionMg: number | null
  accuracyMg: number | null
  tankId: string | null
  tank: string | null
  tankGas: string | null
  /** The job that it works for now; null: none. */
  busyJob: string | null
  busyNumber: number | null
}

/** Stations in use whose device is in force. */
export async function stations(tx: ShopTx): Promise<StationRow[]> {
  return tx<StationRow[]>`
    select distinct on (k.label, k.kit_id) k.kit_id, k.label, k.keeps_at, d.device_id, d.stand_in, d.heard_at,
      (k.facts->>'divisionMg')::integer as division_mg, (k.facts->>'accuracyMg')::integer as accuracy_mg,
      c.cylinder_id as tank_id, c.label as tank, c.refrigerant as tank_gas, b.job_id as busy_job, j.number as busy_number
    from kit k
      join channel_use u on u.shop_id = k.shop_id and u.kit_id = k.kit_id and u.until is null and u.channel = 'weight'
      join device d on d.shop_id = u.shop_id and d.device_id = u.device_id and d.in_force
      left join cylinder c on c.shop_id = k.shop_id and c.cylinder_id = (k.facts->>'tankId')::uuid and c.retired_at is null
      left join programme b on b.shop_id = k.shop_id and b.kit_id = k.kit_id and b.ended_at is null
      left join job j on j.shop_id = b.shop_id and j.job_id = b.job_id
    where k.kind = 'station' and k.state = 'in-use'
    order by k.label, k.kit_id limit 50`
}

export interface ProgrammeRow {
  programmeId: string
  jobId: string
  kitId: string
  deviceId: string
  endedAt: Date | null
}

export async function programmeOf(tx: ShopTx, programmeId: string): Promise<ProgrammeRow | undefined> {
  const [row] = await tx<ProgrammeRow[]>`
    select programme_id, job_id, kit_id, device_id, ended_at from programme where programme_id = ${programmeId}`
  return row
}

/** Who told a station to begin: what it says is written down in that name. */
export async function begunBy(tx: ShopTx, { jobId, programmeId }: ProgrammeRow): Promise<string | undefined> {
  const [row] = await tx<{ userId: string }[]>`
    select user_id from entry
    where job_id = ${jobId} and kind = 'programme-begun' and body->>'programmeId' = ${programmeId} limit 1`
  return row?.userId
}

/** How many programmes a station is at: after the locks of {@link append}, more than one is one too many. */
export async function programmesAt(tx: ShopTx, kitId: string): Promise<{ number: number }[]> {
  return tx`
    select j.number from programme p join job j on j.shop_id = p.shop_id and j.job_id = p.job_id
    where p.kit_id = ${kitId} and p.ended_at is null order by p.begun_at`
}

export interface RunningProgramme {
  programmeId: string
  jobId: string
  number: number
  title: string
  refrigerant: string | null
  station: string
  steps: PlannedStep[]
  step: ProgrammeStep | null
  stepAt: Date | null
  ask: Ask | null
  askAt: Date | null
  heardAt: Date | null
}

/** What the stations are at: those that wait for a hand first. */
export async function programmesRunning(tx: ShopTx): Promise<RunningProgramme[]> {
  return tx<RunningProgramme[]>`
    select p.programme_id, p.job_id, j.number, coalesce(nullif(m.title, ''), y.name, '') as title, m.refrigerant,
      k.label as station, p.steps, p.step, p.step_at, p.ask, p.ask_at, d.heard_at
    from programme p
      join job j on j.shop_id = p.shop_id and j.job_id = p.job_id
      join job_summary m on m.shop_id = p.shop_id and m.job_id = p.job_id
      join kit k on k.shop_id = p.shop_id and k.kit_id = p.kit_id
      left join device d on d.shop_id = p.shop_id and d.device_id = p.device_id
      left join system y on y.shop_id = m.shop_id and y.system_id = m.system_id
    where p.ended_at is null order by p.ask is null, p.ask_at, p.begun_at limit 50`
}

export interface Preset {
  presetId: string
  name: string
  steps: PlannedStep[]
}

export async function presets(tx: ShopTx): Promise<Preset[]> {
  return tx<
    Preset[]
  >`select preset_id, name, steps from programme_preset order by lower(name), preset_id limit 100`
}

/** Saves a programme under a name: one that has it already is changed. */
export async function savePreset(
  tx: ShopTx,
  { presetId, name, steps }: Preset,
  userId: string,
  at: Date,
): Promise<void> {
  await tx`
    insert into programme_preset (shop_id, preset_id, name, steps, made_by, changed_at)
    values (current_shop(), ${presetId}, ${name}, ${tx.json(steps as never)}, ${userId}, ${at})
    on conflict (shop_id, lower(name)) do update set name = excluded.name, steps = excluded.steps,
      made_by = excluded.made_by, changed_at = excluded.changed_at`
}

export async function dropPreset(tx: ShopTx, presetId: string): Promise<void> {
  await tx`delete from programme_preset where preset_id = ${presetId}`
}

export interface BottleRow {
  kitId: string
  label: string
  keepsAt: string
  contents: 'oil' | 'dye' | null
  oilType: string | null
}

/** Bottles of oil and dye that are in use. */
export async function bottlesInUse(tx: ShopTx): Promise<BottleRow[]> {
  return tx<BottleRow[]>`
    select kit_id, label, keeps_at, facts->>'contents' as contents, facts->>'oilType' as oil_type from kit
    where kind = 'bottle' and state = 'in-use' order by lower(label), kit_id limit 100`
}
