-- What a channel said is read in the order of the key, hours at a time, from among what all others said: with the value
-- in it the index alone answers.
alter table sample drop constraint sample_pkey;
alter table sample add primary key (shop_id, device_id, channel, at, seq) include (value);
