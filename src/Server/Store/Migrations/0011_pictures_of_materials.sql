-- Pictures that were brought into a scene for its materials, used or not; the images themselves are blobs.
create table kept_pictures (
  scene_id text not null references scenes (id) on delete cascade,
  hash text not null,
  name text not null,
  width integer not null,
  height integer not null,
  at timestamptz not null default now(),
  primary key (scene_id, hash)
);
