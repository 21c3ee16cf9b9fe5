-- What a job added to its system beyond what it took out, and when it charged last: leak rates are reckoned from both. Every
-- summary is made anew when the fold is.
alter table job_summary add column added_mg bigint not null default 0;
alter table job_summary add column charged_at timestamptz;
