#!/usr/bin/env bash
# Writes what the page is told of the API and of the bridge, and makes its types from that. Usage: scripts/types.sh
set -euo pipefail
here=$(cd "$(dirname "$0")" && pwd)
. "$here/needs.sh"
need_tools
need_debian postgresql '/usr/lib/postgresql/*/bin/initdb'
. "$root/scripts/postgres.sh"
. "$root/scripts/build.sh"
work=$(mktemp -d)
chmod 755 "$work"
trap 'pg_stop "$work/postgres"; rm -rf "$work"' EXIT
pg_start "$work/postgres" "-c fsync=off"
build_server
export CALM_PIVOT_TEST_DB=$pg_url CALM_PIVOT_TEST_SERVER=$root/artifacts/server/CalmPivot.Server.dll CALM_PIVOT_WRITE_TYPES=1
dotnet test "$root/tests/Core.Tests" -c Release --nologo -v q --filter BridgeTypes
dotnet test "$root/tests/Server.Tests" -c Release --nologo -v q --filter ApiTypes
need_types
node "$root/web/schema/generate.mjs"
