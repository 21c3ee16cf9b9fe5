-- Jobs and their tapes, movements and the vouchers behind those that no job made.

create table job (
  shop_id   uuid not null references shop,
  job_id    uuid not null,
  number    integer not null,
  next_seq  integer not null default 1,
  opened_by uuid not null,
  opened_at timestamptz not null,
  primary key (shop_id, job_id),
  unique (shop_id, number),
  foreign key (shop_id, opened_by) references app_user (shop_id, user_id)
);

create table entry (
  shop_id     uuid not null,
  job_id      uuid not null,
  entry_id    uuid not null,
  seq         integer not null,          -- given under the job's lock: "everything after n" is complete
  kind        text not null,
  version     integer not null,
  at          timestamptz not null,      -- when it was so, by the device that wrote it
  device_id   text not null,
  device_seq  integer not null,
  received_at timestamptz not null,
  user_id     uuid not null,
  body        jsonb not null,
  primary key (shop_id, job_id, entry_id),
  unique (shop_id, job_id, seq),
  foreign key (shop_id, job_id) references job,
  foreign key (shop_id, user_id) references app_user
);

-- A projection of the tape, rebuilt by ./keg rebuild-summaries: lists never fold every job.
create table job_summary (
  shop_id       uuid not null,
  job_id        uuid not null,
  fold_version  integer not null,
  last_seq      integer not null,
  status        text not null check (status in ('open', 'waiting', 'closed', 'cancelled')),
  stage         text not null,
  next          text not null,
  title         text not null,
  system_id     uuid,
  refrigerant   text,
  recovered_mg  bigint not null,
  charged_mg    bigint not null,
  target_mg     bigint,
  waiting_for   text not null default '',
  flags         text[] not null default '{}',
  opened_at     timestamptz not null,
  last_at       timestamptz not null,
  closed_at     timestamptz,
  primary key (shop_id, job_id),
  foreign key (shop_id, job_id) references job,
  foreign key (shop_id, system_id) references system
);
create index job_summary_in_hand on job_summary (shop_id, last_at desc) where status in ('open', 'waiting');
create index job_summary_finished on job_summary (shop_id, last_at desc) where status = 'closed';
create index job_summary_latest on job_summary (shop_id, last_at desc);
create index job_summary_system on job_summary (shop_id, system_id, last_at desc);

-- Room in a cylinder, or gas from it, that a job in hand counts on. Kept from the fold, like the summary.
create table reservation (
  shop_id     uuid not null,
  job_id      uuid not null,
  cylinder_id uuid not null,
  room_mg     bigint not null check (room_mg >= 0),
  primary key (shop_id, job_id, cylinder_id),
  foreign key (shop_id, job_id) references job,
  foreign key (shop_id, cylinder_id) references cylinder
);
create index reservation_of_cylinder on reservation (shop_id, cylinder_id);

create table voucher (
  shop_id    uuid not null references shop,
  voucher_id uuid not null,              -- made in the browser: sending it twice books once
  kind       text not null check (kind in ('opening', 'purchase', 'shipment', 'reweigh', 'retire', 'recondition')),
  at         timestamptz not null,
  booked_at  timestamptz not null,
  user_id    uuid not null,
  body       jsonb not null,
  primary key (shop_id, voucher_id),
  foreign key (shop_id, user_id) references app_user
);

create table movement (
  shop_id        uuid not null references shop,
  movement_id    uuid not null,
  nr             bigint generated always as identity, -- the order in which they were booked
  at             timestamptz not null,
  booked_at      timestamptz not null,
  job_id         uuid,
  voucher_id     uuid,
  booking        text not null,          -- which booking of its job or voucher: differences are found by it
  from_place     text not null check (from_place in ('supplier','cylinder','system','rig','reclaimer','lost','outside','unexplained')),
  from_cylinder  uuid,
  from_system    uuid,
  to_place       text not null check (to_place in ('supplier','cylinder','system','rig','reclaimer','lost','outside','unexplained')),
  to_cylinder    uuid,
  to_system      uuid,
  refrigerant    text,
  mass_mg        bigint not null check (mass_mg > 0),
  known_by       text not null check (known_by in ('weighed', 'computed', 'declared')),
  uncertainty_mg bigint not null check (uncertainty_mg >= 0),
  user_id        uuid not null,
  primary key (shop_id, movement_id),
  foreign key (shop_id, job_id) references job,
  foreign key (shop_id, voucher_id) references voucher,
  foreign key (shop_id, user_id) references app_user,
  foreign key (shop_id, from_cylinder) references cylinder (shop_id, cylinder_id),
  foreign key (shop_id, to_cylinder) references cylinder (shop_id, cylinder_id),
  foreign key (shop_id, from_system) references system (shop_id, system_id),
  foreign key (shop_id, to_system) references system (shop_id, system_id),
  check ((job_id is null) <> (voucher_id is null)),
  check ((from_place = 'cylinder') = (from_cylinder is not null)),
  check ((to_place = 'cylinder') = (to_cylinder is not null)),
  check ((from_place = 'system') = (from_system is not null)),
  check ((to_place = 'system') = (to_system is not null)),
  check ((from_place, from_cylinder, from_system) is distinct from (to_place, to_cylinder, to_system))
);
create index movement_recent on movement (shop_id, at desc, nr desc);
create index movement_of_job on movement (shop_id, job_id) where job_id is not null;
create index movement_from_cylinder on movement (shop_id, from_cylinder, at) where from_cylinder is not null;
create index movement_to_cylinder on movement (shop_id, to_cylinder, at) where to_cylinder is not null;
create index movement_from_system on movement (shop_id, from_system, at) where from_system is not null;
create index movement_to_system on movement (shop_id, to_system, at) where to_system is not null;

-- Balances: the one writer of balance_mg. Runs as the owner; row-level security still holds.
create function carry_balance() returns trigger language plpgsql security definer set search_path = public, pg_temp as $$
begin
  update cylinder set balance_mg = balance_mg
      + case when cylinder_id = new.to_cylinder then new.mass_mg else 0 end
      - case when cylinder_id = new.from_cylinder then new.mass_mg else 0 end
    where shop_id = new.shop_id and cylinder_id in (new.from_cylinder, new.to_cylinder);
  update system set balance_mg = balance_mg
      + case when system_id = new.to_system then new.mass_mg else 0 end
      - case when system_id = new.from_system then new.mass_mg else 0 end
    where shop_id = new.shop_id and system_id in (new.from_system, new.to_system);
  return null;
end $$;
create trigger carry_balance after insert on movement for each row execute function carry_balance();

call append_only('entry');
call append_only('voucher');
call append_only('movement');

call guard('job');
call guard('entry');
call guard('job_summary');
call guard('reservation');
call guard('voucher');
call guard('movement');

grant select, insert on job, entry, voucher, movement to keg_app;
grant update (next_seq) on job to keg_app;
grant select, insert, update, delete on job_summary, reservation to keg_app;

-- For commands that run over all shops.
create function all_shops() returns setof uuid
  language sql stable security definer set search_path = public, pg_temp
  as $$ select distinct d.shop_id from directory d order by 1 $$;
revoke all on function all_shops from public;
grant execute on function all_shops to keg_app;
