-- Stills: images made of a shot, a camera or a view, with what is beside them.
create table stills (
  id text primary key,
  scene_id text not null references scenes (id) on delete cascade,
  name text not null,
  shot text,
  revision bigint not null,
  width integer not null,
  height integer not null,
  passes integer not null,
  seconds double precision not null,
  made_of jsonb not null,
  at timestamptz not null default now()
);
create index stills_of_scene on stills (scene_id, at);

-- The image itself, a small one for its card, its depth and the mask of its objects.
create table still_images (
  still_id text not null references stills (id) on delete cascade,
  part text not null,
  media_type text not null,
  bytes bytea not null,
  primary key (still_id, part)
);
alter table still_images alter column bytes set storage external;
