-- Photos of a job: made smaller and without where they were taken, before they come here. None is ever removed; the tape
-- says which are not shown any more.

create table photo (
  shop_id  uuid not null,
  photo_id uuid not null,
  job_id   uuid not null,
  user_id  uuid not null,
  at       timestamptz not null,
  width    integer not null check (width between 1 and 4000),
  height   integer not null check (height between 1 and 4000),
  jpeg     bytea not null check (octet_length(jpeg) between 1 and 2000000),
  primary key (shop_id, photo_id),
  foreign key (shop_id, job_id) references job,
  foreign key (shop_id, user_id) references app_user
);
create index photo_of_job on photo (shop_id, job_id);

call guard('photo');
call append_only('photo');
grant select, insert on photo to keg_app;

-- A day to look again for a leak that was too slow to be found, as its tape says.
alter table job_summary add column recheck_on date;
create index job_summary_recheck on job_summary (shop_id, recheck_on) where recheck_on is not null;
