-- Shops, people and sign-in. Every shop table: shop_id first in the key, row-level security forced.

create function current_shop() returns uuid language sql stable
  as $$ select nullif(current_setting('keg.shop_id', true), '')::uuid $$;

-- guard(table): the shop's rows only, for everyone, the owner of the table included.
-- The inner select is looked up once a query instead of once a row.
create procedure guard(t regclass) language plpgsql as $$
begin
  execute format('alter table %s enable row level security', t);
  execute format('alter table %s force row level security', t);
  execute format('create policy own_shop on %s using (shop_id = (select current_shop())) with check (shop_id = (select current_shop()))', t);
end $$;

create function refuse_change() returns trigger language plpgsql as $$
begin
  raise exception '% is append-only: % refused', tg_table_name, tg_op using errcode = 'restrict_violation';
end $$;

-- append_only(table): what is written stays.
create procedure append_only(t regclass) language plpgsql as $$
begin
  execute format('create trigger append_only before update or delete on %s for each row execute function refuse_change()', t);
  execute format('create trigger append_only_whole before truncate on %s for each statement execute function refuse_change()', t);
end $$;

create table shop (
  shop_id         uuid primary key,
  name            text not null check (length(name) between 1 and 200),
  heading         text not null default '' check (length(heading) <= 500),
  time_zone       text not null default 'UTC',
  fill_margin_pct integer not null default 0 check (fill_margin_pct between 0 and 30),
  next_job_number integer not null default 1,
  created_at      timestamptz not null
);

create table app_user (
  shop_id       uuid not null references shop,
  user_id       uuid not null,
  sign_in       text not null check (length(sign_in) between 1 and 200),
  role          text not null check (role in ('manager', 'technician', 'trainee')),
  password_hash text not null,
  disabled_at   timestamptz,
  preferences   jsonb not null default '{}',
  created_at    timestamptz not null,
  primary key (shop_id, user_id)
);

-- Personal names live here and nowhere else.
create table person (
  shop_id      uuid not null,
  user_id      uuid not null,
  display_name text not null check (length(display_name) between 1 and 200),
  primary key (shop_id, user_id),
  foreign key (shop_id, user_id) references app_user
);

-- Outside the shops: where to look at sign-in, before a shop is known. Reached through the functions below only.
create table directory (
  sign_in text primary key,
  shop_id uuid not null,
  user_id uuid not null,
  foreign key (shop_id, user_id) references app_user
);

create table session (
  token_hash bytea primary key,
  shop_id    uuid not null,
  user_id    uuid not null,
  created_at timestamptz not null default now(),
  expires_at timestamptz not null,
  foreign key (shop_id, user_id) references app_user
);
create index session_of_user on session (shop_id, user_id);

create table rate_count (
  bucket       text not null,
  window_start timestamptz not null,
  hits         integer not null,
  primary key (bucket, window_start)
);

create function directory_find(wanted text) returns table (shop_id uuid, user_id uuid)
  language sql stable security definer set search_path = public, pg_temp
  as $$ select d.shop_id, d.user_id from directory d where d.sign_in = lower(wanted) $$;

create function directory_is_empty() returns boolean
  language sql stable security definer set search_path = public, pg_temp
  as $$ select not exists (select 1 from directory) $$;

-- Adds a sign-in of the shop that is set. False when the name is taken.
create function directory_add(wanted text, for_user uuid) returns boolean
  language plpgsql security definer set search_path = public, pg_temp as $$
begin
  insert into directory (sign_in, shop_id, user_id) values (lower(wanted), current_shop(), for_user);
  return true;
exception when unique_violation then
  return false;
end $$;

create function session_open(hash bytea, for_shop uuid, for_user uuid, hours integer) returns void
  language sql security definer set search_path = public, pg_temp as $$
  delete from session where expires_at < now();
  insert into session (token_hash, shop_id, user_id, expires_at)
  values (hash, for_shop, for_user, now() + make_interval(hours => hours));
$$;

create function session_find(hash bytea) returns table (shop_id uuid, user_id uuid)
  language sql stable security definer set search_path = public, pg_temp
  as $$ select s.shop_id, s.user_id from session s where s.token_hash = hash and s.expires_at > now() $$;

create function session_close(hash bytea) returns void
  language sql security definer set search_path = public, pg_temp
  as $$ delete from session where token_hash = hash $$;

-- Ends the sessions of one user of the shop that is set, but for the one given.
create function session_close_others(for_user uuid, kept bytea) returns void
  language sql security definer set search_path = public, pg_temp
  as $$ delete from session where shop_id = current_shop() and user_id = for_user and token_hash is distinct from kept $$;

-- Counts one try. Returns the seconds to wait: 0 when allowed.
create function rate_take(wanted text, allowed integer, window_seconds integer) returns integer
  language plpgsql security definer set search_path = public, pg_temp as $$
declare
  started timestamptz := to_timestamp(floor(extract(epoch from clock_timestamp()) / window_seconds) * window_seconds);
  seen integer;
begin
  delete from rate_count where window_start < clock_timestamp() - interval '1 day';
  insert into rate_count (bucket, window_start, hits) values (wanted, started, 1)
  on conflict (bucket, window_start) do update set hits = rate_count.hits + 1
  returning hits into seen;
  if seen <= allowed then return 0; end if;
  return greatest(1, ceil(extract(epoch from started + make_interval(secs => window_seconds) - clock_timestamp())));
end $$;

call guard('shop');
call guard('app_user');
call guard('person');

revoke all on function directory_find, directory_is_empty, directory_add, session_open, session_find,
  session_close, session_close_others, rate_take from public;
grant execute on function directory_find, directory_is_empty, directory_add, session_open, session_find,
  session_close, session_close_others, rate_take to keg_app;
grant select, insert, update on shop, app_user, person to keg_app;
