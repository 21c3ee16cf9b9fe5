-- What the shop has to do with: customers, their sites, cylinders and systems.

create table customer (
  shop_id     uuid not null references shop,
  customer_id uuid not null,
  name        text not null check (length(name) between 1 and 200),
  created_at  timestamptz not null,
  primary key (shop_id, customer_id)
);

create table site (
  shop_id     uuid not null,
  site_id     uuid not null,
  customer_id uuid not null,
  name        text not null check (length(name) between 1 and 200),
  address     text not null default '' check (length(address) <= 500),
  altitude_m  integer not null default 0 check (altitude_m between -450 and 5500),
  created_at  timestamptz not null,
  primary key (shop_id, site_id),
  foreign key (shop_id, customer_id) references customer
);

create table cylinder (
  shop_id             uuid not null references shop,
  cylinder_id         uuid not null,
  label               text not null check (length(label) between 1 and 80),
  kind                text not null check (kind in ('recovery', 'virgin', 'one-way', 'station')),
  refrigerant         text,                                    -- null: empty, not yet meant for one
  tare_mg             bigint not null check (tare_mg > 0),
  water_capacity_mg   bigint check (water_capacity_mg > 0),    -- stamped; null: not known
  filling_ratio       double precision check (filling_ratio > 0 and filling_ratio < 1.6), -- stamped; null: none
  service_pressure_pa bigint check (service_pressure_pa > 0),  -- absolute; null: not known
  tested_on           date,
  test_years          integer not null default 5 check (test_years between 1 and 20),
  flammable_ok        boolean not null default false,
  condition           text not null default 'clean' check (condition in ('clean', 'used', 'doubtful', 'mixed')),
  owner_customer_id   uuid,                                    -- null: the shop's own
  keeps_at            text not null default '' check (length(keeps_at) <= 120),
  balance_mg          bigint not null default 0,               -- kept by the database: the sum of its movements
  retired_at          timestamptz,
  created_at          timestamptz not null,
  primary key (shop_id, cylinder_id),
  foreign key (shop_id, owner_customer_id) references customer (shop_id, customer_id)
);
create index cylinder_rack on cylinder (shop_id, refrigerant, lower(label)) where retired_at is null;
create unique index cylinder_label on cylinder (shop_id, lower(label)) where retired_at is null;

create table system (
  shop_id               uuid not null,
  system_id             uuid not null,
  site_id               uuid not null,
  name                  text not null check (length(name) between 1 and 200),
  trade                 text not null check (trade in ('stationary', 'vehicle')),
  refrigerant           text,
  plate_mg              bigint check (plate_mg > 0),
  plate_text            text not null default '' check (length(plate_text) <= 120),
  panel_total_mg        bigint check (panel_total_mg > 0),     -- a total that somebody wrote inside the panel
  lines                 jsonb not null default '[]',
  accessories           jsonb not null default '[]',
  oil_type              text not null default '' check (length(oil_type) <= 60),
  metering              text not null default 'unknown' check (metering in ('fixed', 'valve', 'unknown')),
  subcooling_target_k   double precision check (subcooling_target_k between 0 and 30),
  max_test_pressure_pa  bigint check (max_test_pressure_pa > 0),
  balance_mg            bigint not null default 0,
  retired_at            timestamptz,
  created_at            timestamptz not null,
  primary key (shop_id, system_id),
  foreign key (shop_id, site_id) references site
);
create index system_name on system (shop_id, lower(name)) where retired_at is null;
create index system_of_site on system (shop_id, site_id);

call guard('customer');
call guard('site');
call guard('cylinder');
call guard('system');

grant select, insert on customer, site, cylinder, system to keg_app;
grant update (name) on customer to keg_app;
grant update (name, address, altitude_m) on site to keg_app;
grant update (label, kind, refrigerant, tare_mg, water_capacity_mg, filling_ratio, service_pressure_pa, tested_on, test_years,
  flammable_ok, condition, owner_customer_id, keeps_at, retired_at) on cylinder to keg_app;
grant update (name, trade, refrigerant, plate_mg, plate_text, panel_total_mg, lines, accessories, oil_type, metering,
  subcooling_target_k, max_test_pressure_pa, retired_at) on system to keg_app;
