-- What a scene looked like when it was left, made by the page; no part of the scene.
create table scene_pictures (
  scene_id text primary key references scenes on delete cascade,
  revision bigint not null,
  media_type text not null,
  bytes bytea not null
);
