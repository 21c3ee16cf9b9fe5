/** One part of a shop's archive: a table, its columns by the names they have there, and the order in which they are. */
export interface ArchivePart {
  name: string
  table: string
  columns: readonly string[]
  order: string
}

const part = (name: string, table: string, order: string, columns: string): ArchivePart => ({
  name,
  table,
  order,
  columns: columns.split(' '),
})

/**
 * Everything of a shop that is not worked out from something else, in the order in which it can be brought back. Balances,
 * summaries and due dates follow.
 */
export const ARCHIVE_PARTS: readonly ArchivePart[] = [
  part('customers', 'customer', 'created_at, customer_id', 'customer_id name created_at'),
  part('sites', 'site', 'created_at, site_id', 'site_id customer_id name address altitude_m created_at'),
  part('jobs', 'job', 'number', 'job_id number next_seq opened_by opened_at'),
  part(
    'cylinders',
    'cylinder',
    'created_at, cylinder_id',
    'cylinder_id label kind refrigerant tare_mg water_capacity_mg filling_ratio ratio_gas working_fill_pct service_pressure_pa tested_on test_years flammable_ok condition owner_customer_id keeps_at weighed_gross_mg weighed_at weighed_job retired_at created_at',
  ),
  part(
    'systems',
    'system',
    'created_at, system_id',
    'system_id site_id name trade refrigerant plate_mg plate_text plate_job panel_total_mg lines accessories oil_type metering subcooling_target_k max_test_pressure_pa registration vin compressor drive retired_at created_at',
  ),
  part('kit', 'kit', 'created_at, kit_id', 'kit_id kind label facts keeps_at state purged_at created_at'),
  part('acts', 'kit_act', 'booked_at, act_id', 'act_id kit_id what at booked_at user_id passed body'),
  part(
    'entries',
    'entry',
    'job_id, seq',
    'job_id entry_id seq kind version at device_id device_seq received_at user_id body offset_ms backdated sample',
  ),
  part('vouchers', 'voucher', 'booked_at, voucher_id', 'voucher_id kind at booked_at user_id body'),
  part(
    'movements',
    'movement',
    'nr',
    'movement_id at booked_at job_id voucher_id booking from_place from_cylinder from_system from_kit to_place to_cylinder to_system to_kit refrigerant mass_mg known_by uncertainty_mg user_id',
  ),
  part(
    'marks',
    'cylinder_mark',
    'job_id, cylinder_id',
    'job_id cylinder_id was_refrigerant was_condition made_refrigerant made_condition',
  ),
  part(
    'retrofits',
    'system_retrofit',
    'job_id',
    'system_id job_id at from_gas to_gas was_oil was_plate_mg was_plate_text was_panel_mg made_panel_mg',
  ),
  part('presets', 'programme_preset', 'name, preset_id', 'preset_id name steps made_by changed_at'),
]
