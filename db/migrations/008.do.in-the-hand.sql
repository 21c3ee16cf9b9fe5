-- What a scale saw in a cylinder beside the books, clocks that run, and what a vehicle has instead of line sets.

-- At the last gross start: scale less books, until somebody weighs it again or says why. 0: they agree.
alter table cylinder add column off_mg bigint not null default 0;
alter table cylinder add column off_at timestamptz;
-- The job that weighed it.
alter table cylinder add column off_job uuid;
alter table cylinder add foreign key (shop_id, off_job) references job (shop_id, job_id);
grant update (off_mg, off_at, off_job) on cylinder to keg_app;

alter table voucher drop constraint voucher_kind_check;
alter table voucher add constraint voucher_kind_check
  check (kind in ('opening', 'purchase', 'shipment', 'reweigh', 'retire', 'recondition', 'judge', 'explain'));

-- What runs in a job against the clock: a projection, like the rest of it.
alter table job_summary add column clocks jsonb not null default '[]';
create index job_summary_clocks on job_summary (shop_id) where clocks <> '[]';

alter table system add column registration text not null default '';
alter table system add column compressor text not null default '';
grant update (registration, compressor) on system to keg_app;

