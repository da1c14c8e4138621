# The whole suite in the order that fails soonest: format, lint, types, unit and server tests, browser tests.

run_step() {
  local name="$1"; shift
  local started=$SECONDS
  say "$name…"
  "$@" || fail "$name failed"
  say "$name: done in $((SECONDS - started)) s"
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
  run_step "formatting" npm run -s format:check
  run_step "lint and dependency rules" npm run -s lint
  run_step "types" npm run -s types
  [ "$long" = 1 ] && export MERIDIEM_REALISTIC_NIGHTS=500 MERIDIEM_LONG=1
  run_step "unit and server tests" npm run -s test:unit
  run_step "browser tests" npm run -s test:browser
  say "every test passed"
}
