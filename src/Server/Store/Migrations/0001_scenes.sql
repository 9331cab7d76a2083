create table scenes (
  id text primary key,
  name text not null,
  unit text not null,
  revision bigint not null,
  node_count integer not null,
  created_at timestamptz not null default now(),
  updated_at timestamptz not null default now()
);

-- One row a node, so that an edit writes what it changed and nothing else.
-- "body" is json, not jsonb: it keeps every digit and the sign of zero as written.
create table nodes (
  scene_id text not null references scenes on delete cascade,
  id text not null,
  revision bigint not null,
  body json not null,
  primary key (scene_id, id)
);

create table steps (
  scene_id text not null references scenes on delete cascade,
  number bigint not null,
  by_person text not null,
  at timestamptz not null,
  sentence text not null,
  name text,
  undone boolean not null default false,
  dropped boolean not null default false,
  edits json not null,
  writes json not null,
  change json not null,
  primary key (scene_id, number)
);

-- Answers to calls that carried a key, so that a call sent again gets its first answer.
create table answers (
  scene_id text not null references scenes on delete cascade,
  key uuid not null,
  request_hash bytea not null,
  answer json not null,
  at timestamptz not null default now(),
  primary key (scene_id, key)
);

-- Geometry and pictures never change once stored; their hash is their name.
create table blobs (
  hash text primary key,
  media_type text not null,
  bytes bytea not null
);

create table scene_blobs (
  scene_id text not null references scenes on delete cascade,
  hash text not null references blobs,
  primary key (scene_id, hash)
);

create table settings (
  person text primary key,
  body json not null,
  updated_at timestamptz not null default now()
);
