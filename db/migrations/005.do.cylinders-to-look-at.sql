-- What the Bench asks of the rack, without reading the whole of it.

-- The day on which the pressure test runs out.
alter table cylinder add column test_due date
  generated always as ((tested_on + make_interval(years => test_years))::date) stored;

create index cylinder_test_due on cylinder (shop_id, test_due nulls first)
  where retired_at is null and kind <> 'one-way';

create index cylinder_amiss on cylinder (shop_id, (condition = 'mixed') desc, balance_mg desc)
  where retired_at is null and (condition in ('doubtful', 'mixed') or balance_mg < 0);

create index cylinder_fullest on cylinder (shop_id, (balance_mg::double precision / water_capacity_mg) desc)
  where retired_at is null and kind in ('recovery', 'station') and balance_mg > 0.3 * water_capacity_mg;

create index cylinder_stock on cylinder (shop_id, refrigerant) include (balance_mg) where retired_at is null;
