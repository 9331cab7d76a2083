# Builds the page and the server into artifacts/, each only when its sources have changed. Sourced after needs.sh.

# changed NAME PATH…: true when the files below the paths differ from what NAME was last built from.
changed() {
  local name=$1 sum
  shift
  sum=$(cd "$root" && find "$@" -type f -not -path '*/bin/*' -not -path '*/obj/*' -not -path '*/node_modules/*' -not -path '*/dist/*' \
    -not -path '*/_framework/*' -not -path '*/test-results/*' -print0 | sort -z | xargs -0 sha256sum | sha256sum)
  new_sum=$sum
  [ "$sum" != "$(cat "$root/artifacts/$name.sum" 2>/dev/null)" ]
}

built() { printf '%s\n' "$new_sum" >"$root/artifacts/$1.sum"; }

run_logged() {
  local log=$root/artifacts/$1.log
  shift
  "$@" >"$log" 2>&1 || { tail -n 30 "$log" >&2; fail "Building failed; see $log."; }
}

# With --no-build each publishes what has been built with the solution already.
build_core() {
  changed browser src/Core src/Browser Directory.Build.props Directory.Packages.props && {
    say "Building the core for the page …"
    rm -rf "$root/artifacts/browser" "$root/web/public/_framework"
    run_logged browser dotnet publish "$root/src/Browser" -c Release -o "$root/artifacts/browser" "$@"
    mkdir -p "$root/web/public"
    cp -r "$root/artifacts/browser/wwwroot/_framework" "$root/web/public/_framework"
    built browser
  }
  return 0
}

build_page() {
  # The packages come while the core is compiled.
  need_npm &
  local packages=$!
  build_core "$@"
  wait "$packages" || exit 1
  changed page web src/Core src/Browser && {
    say "Building the page …"
    run_logged page npm --prefix "$root/web" run build
    run_logged compress node "$root/scripts/compress.mjs" "$root/web/dist"
    built page
  }
  return 0
}

build_server() {
  changed server src/Core src/Exchange src/Server Directory.Build.props Directory.Packages.props && {
    say "Building the server …"
    rm -rf "$root/artifacts/server"
    run_logged server dotnet publish "$root/src/Server" -c Release -o "$root/artifacts/server" "$@"
    built server
  }
  return 0
}
