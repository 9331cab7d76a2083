-- Keys that cookies are signed with.
create table signing_keys (
  name text primary key,
  xml text not null,
  made_at timestamptz not null default now()
);

-- Persons from before cookies were signed: each is taken over once, by a cookie that is.
create table unsigned_persons (
  person text primary key,
  taken_over_at timestamptz
);
insert into unsigned_persons (person)
  select person from settings
  union select by_person from steps
  union select by_person from former_steps;

-- Who put it in the bin, and empties it; nobody is known of what was there before.
alter table scenes add column removed_by text;

-- By which it is tried whether there is room on the disk.
alter table pulse add column tried bytea;
alter table pulse alter column tried set storage external;
