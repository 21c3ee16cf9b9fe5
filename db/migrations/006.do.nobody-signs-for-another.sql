-- What two people do at once, what strangers try, and what outlives whom.

-- Which state of a row a form was opened with: it rises with every change but those that the row itself counts.
create function count_version() returns trigger language plpgsql as $$
begin
  -- What is generated is not there yet before the change.
  if to_jsonb(new) - array['version', 'test_due'] is distinct from to_jsonb(old) - array['version', 'test_due'] then
    new.version := old.version + 1;
  end if;
  return new;
end $$;

alter table cylinder add column version integer not null default 1;
alter table system add column version integer not null default 1;
alter table shop add column version integer not null default 1;
alter table app_user add column version integer not null default 1;

-- What somebody saw while they might still write is taken from their device later, too.
alter table app_user add column wrote_until timestamptz;

create trigger count_version before update on cylinder for each row
  when (old.balance_mg = new.balance_mg) execute function count_version();
create trigger count_version before update on system for each row
  when (old.balance_mg = new.balance_mg) execute function count_version();
create trigger count_version before update on shop for each row
  when (old.next_job_number = new.next_job_number) execute function count_version();
create trigger count_version before update on app_user for each row
  when ((old.role, old.disabled_at, old.preferences) is distinct from (new.role, new.disabled_at, new.preferences))
  execute function count_version();

-- A customer's name is unique in its shop, a site's in its customer: those that were made twice become one.
alter table customer no force row level security;
alter table site no force row level security;
alter table cylinder no force row level security;
alter table system no force row level security;

create temporary table same_customer on commit drop as
  select * from (
    select shop_id, customer_id,
      first_value(customer_id) over (partition by shop_id, lower(name) order by created_at, customer_id) as kept
    from customer) c
  where customer_id <> kept;
update site s set customer_id = c.kept from same_customer c
  where s.shop_id = c.shop_id and s.customer_id = c.customer_id;
update cylinder y set owner_customer_id = c.kept from same_customer c
  where y.shop_id = c.shop_id and y.owner_customer_id = c.customer_id;
delete from customer x using same_customer c where x.shop_id = c.shop_id and x.customer_id = c.customer_id;

create temporary table same_site on commit drop as
  select * from (
    select shop_id, site_id, address, altitude_m,
      first_value(site_id) over (partition by shop_id, customer_id, lower(name) order by created_at, site_id) as kept
    from site) s
  where site_id <> kept;
-- What only the later one knew is not forgotten.
update site s set
    address = coalesce(nullif(s.address, ''), (select max(d.address) from same_site d where d.shop_id = s.shop_id and d.kept = s.site_id)),
    altitude_m = coalesce(nullif(s.altitude_m, 0), (select max(d.altitude_m) from same_site d where d.shop_id = s.shop_id and d.kept = s.site_id))
  where exists (select 1 from same_site d where d.shop_id = s.shop_id and d.kept = s.site_id);
update system y set site_id = s.kept from same_site s where y.shop_id = s.shop_id and y.site_id = s.site_id;
delete from site x using same_site s where x.shop_id = s.shop_id and x.site_id = s.site_id;

alter table customer force row level security;
alter table site force row level security;
alter table cylinder force row level security;
alter table system force row level security;

create unique index customer_name on customer (shop_id, lower(name));
create unique index site_name on site (shop_id, customer_id, lower(name));

-- What a cylinder holds is judged better by an act of its own, with its reason.
alter table voucher drop constraint voucher_kind_check;
alter table voucher add constraint voucher_kind_check
  check (kind in ('opening', 'purchase', 'shipment', 'reweigh', 'retire', 'recondition', 'judge'));
create index voucher_judgement on voucher (shop_id, (body->>'cylinderId'), at desc) where kind = 'judge';

-- A token ends with whoever holds it, or is passed to another manager.
alter table api_token add column held_by uuid;
alter table api_token no force row level security;
update api_token set held_by = made_by;
alter table api_token force row level security;
alter table api_token alter column held_by set not null;
alter table api_token add foreign key (shop_id, held_by) references app_user;
create index api_token_held_by on api_token (shop_id, held_by) where revoked_at is null;

-- The first run: one code for the database, whichever process asks for it, taken once.
create table first_run (
  only_one boolean primary key default true check (only_one),
  code     text not null
);

-- Null when somebody has signed up already.
create function first_run_code() returns text
  language plpgsql security definer set search_path = public, pg_temp as $$
begin
  if exists (select 1 from directory) then return null; end if;
  insert into first_run (code)
    values (lpad((('x' || substr(md5(gen_random_uuid()::text), 1, 12))::bit(48)::bigint % 100000000)::text, 8, '0'))
    on conflict do nothing;
  return (select r.code from first_run r);
end $$;

-- True for the first who comes with the code, until its transaction ends for nobody else.
create function first_run_take(wanted text) returns boolean
  language plpgsql security definer set search_path = public, pg_temp as $$
declare
  right_code text;
begin
  select r.code into right_code from first_run r for update;
  if right_code is distinct from wanted or exists (select 1 from directory) then return false; end if;
  delete from first_run;
  return true;
end $$;

-- Tries are counted without tidying up at each of them: that is done by time.
create index rate_count_window on rate_count (window_start);
create index session_expires on session (expires_at);

create or replace function rate_take(wanted text, allowed integer, window_seconds integer) returns integer
  language plpgsql security definer set search_path = public, pg_temp as $$
declare
  started timestamptz := to_timestamp(floor(extract(epoch from clock_timestamp()) / window_seconds) * window_seconds);
  seen integer;
begin
  insert into rate_count (bucket, window_start, hits) values (wanted, started, 1)
  on conflict (bucket, window_start) do update set hits = rate_count.hits + 1
  returning hits into seen;
  if seen <= allowed then return 0; end if;
  return greatest(1, ceil(extract(epoch from started + make_interval(secs => window_seconds) - clock_timestamp())));
end $$;

create or replace function session_open(hash bytea, for_shop uuid, for_user uuid, hours integer) returns void
  language sql security definer set search_path = public, pg_temp as $$
  insert into session (token_hash, shop_id, user_id, expires_at)
  values (hash, for_shop, for_user, now() + make_interval(hours => hours));
$$;

-- Takes away what has run out. One at a time: whoever comes second has nothing to do. Returns how many rows went.
create function tidy_up() returns bigint
  language plpgsql security definer set search_path = public, pg_temp as $$
declare
  tries bigint;
  sessions bigint;
begin
  if not pg_try_advisory_xact_lock(4600002) then return 0; end if;
  -- now(): a clock that changes within the query could not be looked up in the index.
  delete from rate_count where window_start < now() - interval '1 day';
  get diagnostics tries = row_count;
  delete from session where expires_at < now();
  get diagnostics sessions = row_count;
  return tries + sessions;
end $$;

-- Ends every session of everybody: a restored database lets nobody in who has not signed in to it.
create function session_close_all() returns bigint
  language plpgsql security definer set search_path = public, pg_temp as $$
declare
  ended bigint;
begin
  delete from session;
  get diagnostics ended = row_count;
  return ended;
end $$;

revoke all on function first_run_code, first_run_take, tidy_up, session_close_all from public;
grant execute on function first_run_code, first_run_take, tidy_up to keg_app;
