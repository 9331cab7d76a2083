#!/usr/bin/env bash
# Edits a second through the server, turn by turn with pgbench doing the same writes as one statement, and with pgbench inserting
# single rows. Usage: store.sh CALLERS SECONDS; prints the three figures. PGPORT, CALM_PIVOT_URL and CALM_PIVOT_DB say where.
set -euo pipefail
here=$(cd "$(dirname "$0")" && pwd)
bin=$(ls -d /usr/lib/postgresql/*/bin | sort -V | tail -n 1)
sql() { "$bin/psql" -qX -h 127.0.0.1 -U calm_pivot calm_pivot -v ON_ERROR_STOP=1 "$@"; }
sql >/dev/null 2>&1 <<SQL
drop schema if exists bench cascade;
create schema bench;
create table bench.scenes (like scenes including defaults including constraints including indexes);
create table bench.nodes (like nodes including defaults including constraints including indexes including storage, foreign key (scene) references bench.scenes (no));
create table bench.steps (like steps including defaults including constraints including indexes including storage, foreign key (scene) references bench.scenes (no));
create table bench.log (like log including defaults including constraints including indexes including storage, foreign key (scene) references bench.scenes (no));
create table bench.rows (id bigint generated always as identity primary key, body text not null);
insert into bench.scenes (no, id, name, unit, revision, node_count) overriding system value select i, md5(i::text), 'Bench', 'm', 2, 100 from generate_series(1, 64) i;
SQL
bench() { "$bin/pgbench" -n -h 127.0.0.1 -U calm_pivot -M prepared -c "$1" -j 1 -T "$2" -f "$here/$3" calm_pivot 2>/dev/null | awk '/^tps/ { print $3 }'; }
# A server that has run for a while, not one that has just come up.
dotnet "$here/../artifacts/bench-store/Store.dll" edits 16 15 >/dev/null
ours=() same=() single=()
for _ in 1 2 3; do
  ours+=("$(dotnet "$here/../artifacts/bench-store/Store.dll" edits "$1" "$2")")
  same+=("$(bench "$1" "$2" same-writes.sql)")
  single+=("$(bench "$1" "$2" single-rows.sql)")
done
middle() { printf '%s\n' "$@" | sort -n | sed -n 2p; }
echo "$(middle "${ours[@]}") $(middle "${same[@]}") $(middle "${single[@]}")"
