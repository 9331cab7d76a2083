\set s :client_id + 1
with g as (
  update bench.scenes set revision = revision + 1, node_count = node_count + 0, updated_at = now()
  where no = :s returning no, revision),
n as (
  insert into bench.nodes (scene, id, body) select no, 'n7', decode(repeat('a5', 110), 'hex') from g
  on conflict (scene, id) do update set body = excluded.body),
s as (
  insert into bench.steps (scene, number, revision, by_person, at, sentence, picked)
  select no, revision, revision, '0123456789abcdef', now(), 'Moved Part 7 +0.001 m along the world''s X', array['n7'] from g),
l as (
  insert into bench.log (scene, revision, at, act, step, key, request, writes, body)
  select no, revision, now(), 0, revision, gen_random_uuid(), decode(repeat('5a', 32), 'hex'), decode(repeat('17', 20), 'hex'), decode(repeat('71', 110), 'hex') from g)
select count(*) from g;
