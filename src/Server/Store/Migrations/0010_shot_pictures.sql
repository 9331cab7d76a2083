-- Pictures of shots lie beside that of their scene, whose shot is ''.
alter table scene_pictures add column shot text collate "C" not null default '';
alter table scene_pictures drop constraint scene_pictures_pkey, add primary key (scene_id, shot);
