-- The shop's kit: what each piece can tell, when it was proved, what it holds, and what it was used for.

create table kit (
  shop_id    uuid not null references shop,
  kit_id     uuid not null,
  kind       text not null,
  label      text not null check (length(label) between 1 and 80),
  facts      jsonb not null default '{}',         -- what computing needs of it, by kind: core/kit
  keeps_at   text not null default '' check (length(keeps_at) <= 120), -- a van, or the shop
  state      text not null default 'in-use' check (state in ('in-use', 'repair', 'retired')),
  version    integer not null default 1,
  created_at timestamptz not null,
  -- Kept by the database: what it holds, by the movements.
  balance_mg bigint not null default 0,
  -- Projections of its acts and of the jobs that used it.
  due_on     date,                                -- the earliest of what is due by the calendar; null: nothing
  due_what   text,
  last_gas   text,                                -- went through it last
  gas_at     timestamptz,
  purged_at  timestamptz,
  passed_mg  bigint not null default 0,           -- through its filter-drier since that was fitted
  failed_at  timestamptz,                         -- its last check was not passed
  filter_life_mg bigint generated always as ((facts->>'filterLifeMg')::bigint) stored,
  primary key (shop_id, kit_id)
);
create unique index kit_label on kit (shop_id, kind, lower(label)) where state <> 'retired';
create index kit_scales on kit (shop_id, (failed_at is not null), lower(label))
  where state = 'in-use' and kind in ('scale', 'station');
create index kit_list on kit (shop_id, lower(label));
create index kit_of_place on kit (shop_id, lower(keeps_at)) where state = 'in-use';
create index kit_due on kit (shop_id, due_on) where state = 'in-use' and due_on is not null;
create index kit_filter on kit (shop_id) where state = 'in-use' and filter_life_mg is not null;

-- What was done with a piece of kit: checks, service, and what was decided on a transfer that it weighed.
create table kit_act (
  shop_id   uuid not null,
  act_id    uuid not null,                        -- made in the browser: sending it twice writes one
  kit_id    uuid not null,
  what      text not null,
  at        timestamptz not null,
  booked_at timestamptz not null,
  user_id   uuid not null,
  passed    boolean,                              -- null: nothing to pass
  body      jsonb not null default '{}',
  primary key (shop_id, act_id),
  foreign key (shop_id, kit_id) references kit,
  foreign key (shop_id, user_id) references app_user
);
create index kit_act_of on kit_act (shop_id, kit_id, what, at desc);
create index kit_act_struck on kit_act (shop_id, (body->>'actId')) where what = 'struck';

-- What counts: acts that nobody has struck since. Whoever asks sees the own shop's only.
create view kit_done with (security_invoker = true) as
  select a.* from kit_act a
  where a.what <> 'struck' and not exists (
    select 1 from kit_act s where s.shop_id = a.shop_id and s.what = 'struck' and s.body->>'actId' = a.act_id::text);
grant select on kit_done to keg_app;

-- Which kit a transfer of a job was made with: a projection of the tape, like the summary.
create table kit_use (
  shop_id     uuid not null,
  job_id      uuid not null,
  kit_id      uuid not null,
  transfer_id uuid not null,
  use         text not null,
  cylinder_id uuid not null,
  refrigerant text,
  mass_mg     bigint not null,
  at          timestamptz not null,
  purged_at   timestamptz,                        -- the machine was purged in the job after its last pull
  primary key (shop_id, job_id, transfer_id, kit_id),
  foreign key (shop_id, job_id) references job,
  foreign key (shop_id, kit_id) references kit
);
create index kit_use_of on kit_use (shop_id, kit_id, at);

call append_only('kit_act');
call guard('kit');
call guard('kit_act');
call guard('kit_use');
grant select, insert on kit, kit_act to keg_app;
grant update (label, facts, keeps_at, state, due_on, due_what, last_gas, gas_at, purged_at, passed_mg, failed_at) on kit to keg_app;
grant select, insert, update, delete on kit_use to keg_app;

-- A form is out of date when a person has changed the row; what follows from acts and jobs does not count.
create trigger count_version before update on kit for each row
  when ((old.label, old.facts, old.keeps_at, old.state) is distinct from (new.label, new.facts, new.keeps_at, new.state))
  execute function count_version();

-- The rig becomes this machine and these hoses.
alter table movement add column from_kit uuid;
alter table movement add column to_kit uuid;
alter table movement add foreign key (shop_id, from_kit) references kit (shop_id, kit_id);
alter table movement add foreign key (shop_id, to_kit) references kit (shop_id, kit_id);
alter table movement add check (from_kit is null or from_place = 'rig');
alter table movement add check (to_kit is null or to_place = 'rig');
create index movement_from_kit on movement (shop_id, from_kit, at) where from_kit is not null;
create index movement_to_kit on movement (shop_id, to_kit, at) where to_kit is not null;

create or replace function carry_balance() returns trigger language plpgsql security definer set search_path = public, pg_temp as $$
begin
  update cylinder set balance_mg = balance_mg
      + case when cylinder_id = new.to_cylinder then new.mass_mg else 0 end
      - case when cylinder_id = new.from_cylinder then new.mass_mg else 0 end
    where shop_id = new.shop_id and cylinder_id in (new.from_cylinder, new.to_cylinder);
  update system set balance_mg = balance_mg
      + case when system_id = new.to_system then new.mass_mg else 0 end
      - case when system_id = new.from_system then new.mass_mg else 0 end
    where shop_id = new.shop_id and system_id in (new.from_system, new.to_system);
  if new.from_kit is not null or new.to_kit is not null then
    update kit set balance_mg = balance_mg
        + case when kit_id = new.to_kit then new.mass_mg else 0 end
        - case when kit_id = new.from_kit then new.mass_mg else 0 end
      where shop_id = new.shop_id and kit_id in (new.from_kit, new.to_kit);
  end if;
  return null;
end $$;

alter table voucher drop constraint voucher_kind_check;
alter table voucher add constraint voucher_kind_check
  check (kind in ('opening', 'purchase', 'shipment', 'reweigh', 'retire', 'recondition', 'judge', 'explain', 'purge'));
