-- Whether a step was undone at some time, even if it stands again.
alter table steps add column wavered boolean not null default false;
update steps set wavered = undone;

-- Written to see whether the database can be written.
create table pulse (at timestamptz not null);
insert into pulse values (now());
