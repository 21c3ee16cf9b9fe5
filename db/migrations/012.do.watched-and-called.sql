-- What calls: raised once for each cause, by whichever process leads; it stays until somebody has seen it.

create table alarm (
  shop_id   uuid not null,
  job_id    uuid not null,
  -- Names it for good: the code, what it is about, and where it stood.
  cause     text not null check (length(cause) between 1 and 200),
  code      text not null check (length(code) between 1 and 40),
  urgent    boolean not null,
  raised_at timestamptz not null,
  -- By the tape, where somebody says so.
  seen_at   timestamptz,
  primary key (shop_id, job_id, cause),
  foreign key (shop_id, job_id) references job
);
create index alarm_unseen on alarm (shop_id, raised_at) where seen_at is null;

-- What goes on in a job that runs, as it was judged last: a projection, made anew by whoever leads.
create table job_running (
  shop_id     uuid not null,
  job_id      uuid not null,
  transfer_id uuid not null,
  judged_at   timestamptz not null,
  running     jsonb not null,
  primary key (shop_id, job_id),
  foreign key (shop_id, job_id) references job
);

call guard('alarm');
call guard('job_running');
grant select, insert on alarm to keg_app;
grant update (seen_at) on alarm to keg_app;
grant select, insert, update, delete on job_running to keg_app;

-- For whoever leads: the jobs of all shops in which something runs against the clock.
create function jobs_with_clocks() returns table (shop_id uuid, job_id uuid, last_seq integer)
  language plpgsql security definer set search_path = public, pg_temp as $$
declare
  shop record;
begin
  for shop in select distinct d.shop_id from directory d order by 1 loop
    perform set_config('keg.shop_id', shop.shop_id::text, true);
    return query select m.shop_id, m.job_id, m.last_seq::integer from job_summary m where m.clocks <> '[]';
  end loop;
  perform set_config('keg.shop_id', '', true);
end $$;
revoke all on function jobs_with_clocks from public;
grant execute on function jobs_with_clocks to keg_app;

-- A cylinder is prepared for gas; gas goes from one cylinder into another, and what is then no use any more is scrapped.
alter table voucher drop constraint voucher_kind_check;
alter table voucher add constraint voucher_kind_check
  check (kind in ('opening', 'purchase', 'shipment', 'reweigh', 'retire', 'recondition', 'judge', 'explain', 'purge', 'prepare',
    'decant'));
create index voucher_preparation on voucher (shop_id, (body->>'cylinderId'), at desc) where kind = 'prepare';
create index voucher_decanting on voucher (shop_id, (body->>'cylinderId'), at desc) where kind = 'decant';
