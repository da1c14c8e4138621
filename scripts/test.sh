# The whole suite in the order that fails soonest: format, lint, types, unit and server tests, browser tests.

run_step() {
  local name="$1"; shift
  local started=$SECONDS
  say "$name…"
  "$@" || fail "$name failed"
  say "$name: done in $((SECONDS - started)) s"
}

# The awkward frames written anew by the independent library and compared, byte by byte, with those committed.
check_awkward_frames() {
  /usr/bin/python3 -c 'import astropy' 2>/dev/null || {
    [ "$(id -u)" = 0 ] || { say "python3-astropy is missing: ask an administrator for: apt-get install python3-astropy"; return 1; }
    apt-get -o DPkg::Lock::Timeout=300 install -y python3-astropy >/dev/null || return 1
  }
  local written; written="$(mktemp -d)"
  /usr/bin/python3 scripts/awkward-frames.py "$written" && diff -r "$written" packages/core/fixtures/frames
  local same=$?
  rm -rf "$written"
  return $same
}

# Five frames, each written again in twenty ways by astropy and fpack: five exposures.
check_re_encodings() {
  command -v fpack >/dev/null || {
    [ "$(id -u)" = 0 ] || { say "fpack is missing: ask an administrator for: apt-get install libcfitsio-bin"; return 1; }
    apt-get -o DPkg::Lock::Timeout=300 install -y libcfitsio-bin >/dev/null || return 1
  }
  local written; written="$(mktemp -d)"
  /usr/bin/python3 scripts/re-encodings.py "$written" && node "${NODE_FLAGS[@]}" scripts/re-encodings.ts "$written"
  local same=$?
  rm -rf "$written"
  return $same
}

# The types of one process beside the lint of another: each uses one core.
check_code() {
  npm run -s types & local types=$!
  npm run -s format:check && npm run -s lint
  local style=$?
  wait "$types" && return $style
}

run_tests() {
  local long=0
  [ "${1:-}" = "--long" ] && long=1
  install_chromium
  build_web
  # A database that the tests started ends with them; one that serves the application goes on.
  if ! { [ -f "$STATE/postgres-folder" ] && pg_running "$(cat "$STATE/postgres-folder")" "$(postgres_bin)"; }; then trap pg_stop EXIT; fi
  pg_start meridiem_tests
  export MERIDIEM_TEST_DATABASE_URL="$MERIDIEM_OWNER_DATABASE_URL" MERIDIEM_CHROMIUM="$(chromium_path)"
  cd "$ROOT" || exit 1
  run_step "formatting, lint, dependency rules and types" check_code
  [ "$long" = 1 ] && export MERIDIEM_REALISTIC_NIGHTS=500 MERIDIEM_LONG=1
  [ "$long" = 1 ] && run_step "awkward frames by an independent writer" check_awkward_frames
  [ "$long" = 1 ] && run_step "frames written again by others" check_re_encodings
  run_step "unit and server tests" npm run -s test:unit
  run_step "browser tests" npm run -s test:browser
  [ "$long" = 1 ] && run_step "kills of servers and of PostgreSQL" env -u MERIDIEM_STATE npm run -s kills
  say "every test passed"
}
