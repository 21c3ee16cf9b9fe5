-- What a scale saw in a cylinder beside the books, clocks that run, and what a vehicle has instead of line sets.

-- Gross weight at the last start that did not agree with tare and books, until somebody weighs it again or says why.
-- What it is off by follows from the books as they are now: a correction of an earlier job may explain it.
alter table cylinder add column weighed_gross_mg bigint;
-- When scale and books were compared last, and by which job.
alter table cylinder add column weighed_at timestamptz;
alter table cylinder add column weighed_job uuid;
alter table cylinder add foreign key (shop_id, weighed_job) references job (shop_id, job_id);
create index cylinder_weighed_off on cylinder (shop_id) where weighed_gross_mg is not null;
grant update (weighed_gross_mg, weighed_at, weighed_job) on cylinder to keg_app;

alter table voucher drop constraint voucher_kind_check;
alter table voucher add constraint voucher_kind_check
  check (kind in ('opening', 'purchase', 'shipment', 'reweigh', 'retire', 'recondition', 'judge', 'explain'));

-- What runs in a job against the clock: a projection, like the rest of it.
alter table job_summary add column clocks jsonb not null default '[]';
create index job_summary_clocks on job_summary (shop_id) where clocks <> '[]';

alter table system add column registration text not null default '';
alter table system add column compressor text not null default '';
-- The job in which the plate was read; null: a person has entered it. What that job corrects follows.
alter table system add column plate_job uuid;
alter table system add foreign key (shop_id, plate_job) references job (shop_id, job_id);
grant update (registration, compressor, plate_job) on system to keg_app;


-- What a scale saw more (or less) in a cylinder than the books, as they are now, had in it at that time; 0 within what a
-- scale can tell: up to 100 g, of a small cylinder less. Runs as whoever asks: row-level security holds.
create function weighed_off(c cylinder) returns bigint language sql stable set search_path = public, pg_temp as $$
  select case
    when abs(c.weighed_gross_mg - b.gross_mg) <= greatest(20000, least(100000, b.gross_mg / 100)) then 0
    else c.weighed_gross_mg - b.gross_mg end
  from (
    select c.tare_mg
      + (select coalesce(sum(m.mass_mg), 0)::bigint from movement m
        where m.shop_id = c.shop_id and m.to_cylinder = c.cylinder_id and m.at < c.weighed_at)
      - (select coalesce(sum(m.mass_mg), 0)::bigint from movement m
        where m.shop_id = c.shop_id and m.from_cylinder = c.cylinder_id and m.at < c.weighed_at) as gross_mg
  ) b
$$;
