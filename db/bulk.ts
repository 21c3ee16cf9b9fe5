import postgres from 'postgres'
import { FOLD_VERSION } from '#core/tape'
import type { ShopTx } from './connection'

export interface BulkSizes {
  cylinders: number
  systems: number
  jobs: number
  /** Pieces of kit: scales and machines, each used by every so-manieth job. */
  kit: number
  /** Entries on each tape, at least 8. */
  entriesPerJob: number
}

/**
 * Fills a shop by the thousand, for the benchmark: closed recoveries, each with its tape, its movements and its summary.
 * Ids are made from numbers: `idOfJob(7)` is job 7.
 */
export async function fillShop(tx: ShopTx, sizes: BulkSizes, userId: string, siteId: string): Promise<void> {
  const { cylinders, systems, jobs, kit, entriesPerJob } = sizes
  // Hundreds of thousands of rows at once take longer than anything else here may.
  await tx`set local statement_timeout = 0`
  await tx`
    insert into cylinder (shop_id, cylinder_id, label, kind, refrigerant, tare_mg, water_capacity_mg,
      service_pressure_pa, tested_on, test_years, created_at)
    select current_shop(), md5('cylinder ' || n)::uuid, 'Bulk ' || n, 'recovery',
      (array['R-410A', 'R-134a', 'R-404A', 'R-449A', 'R-32', 'R-22', 'R-407C', 'R-290'])[1 + n % 8],
      12000000, 21600000, 3400000, current_date - 400 - n % 1500, 5, now()
    from generate_series(1, ${cylinders}) n`
  await tx`
    insert into system (shop_id, system_id, site_id, name, trade, refrigerant, plate_mg, created_at)
    select current_shop(), md5('system ' || n)::uuid, ${siteId}, 'System ' || n, 'stationary', 'R-410A', 3000000, now()
    from generate_series(1, ${systems}) n`
  await tx`
    insert into kit (shop_id, kit_id, kind, label, keeps_at, facts, created_at, due_on, due_what)
    select current_shop(), md5('kit ' || n)::uuid, case n % 2 when 0 then 'scale' else 'machine' end, 'Kit ' || n,
      'Van ' || n % 50, case n % 2 when 0 then '{"divisionMg": 5000}' else '{"filterLifeMg": 100000000}' end::jsonb,
      now() - interval '500 days', case n % 2 when 0 then current_date - 20 + n % 60 end,
      case n % 2 when 0 then 'scale-check' end
    from generate_series(1, ${kit}) n`
  await tx`update shop set next_job_number = ${jobs + 1} where shop_id = current_shop()`
  await tx`
    insert into job (shop_id, job_id, number, next_seq, opened_by, opened_at)
    select current_shop(), md5('job ' || n)::uuid, n, ${entriesPerJob} + 1, ${userId}, now() - n * interval '25 minutes'
    from generate_series(1, ${jobs}) n`
  await tx`
    insert into entry (shop_id, job_id, entry_id, seq, kind, version, at, device_id, device_seq, received_at, user_id, body)
    select current_shop(), job_id, gen_random_uuid(), i, kind, 1, opened_at + i * interval '1 minute', 'bulk', i, opened_at,
      ${userId}, body
    from (select job_id, number as n, opened_at from job) j, generate_series(1, ${entriesPerJob}) i, lateral (
      select case i when 1 then 'job-described' when 2 then 'run-started' when ${entriesPerJob} - 2 then 'run-ended'
          when ${entriesPerJob} - 1 then 'recovery-ended' when ${entriesPerJob} then 'job-closed' else 'weight-noted' end as kind,
        case i
          when 1 then jsonb_build_object('title', 'Bulk job ' || n, 'refrigerant', 'R-410A',
            'systemId', md5('system ' || (1 + n % ${systems}))::uuid)
          when 2 then jsonb_build_object('runId', job_id, 'use', 'recover', 'scale', 'S1', 'mode', 'gross',
            'weightMg', 12000000, 'cylinderId', md5('cylinder ' || (1 + n % ${cylinders}))::uuid)
          when ${entriesPerJob} - 2 then jsonb_build_object('runId', job_id, 'weightMg', 12500000, 'hoseMg', 0)
          when ${entriesPerJob} - 1 then jsonb_build_object('emptied', true)
          when ${entriesPerJob} then '{}'::jsonb
          else jsonb_build_object('runId', job_id, 'weightMg', 12000000 + i * 20000) end as body) b`
  await tx`
    insert into job_summary (shop_id, job_id, fold_version, last_seq, status, stage, next, title, system_id, refrigerant,
      recovered_mg, charged_mg, opened_at, last_at, closed_at)
    select current_shop(), job_id, ${FOLD_VERSION}, ${entriesPerJob}, case when number <= 40 then 'open' else 'closed' end, 'recover',
      case when number <= 40 then 'note-weight' else 'nothing' end, 'Bulk job ' || number,
      md5('system ' || (1 + number % ${systems}))::uuid, 'R-410A', 500000, 0, opened_at,
      opened_at + interval '1 hour', case when number <= 40 then null else opened_at + interval '1 hour' end
    from job`
  await tx`
    insert into movement (shop_id, movement_id, at, booked_at, job_id, booking, from_place, from_system, to_place,
      to_system, to_cylinder, refrigerant, mass_mg, known_by, uncertainty_mg, user_id)
    select current_shop(), gen_random_uuid(), opened_at + interval '40 minutes', opened_at, job_id, 'run:' || job_id,
      case leg when 1 then 'outside' else 'system' end, case leg when 2 then system_id end,
      case leg when 1 then 'system' else 'cylinder' end, case leg when 1 then system_id end,
      case leg when 2 then md5('cylinder ' || (1 + number % ${cylinders}))::uuid end,
      'R-410A', 500000, 'weighed', 10000, ${userId}
    from (select job_id, number, opened_at, md5('system ' || (1 + number % ${systems}))::uuid as system_id from job) j,
      generate_series(1, 2) leg
    order by number, leg`
  if (kit === 0) return
  await tx`
    insert into kit_use (shop_id, job_id, kit_id, transfer_id, use, cylinder_id, refrigerant, mass_mg, at)
    select current_shop(), job_id, md5('kit ' || (1 + number % ${kit}))::uuid, job_id, 'recover',
      md5('cylinder ' || (1 + number % ${cylinders}))::uuid, 'R-410A', 500000, opened_at from job`
  await tx`
    insert into kit_act (shop_id, act_id, kit_id, what, at, booked_at, user_id, passed, body)
    select current_shop(), gen_random_uuid(), md5('kit ' || n)::uuid, 'scale-check', now() - k * interval '30 days', now(),
      ${userId}, k <> 1 or n % 10 <> 0, '{"known": 10000000, "read": 10060000}'
    from generate_series(2, ${kit}, 2) n, generate_series(1, 6) k`
}

/** Tidies up and lets the planner know what is there now, as the server does by itself a while after. Needs the owner of the tables. */
export async function analyse(): Promise<void> {
  const owner = postgres(process.env.KEG_OWNER_DATABASE_URL!, { max: 1, onnotice: () => {} })
  try {
    await owner`vacuum analyze`
  } finally {
    await owner.end()
  }
}
