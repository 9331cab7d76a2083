# Installs what Calm Pivot needs and this machine lacks. Sourced by ./start, ./test and ./bench.

root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
export DOTNET_CLI_TELEMETRY_OPTOUT=1 DOTNET_NOLOGO=1 PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD=1
mkdir -p "$root/artifacts"

say() { printf '%s\n' "$*" >&2; }
fail() { say "$*"; exit 1; }

as_root() { if [ "$(id -u)" = 0 ]; then "$@"; else sudo -n "$@"; fi; }

# Debian packages, by the file that shows that they are there.
need_debian() {
  local missing=()
  while [ $# -gt 0 ]; do
    compgen -G "$2" >/dev/null || missing+=("$1")
    shift 2
  done
  [ ${#missing[@]} = 0 ] && return
  say "Installing ${missing[*]} …"
  as_root apt-get update -qq >/dev/null || fail "The package lists could not be fetched. Install ${missing[*]} by hand."
  # Without the cluster that Debian would set up by itself; ours is private.
  as_root mkdir -p /etc/postgresql-common
  [ -e /etc/postgresql-common/createcluster.conf ] || echo 'create_main_cluster = false' | as_root tee /etc/postgresql-common/createcluster.conf >/dev/null
  as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >"$root/artifacts/apt.log" 2>&1 ||
    fail "Installing ${missing[*]} failed; see artifacts/apt.log."
}

need_tools() {
  command -v dotnet >/dev/null || fail "The .NET SDK 10 is needed: install it, then start again."
  command -v node >/dev/null || fail "Node.js 20 or later is needed: install it, then start again."
  command -v npm >/dev/null || fail "npm is needed: install it, then start again."
}

# The page's packages, anew when the lock file has changed.
need_npm() {
  local stamp=$root/web/node_modules/.calm-pivot
  cmp -s "$root/web/package-lock.json" "$stamp" && return
  say "Installing the page's packages …"
  # Not npm ci: it insists on lock entries for the optional binaries of every platform, which not every registry serves.
  # Versions are the locked ones all the same, and the lock file is not written.
  (cd "$root/web" && npm install --no-save --no-audit --no-fund --loglevel=error >"$root/artifacts/npm.log" 2>&1) ||
    fail "npm install failed; see artifacts/npm.log."
  cp "$root/web/package-lock.json" "$stamp"
}

# What makes the page's types; apart from the page, since it needs a compiler of its own.
need_types() {
  local stamp=$root/web/schema/node_modules/.calm-pivot
  cmp -s "$root/web/schema/package-lock.json" "$stamp" && return
  (cd "$root/web/schema" && npm install --no-save --no-audit --no-fund --loglevel=error >"$root/artifacts/npm-types.log" 2>&1) ||
    fail "npm install failed; see artifacts/npm-types.log."
  cp "$root/web/schema/package-lock.json" "$stamp"
}
