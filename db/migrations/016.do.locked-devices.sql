-- What waits on a device of somebody who has left is locked there: the key is theirs, and given to nobody else.
alter table app_user add column device_key text not null
  default replace(gen_random_uuid()::text || gen_random_uuid()::text, '-', '')
  check (device_key ~ '^[0-9a-f]{64}$');
