-- What a scene stores is one row a node and one row a change, both packed (see Store/Packed). Scenes of the former form stay in
-- the former tables until they are loaded; then their nodes move over, their steps are listed in the new table, and what these did is
-- read from the former one.
alter table scenes
  add column no bigint generated always as identity unique,
  -- The log holds what came after this revision.
  add column log_after bigint not null default 0,
  -- In the bin since; null: it is not.
  add column removed_at timestamptz,
  -- Steps that are older are trimmed; null: none is.
  add column keep_days integer;

alter table nodes rename to former_nodes;
alter table steps rename to former_steps;
alter table answers rename to former_answers;
alter index nodes_pkey rename to former_nodes_pkey;
alter index steps_pkey rename to former_steps_pkey;
alter index answers_pkey rename to former_answers_pkey;

create table nodes (
  scene bigint not null references scenes (no) on delete cascade,
  id text collate "C" not null,
  body bytea not null,
  -- Geometry and pictures that it uses.
  blobs text[],
  primary key (scene, id)
);

create table log (
  scene bigint not null references scenes (no) on delete cascade,
  -- The one that it led to.
  revision bigint not null,
  at timestamptz not null,
  act smallint not null,
  -- The step that was made, taken back or done again; of several the last, and all of them.
  step bigint,
  marks bigint[],
  -- Of the call, for a week.
  key uuid,
  request bytea,
  -- Which parts of what, and these parts before and after.
  writes bytea not null,
  body bytea not null,
  blobs text[],
  primary key (scene, revision)
);
create index log_keys on log (scene, key) where key is not null;
create index log_blobs on log (scene) where blobs is not null;
-- Large ones are packed before they come here.
alter table log alter column body set storage external, alter column writes set storage external;

create table steps (
  scene bigint not null references scenes (no) on delete cascade,
  number bigint not null,
  -- In the log; null: it was made in the former form.
  revision bigint,
  by_person text not null,
  at timestamptz not null,
  sentence text not null,
  name text,
  picked text[],
  undone boolean not null default false,
  dropped boolean not null default false,
  -- The revision at which it was last taken back or done again.
  wavered bigint,
  primary key (scene, number)
);
create index steps_redo on steps (scene, by_person) where undone and not dropped;
create index steps_wavered on steps (scene, wavered) where wavered is not null;

create index scene_blobs_hash on scene_blobs (hash);
-- Nothing has used it since; what is not used for a while is collected.
alter table scene_blobs add column unused_since timestamptz;
