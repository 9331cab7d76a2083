-- Large steps are written while someone waits: lz4 takes a small part of the time of the usual method.
alter table steps alter column edits set compression lz4, alter column writes set compression lz4, alter column change set compression lz4;
alter table answers alter column answer set compression lz4;
