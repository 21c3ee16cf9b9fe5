-- Clocks of devices, checkpoints of long tapes, and what the books know of a system.

-- How far the device's clock was ahead of the server's when it sent the entry, ms; null: taken before that was asked.
alter table entry add column offset_ms bigint;
-- Its time was said by hand.
alter table entry add column backdated boolean not null default false;

-- The system was emptied in this job: from then on the books know the whole of what is in it.
alter table job_summary add column emptied boolean not null default false;
-- Cylinders with a transfer that is running.
alter table job_summary add column running_on uuid[] not null default '{}';
create index job_summary_running on job_summary using gin (running_on) where running_on <> '{}';
create index job_summary_fold on job_summary (shop_id, fold_version);

-- The state of a long tape up to an entry: what comes after it folds on from here.
create table tape_checkpoint (
  shop_id      uuid not null,
  job_id       uuid not null,
  fold_version integer not null,
  body         jsonb not null,
  primary key (shop_id, job_id),
  foreign key (shop_id, job_id) references job
);
call guard('tape_checkpoint');
grant select, insert, update, delete on tape_checkpoint to keg_app;

-- What a job made of a cylinder, and what it was before: a slip that is corrected takes its mark with it.
create table cylinder_mark (
  shop_id          uuid not null,
  job_id           uuid not null,
  cylinder_id      uuid not null,
  was_refrigerant  text,
  was_condition    text not null,
  made_refrigerant text,
  made_condition   text not null,
  primary key (shop_id, job_id, cylinder_id),
  foreign key (shop_id, job_id) references job,
  foreign key (shop_id, cylinder_id) references cylinder
);
call guard('cylinder_mark');
grant select, insert, update, delete on cylinder_mark to keg_app;

-- The gas that a filling ratio is stamped for: a ratio belongs to one gas.
alter table cylinder add column ratio_gas text;
alter table cylinder no force row level security;
update cylinder set ratio_gas = refrigerant where filling_ratio is not null;
alter table cylinder force row level security;
-- A station's tank works at 50 to 60 percent of its capacity.
alter table cylinder add column working_fill_pct smallint check (working_fill_pct between 10 and 80);
grant update (ratio_gas, working_fill_pct) on cylinder to keg_app;
