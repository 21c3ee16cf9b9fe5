-- Tokens with which programs ask Keg. Only a hash is kept; what a token may do is written beside it.

create table api_token (
  shop_id    uuid not null references shop,
  token_id   uuid not null,
  name       text not null check (length(name) between 1 and 100),
  token_hash bytea not null,
  scopes     text[] not null check (scopes <@ array['calc', 'cylinders'] and cardinality(scopes) > 0),
  made_by    uuid not null,
  made_at    timestamptz not null,
  used_on    date,
  revoked_at timestamptz,
  primary key (shop_id, token_id),
  foreign key (shop_id, made_by) references app_user
);

call guard('api_token');

-- Outside the shops, like the directory of sign-ins: which shop a token belongs to.
create table token_directory (
  token_hash bytea primary key,
  shop_id    uuid not null,
  token_id   uuid not null,
  foreign key (shop_id, token_id) references api_token
);

create function token_find(hash bytea) returns table (shop_id uuid, token_id uuid)
  language sql stable security definer set search_path = public, pg_temp
  as $$ select t.shop_id, t.token_id from token_directory t where t.token_hash = hash $$;

-- Adds a token of the shop that is set.
create function token_add(hash bytea, for_token uuid) returns void
  language sql security definer set search_path = public, pg_temp
  as $$ insert into token_directory (token_hash, shop_id, token_id) values (hash, current_shop(), for_token) $$;

revoke all on function token_find, token_add from public;
grant execute on function token_find, token_add to keg_app;
grant select, insert, update on api_token to keg_app;
