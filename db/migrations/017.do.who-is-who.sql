-- A device is let in while nobody has revoked it, and nobody has to look at it first (as after a restore: what was revoked
-- since the backup is not known in it).
alter table device add column held_at timestamptz;
alter table device add column in_force boolean not null
  generated always as (revoked_at is null and held_at is null) stored;
grant update (held_at) on device to keg_app;

-- Looks whether a limit is reached, and counts nothing: where only what fails is counted, that is done afterwards.
create function rate_look(wanted text, allowed integer, window_seconds integer) returns integer
  language plpgsql security definer set search_path = public, pg_temp as $$
declare
  started timestamptz := to_timestamp(floor(extract(epoch from clock_timestamp()) / window_seconds) * window_seconds);
  seen integer;
begin
  select hits into seen from rate_count where bucket = wanted and window_start = started;
  if coalesce(seen, 0) < allowed then return 0; end if;
  return greatest(1, ceil(extract(epoch from started + make_interval(secs => window_seconds) - clock_timestamp())));
end $$;

-- Browsers in which somebody has signed in before: their tries are not counted with those of strangers. They open nothing.
create table known_browser (
  token_hash bytea primary key,
  shop_id uuid not null,
  user_id uuid not null,
  seen_at timestamptz not null default now(),
  foreign key (shop_id, user_id) references app_user (shop_id, user_id)
);
create index known_browser_seen on known_browser (seen_at);

create function browser_keep(hash bytea, for_shop uuid, for_user uuid) returns void
  language sql security definer set search_path = public, pg_temp as $$
  insert into known_browser (token_hash, shop_id, user_id) values (hash, for_shop, for_user)
  on conflict (token_hash) do update set seen_at = now() where known_browser.user_id = excluded.user_id;
$$;
create function browser_known(hash bytea, for_user uuid) returns boolean
  language sql stable security definer set search_path = public, pg_temp
  as $$ select exists (select 1 from known_browser where token_hash = hash and user_id = for_user) $$;

-- As before, and browsers that nobody has used for half a year.
create or replace function tidy_up() returns bigint
  language plpgsql security definer set search_path = public, pg_temp as $$
declare
  tries bigint;
  sessions bigint;
  browsers bigint;
begin
  if not pg_try_advisory_xact_lock(4600002) then return 0; end if;
  -- now(): a clock that changes within the query could not be looked up in the index.
  delete from rate_count where window_start < now() - interval '1 day';
  get diagnostics tries = row_count;
  delete from session where expires_at < now();
  get diagnostics sessions = row_count;
  delete from known_browser where seen_at < now() - interval '180 days';
  get diagnostics browsers = row_count;
  return tries + sessions + browsers;
end $$;

-- Whoever listens with a session hears at once that it has ended.
create or replace function session_close(hash bytea) returns void
  language sql security definer set search_path = public, pg_temp as $$
  with gone as (delete from session where token_hash = hash returning shop_id, user_id)
  select pg_notify('keg_changes', shop_id || ' session ' || user_id) from gone;
$$;

create or replace function session_close_others(for_user uuid, kept bytea) returns void
  language sql security definer set search_path = public, pg_temp as $$
  with gone as (
    delete from session where shop_id = current_shop() and user_id = for_user and token_hash is distinct from kept
    returning shop_id, user_id)
  select pg_notify('keg_changes', shop_id || ' session ' || user_id) from (select distinct * from gone) each;
$$;

revoke all on function rate_look, browser_keep, browser_known from public;
grant execute on function rate_look, browser_keep, browser_known to keg_app;
