-- Programmes of service stations: a projection of the tapes that tell of them, like the summary.
create table programme (
  shop_id      uuid not null,
  programme_id uuid not null,
  job_id       uuid not null,
  kit_id       uuid not null,
  device_id    uuid not null,                     -- in an archive that is brought back there is none of it
  begun_at     timestamptz not null,
  steps        jsonb not null,
  -- Which step it is at, and since when; what it asks for.
  step         text,
  step_at      timestamptz,
  ask          text,
  ask_id       uuid,
  ask_at       timestamptz,
  how          text check (how in ('finished', 'stopped', 'left-alone')),
  why          text,
  ended_at     timestamptz,
  primary key (shop_id, programme_id),
  foreign key (shop_id, job_id) references job,
  foreign key (shop_id, kit_id) references kit
);
create index programme_of_job on programme (shop_id, job_id);
create index programme_running on programme (shop_id, kit_id) where ended_at is null;

-- Programmes as the shop likes them.
create table programme_preset (
  shop_id    uuid not null references shop,
  preset_id  uuid not null,
  name       text not null check (length(name) between 1 and 60),
  steps      jsonb not null,
  made_by    uuid not null,
  changed_at timestamptz not null,
  primary key (shop_id, preset_id),
  foreign key (shop_id, made_by) references app_user
);
create unique index preset_by_name on programme_preset (shop_id, lower(name));

call guard('programme');
call guard('programme_preset');
grant select, insert, update, delete on programme, programme_preset to keg_app;

-- When leaks were last looked for in a job, and what stayed off at its close, with why.
alter table job_summary
  add column leaks_looked_at timestamptz,
  add column left_off        jsonb not null default '[]';
