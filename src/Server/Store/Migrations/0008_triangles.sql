-- The order in which the triangles of a geometry are found fast, built when it is asked for first.
alter table blobs add column triangles bytea;
