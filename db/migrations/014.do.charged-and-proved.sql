-- A system that was changed to another gas in a job: what it was before stays known, and comes back where the entry is struck.
create table system_retrofit (
  shop_id         uuid not null,
  system_id       uuid not null,
  job_id          uuid not null,
  at              timestamptz not null,
  from_gas        text,
  to_gas          text not null,
  was_oil         text not null,
  was_plate_mg    bigint,
  was_plate_text  text not null,
  was_panel_mg    bigint,
  made_panel_mg   bigint,                       -- the total that the job wrote as its label
  primary key (shop_id, job_id),
  foreign key (shop_id, job_id) references job,
  foreign key (shop_id, system_id) references system
);
create index retrofit_of_system on system_retrofit (shop_id, system_id, at);

call guard('system_retrofit');
grant select, insert, update, delete on system_retrofit to keg_app;

-- How late the last charge of a job was closed, and by whom: the call for the next one comes earlier by that.
alter table job_summary
  add column charge_lag_s real check (charge_lag_s >= 0),
  add column charged_by   uuid;
create index job_summary_charged_by on job_summary (shop_id, charged_by, last_at) where charge_lag_s is not null;

-- Where the oil and dye of a job went: a projection of its tape, like the summary. Every millilitre is somewhere.
create table oil_move (
  shop_id   uuid not null,
  job_id    uuid not null,
  key       text not null,
  system_id uuid,
  what      text not null check (what in ('oil', 'dye')),
  oil       text,
  from_place text not null check (from_place in ('bottle', 'system', 'unnamed')),
  to_place  text not null check (to_place in ('system', 'waste', 'part')),
  bottle_id uuid,
  volume_ml real not null check (volume_ml > 0),
  at        timestamptz not null,
  primary key (shop_id, job_id, key),
  foreign key (shop_id, job_id) references job,
  foreign key (shop_id, bottle_id) references kit
);
create index oil_move_of_bottle on oil_move (shop_id, bottle_id, at) where bottle_id is not null;
create index oil_move_of_system on oil_move (shop_id, system_id, at);
create index oil_move_at on oil_move (shop_id, at);

call guard('oil_move');
grant select, insert, update, delete on oil_move to keg_app;

-- What drives a vehicle's compressor: no PAG where it is high voltage. Read in a job, it stays with the system. And the
-- vehicle by its number: the shop's own memory.
alter table system
  add column drive text check (drive in ('belt', 'high-voltage', 'stationary')),
  add column vin   text check (length(vin) = 17);
create index system_vin on system (shop_id, vin) where vin is not null;
grant update (drive, vin) on system to keg_app;
