-- The form that the rows of a scene are in; those of former forms are brought to the present one when the scene is loaded.
alter table scenes add column form integer not null default 1;
