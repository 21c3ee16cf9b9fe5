-- Live instruments: devices that post samples, what their channels belong to, and what they say.

create table device (
  shop_id    uuid not null references shop,
  device_id  uuid not null,
  name       text not null check (length(name) between 1 and 80),
  token_hash bytea not null,
  -- A simulated stand-in: it has knobs, and says how they stand.
  stand_in   boolean not null default false,
  state      jsonb,
  paired_by  uuid not null,
  paired_at  timestamptz not null,
  revoked_at timestamptz,
  heard_at   timestamptz,                         -- last batch, by the server's clock
  batches    bigint not null default 0,           -- given under the device's lock: "everything after n" is complete
  commands   integer not null default 0,
  refused    bigint not null default 0,           -- samples that were not taken, and why the last was not
  refused_why text not null default '',
  refused_at timestamptz,
  primary key (shop_id, device_id),
  foreign key (shop_id, paired_by) references app_user
);

create table device_channel (
  shop_id   uuid not null,
  device_id uuid not null,
  channel   text not null check (length(channel) between 1 and 40),
  primary key (shop_id, device_id, channel),
  foreign key (shop_id, device_id) references device
);

-- Which piece of kit a channel is, and since when: moving it to another one leaves what it said before where it was.
create table channel_use (
  shop_id   uuid not null,
  device_id uuid not null,
  channel   text not null,
  kit_id    uuid not null,
  since     timestamptz not null,
  until     timestamptz,
  primary key (shop_id, device_id, channel, since),
  foreign key (shop_id, device_id, channel) references device_channel,
  foreign key (shop_id, kit_id) references kit,
  check (until is null or until >= since)
);
create unique index channel_use_now on channel_use (shop_id, device_id, channel) where until is null;
create index channel_use_kit on channel_use (shop_id, kit_id);

create table device_command (
  shop_id   uuid not null,
  device_id uuid not null,
  nr        integer not null,
  command   jsonb not null,
  made_by   uuid not null,
  made_at   timestamptz not null,
  primary key (shop_id, device_id, nr),
  foreign key (shop_id, device_id) references device,
  foreign key (shop_id, made_by) references app_user
);

-- What a device says, as its clock has it. Key and partitions are by that time, so that a batch sent again is the same.
create table sample (
  shop_id   uuid not null,
  device_id uuid not null,
  channel   text not null,
  at        timestamptz not null,
  seq       bigint not null,
  value     double precision not null,
  primary key (shop_id, device_id, channel, at, seq)
) partition by range (at);
create table sample_other partition of sample default;

-- Where each batch lies in time: whoever heard up to one of them reads on from there.
create table sample_batch (
  shop_id    uuid not null,
  device_id  uuid not null,
  nr         bigint not null,
  from_at    timestamptz not null,
  to_at      timestamptz not null,
  arrived_at timestamptz not null,
  primary key (shop_id, device_id, nr),
  foreign key (shop_id, device_id) references device
);
create index sample_batch_old on sample_batch (arrived_at);

-- Which kit a job used, and how long: a projection of its tape. What it said then is never thinned.
create table job_kit (
  shop_id uuid not null,
  job_id  uuid not null,
  kit_id  uuid not null,
  since   timestamptz not null,
  until   timestamptz,
  primary key (shop_id, job_id, kit_id, since),
  foreign key (shop_id, job_id) references job,
  foreign key (shop_id, kit_id) references kit
);
create index job_kit_of on job_kit (shop_id, kit_id, since);

-- Days that have been thinned already.
create table sample_thinned (
  shop_id uuid not null references shop,
  day     date not null,
  primary key (shop_id, day)
);

create table pairing_code (
  shop_id    uuid not null references shop,
  code_hash  bytea not null,
  made_by    uuid not null,
  made_at    timestamptz not null,
  expires_at timestamptz not null,
  used_at    timestamptz,
  primary key (shop_id, code_hash),
  foreign key (shop_id, made_by) references app_user
);

-- Outside the shops: whose a device's token, and whose a pairing code is.
create table device_directory (
  token_hash bytea primary key,
  shop_id    uuid not null,
  device_id  uuid not null,
  foreign key (shop_id, device_id) references device
);
create table pairing_directory (
  code_hash bytea primary key,
  shop_id   uuid not null,
  foreign key (shop_id, code_hash) references pairing_code on delete cascade
);

alter table shop add column sample_days integer not null default 30 check (sample_days between 1 and 3650);
-- An entry that was read off a live instrument names the sample.
alter table entry add column sample jsonb;

call guard('device');
call guard('device_channel');
call guard('channel_use');
call guard('device_command');
call guard('sample');
call guard('sample_batch');
call guard('job_kit');
call guard('sample_thinned');
call guard('pairing_code');
grant select, insert on device, device_channel, channel_use, device_command, sample, sample_batch, pairing_code to keg_app;
grant update (name, state, revoked_at, heard_at, batches, commands, refused, refused_why, refused_at) on device to keg_app;
grant update (until) on channel_use to keg_app;
grant update (used_at) on pairing_code to keg_app;
grant select, insert, update, delete on job_kit to keg_app;
grant select on sample_thinned to keg_app;

create function device_find(hash bytea) returns table (shop_id uuid, device_id uuid)
  language sql stable security definer set search_path = public, pg_temp
  as $$ select d.shop_id, d.device_id from device_directory d where d.token_hash = hash $$;
create function device_add(hash bytea, for_device uuid) returns void
  language sql security definer set search_path = public, pg_temp
  as $$ insert into device_directory (token_hash, shop_id, device_id) values (hash, current_shop(), for_device) $$;
create function pairing_find(hash bytea) returns uuid
  language sql stable security definer set search_path = public, pg_temp
  as $$ select shop_id from pairing_directory where code_hash = hash $$;
create function pairing_add(hash bytea) returns void
  language sql security definer set search_path = public, pg_temp
  as $$ insert into pairing_directory (code_hash, shop_id) values (hash, current_shop()) $$;

-- One partition a day, made ahead. What came before its day's partition was made lies in the default one, and moves.
create function make_sample_partitions(first date, days integer) returns integer
  language plpgsql security definer set search_path = public, pg_temp as $$
declare
  day date;
  part text;
  made integer := 0;
begin
  if days not between 1 and 60 then raise exception 'ask for 1 to 60 days'; end if;
  perform pg_advisory_xact_lock(hashtext('make_sample_partitions'));
  for day in select generate_series(first, first + (days - 1), interval '1 day')::date loop
    part := 'sample_' || to_char(day, 'YYYYMMDD');
    continue when to_regclass(part) is not null;
    execute format('create table %I (like sample including defaults including constraints)', part);
    execute format('with moved as (delete from sample_other where at >= %L and at < %L returning *) insert into %I select * from moved',
      day::timestamp at time zone 'UTC', (day + 1)::timestamp at time zone 'UTC', part);
    execute format('alter table sample attach partition %I for values from (%L) to (%L)', part,
      day::timestamp at time zone 'UTC', (day + 1)::timestamp at time zone 'UTC');
    made := made + 1;
  end loop;
  return made;
end $$;

-- Keeps one sample in ten seconds of a day, for the shop that is set; what belongs to a job stays whole.
create function thin_samples(of_day date) returns bigint
  language plpgsql security definer set search_path = public, pg_temp as $$
declare
  gone bigint;
begin
  with old as (
    select device_id, channel, at, seq,
      row_number() over (partition by device_id, channel, floor(extract(epoch from at) / 10) order by at, seq) as place
    from sample
    where shop_id = current_shop() and at >= of_day::timestamp at time zone 'UTC'
      and at < (of_day + 1)::timestamp at time zone 'UTC'
  ), dropped as (
    delete from sample s using old o
    where s.shop_id = current_shop() and s.device_id = o.device_id and s.channel = o.channel and s.at = o.at
      and s.seq = o.seq and o.place > 1
      and not exists (
        select 1 from channel_use u join job_kit k on k.shop_id = u.shop_id and k.kit_id = u.kit_id
        where u.shop_id = s.shop_id and u.device_id = s.device_id and u.channel = s.channel
          and s.at >= greatest(u.since, k.since) and s.at <= least(coalesce(u.until, 'infinity'), coalesce(k.until, 'infinity')))
    returning 1
  ) select count(*) into gone from dropped;
  insert into sample_thinned (shop_id, day) values (current_shop(), of_day) on conflict do nothing;
  return gone;
end $$;

revoke all on function device_find, device_add, pairing_find, pairing_add, make_sample_partitions, thin_samples from public;
grant execute on function device_find, device_add, pairing_find, pairing_add, make_sample_partitions, thin_samples to keg_app;

-- Batches are looked back at for a day; pairing codes live minutes.
create function tidy_samples() returns bigint language plpgsql security definer set search_path = public, pg_temp as $$
declare
  shop record;
  gone bigint;
  all_gone bigint := 0;
begin
  for shop in select shop_id from device_directory group by shop_id loop
    perform set_config('keg.shop_id', shop.shop_id::text, true);
    delete from sample_batch where arrived_at < now() - interval '1 day';
    get diagnostics gone = row_count;
    all_gone := all_gone + gone;
  end loop;
  perform set_config('keg.shop_id', '', true);
  return all_gone;
end $$;
revoke all on function tidy_samples from public;
grant execute on function tidy_samples to keg_app;
