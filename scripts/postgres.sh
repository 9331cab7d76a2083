# A private PostgreSQL cluster on loopback. Sourced after needs.sh.

pg_bin=$(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1)

# PostgreSQL refuses to run as root; then its own user runs it.
as_pg() {
  if [ "$(id -u)" = 0 ]; then (cd / && runuser -u postgres -- "$@"); else "$@"; fi
}

free_port() { node -e 'const s=require("net").createServer().listen(0,"127.0.0.1",()=>{console.log(s.address().port);s.close()})'; }

# pg_start FOLDER [EXTRA OPTIONS]: makes the cluster where there is none, starts it, and sets pg_port and pg_url.
pg_start() {
  local dir=$1 options=${2:-}
  pg_bin=$(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1)
  mkdir -p "$dir"
  if [ "$(id -u)" = 0 ]; then
    chown postgres "$dir"
    as_pg test -x "$dir" || fail "The user postgres cannot enter $dir. Choose another folder with --data."
  fi
  if [ ! -e "$dir/cluster/PG_VERSION" ]; then
    as_pg "$pg_bin/initdb" -D "$dir/cluster" -U calm_pivot --auth=trust --no-sync -E UTF8 --locale=C >"$root/artifacts/initdb.log" 2>&1 ||
      fail "PostgreSQL could not set up $dir/cluster; see artifacts/initdb.log."
  fi
  pg_stop "$dir"
  pg_port=$(free_port)
  as_pg "$pg_bin/pg_ctl" -D "$dir/cluster" -l "$dir/postgres.log" -w -t 60 \
    -o "-p $pg_port -c listen_addresses=127.0.0.1 -c unix_socket_directories=$dir $options" start >/dev/null ||
    fail "PostgreSQL did not start; see $dir/postgres.log."
  pg_url="Host=127.0.0.1;Port=$pg_port;Username=calm_pivot;Database=calm_pivot"
  as_pg "$pg_bin/createdb" -h 127.0.0.1 -p "$pg_port" -U calm_pivot calm_pivot >/dev/null 2>&1 || true
}

pg_stop() {
  [ -e "$1/cluster/postmaster.pid" ] || return 0
  as_pg "$pg_bin/pg_ctl" -D "$1/cluster" -m fast -w stop >/dev/null 2>&1 || true
}

# pg_control FOLDER PORT stop|start: takes the database away for a while, for tests; it comes back at the same port.
pg_control() {
  if [ "$3" = stop ]; then as_pg "$pg_bin/pg_ctl" -D "$1/cluster" -m immediate -w stop; return; fi
  as_pg "$pg_bin/pg_ctl" -D "$1/cluster" -l "$1/postgres.log" -w -t 60 \
    -o "-p $2 -c listen_addresses=127.0.0.1 -c unix_socket_directories=$1" start
}
