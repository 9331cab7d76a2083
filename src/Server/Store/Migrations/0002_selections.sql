-- Named selections of a scene, in picking order; no part of the history.
create table selections (
  scene_id text not null references scenes on delete cascade,
  name text not null,
  nodes text[] not null,
  primary key (scene_id, name)
);
