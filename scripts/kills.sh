#!/usr/bin/env bash
# Kills servers and PostgreSQL at random moments of imports and played nights, on a database cluster of its own: npm run kills [-- SERVER_KILLS POSTGRES_KILLS]
set -u
export MERIDIEM_STATE="${MERIDIEM_STATE:-$(mktemp -d)}"
here="$(cd "$(dirname "$(readlink -f "${BASH_SOURCE[0]}")")" && pwd)"
. "$here/common.sh"
. "$here/install.sh"
. "$here/postgres.sh"
. "$here/services.sh"
mkdir -p "$RUN" "$LOGS"
load_secrets

if [ "${1:-}" = "start-postgres" ]; then
  MERIDIEM_POSTGRES_PORT_KEPT=1 pg_start meridiem >>"$LOGS/postgres-again.log" 2>&1
  exit
fi

# start_service NAME MAIN: one process beside those that are killed.
beside=()
start_service() {
  (cd "$ROOT" && exec node "${NODE_FLAGS[@]}" "$2" >>"$LOGS/$1.log" 2>&1 </dev/null) &
  beside+=("$!")
}

finish() {
  kill "${beside[@]}" 2>/dev/null
  pg_stop
  [ "$(id -u)" = 0 ] && [ -f "$STATE/postgres-folder" ] && rm -rf "$(cat "$STATE/postgres-folder")"
  rm -rf "$STATE"
}
trap finish EXIT
install_chromium
export MERIDIEM_CHROMIUM="$(chromium_path)" MERIDIEM_DEMO=1 MERIDIEM_CLOCK=2026-10-11T10:00:00Z MERIDIEM_LOG_LEVEL=warn
build_web
pg_start meridiem
(cd "$ROOT" && node "${NODE_FLAGS[@]}" demo/main.ts) || fail "the demo could not be loaded"
export MERIDIEM_SIMULATOR_PORT="$(free_port 4511)" MERIDIEM_WEB_ROOT="$ROOT/packages/web/dist"
export MERIDIEM_PORT_A="$(free_port 4520)" MERIDIEM_PORT_B="$(free_port 4540)"
export MERIDIEM_SERVER_URL="http://127.0.0.1:$MERIDIEM_PORT_A" MERIDIEM_SIMULATOR_URL="http://127.0.0.1:$MERIDIEM_SIMULATOR_PORT"
start_service simulator packages/simulator/src/main.ts
start_service runner packages/runner/src/main.ts
cd "$ROOT" && node "${NODE_FLAGS[@]}" scripts/kills.ts "$@"
