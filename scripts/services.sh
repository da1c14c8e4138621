# The application's processes: one supervisor keeps server, workers, simulated observatory and runner; it writes their logs and their state.

SUPERVISOR=scripts/supervise.ts

# Passwords and keys of this installation, made once, readable by its owner only. An older file gets what it lacks.
load_secrets() {
  local name
  touch "$STATE/secrets" && chmod 600 "$STATE/secrets"
  for name in OWNER_PASSWORD APP_PASSWORD SESSION_SECRET RUNNER_KEY INSTANCE; do
    grep -q "^MERIDIEM_$name=" "$STATE/secrets" && continue
    printf 'MERIDIEM_%s=%s\n' "$name" "$(node -e 'console.log(require("crypto").randomBytes(24).toString("hex"))')" >> "$STATE/secrets"
  done
  set -a; . "$STATE/secrets"; set +a
}

supervisor_runs() { alive "$RUN/supervisor.pid" "$SUPERVISOR $ROOT $RUN"; }

# What a service is doing, from the supervisor's own account: service_field NAME FIELD
service_field() {
  node -e 'try { const s = JSON.parse(require("fs").readFileSync(process.argv[1], "utf8"))[process.argv[2]]; console.log(s?.[process.argv[3]] ?? ""); } catch { console.log(""); }' "$RUN/status.json" "$1" "$2"
}

# Our own server, known by a key in its health answer: whoever else listens on that port is not.
server_answers() {
  [ -s "$STATE/server-port" ] || return 1
  node -e 'fetch(process.argv[1], { signal: AbortSignal.timeout(3000) }).then((a) => a.json()).then((h) => process.exit(h.ok && h.instance === process.env.MERIDIEM_INSTANCE ? 0 : 1), () => process.exit(1))' \
    "http://127.0.0.1:$(cat "$STATE/server-port")/api/health"
}

wait_for_server() {
  for _ in $(seq 300); do
    if server_answers; then return; fi
    supervisor_runs || break
    sleep 0.2
  done
  tail -20 "$LOGS/server.log" >&2
  fail "the server did not answer; its log is $LOGS/server.log"
}

# What runs was started before the code was changed: it would serve old answers to new pages.
end_outdated_services() {
  supervisor_runs || return 0
  local newer
  newer="$(cd "$ROOT" && find packages/*/src scripts demo package-lock.json -type f -newer "$RUN/supervisor.pid" -not -path 'packages/web/*' -print -quit)"
  if [ -n "$newer" ]; then say "the code is newer than what runs: starting it again"; stop_services; fi
}

# start_services [WORKERS]: does nothing where they run.
start_services() {
  local workers="${1:-1}"
  end_outdated_services
  if supervisor_runs; then wait_for_server; export MERIDIEM_PORT="$(cat "$STATE/server-port")"; return; fi
  rm -f "$STATE/server-port" "$RUN/status.json"
  export MERIDIEM_PORT="${MERIDIEM_PORT:-4310}" MERIDIEM_PORT_FILE="$STATE/server-port"
  export MERIDIEM_SIMULATOR_PORT="$(free_port "$((MERIDIEM_PORT + 1000))")"
  export MERIDIEM_SIMULATOR_URL="http://127.0.0.1:$MERIDIEM_SIMULATOR_PORT"
  export MERIDIEM_WEB_ROOT="$ROOT/packages/web/dist" MERIDIEM_CATALOGUE="$ROOT/packages/server/catalogue" MERIDIEM_CACHE="$STATE/cache" MERIDIEM_FRAMES="$STATE/frames" MERIDIEM_RIGS="$STATE/rigs"
  export MERIDIEM_STARS="${MERIDIEM_STARS:-$STATE/stars.bin}"
  export MERIDIEM_OWN_DATABASE=1
  # The runner of one machine stands beside its devices.
  export MERIDIEM_RUNNER_SITE="${MERIDIEM_RUNNER_SITE:-this machine}"
  # The demo's letters and webhook calls stay here: a stand-in takes them, and shows them at /post of the simulated observatory.
  if [ "${MERIDIEM_DEMO:-0}" = 1 ] && [ -z "${MERIDIEM_SMTP_URL:-}" ]; then
    export MERIDIEM_POST_PORT="$(free_port "$((MERIDIEM_PORT + 2000))")"
    export MERIDIEM_SMTP_URL="smtp://127.0.0.1:$MERIDIEM_POST_PORT" MERIDIEM_WEBHOOK_HOSTS="${MERIDIEM_WEBHOOK_HOSTS:-127.0.0.1:$MERIDIEM_SIMULATOR_PORT}"
  fi
  (umask 077; cd "$ROOT" && exec setsid node "${NODE_FLAGS[@]}" "$SUPERVISOR" "$ROOT" "$RUN" "$LOGS" "$workers" >>"$LOGS/supervisor.log" 2>&1 </dev/null 9>&-) &
  printf '%s\n' "$!" > "$RUN/supervisor.pid"
  disown
  wait_for_server
  export MERIDIEM_PORT="$(cat "$STATE/server-port")"
}

stop_services() {
  supervisor_runs || { rm -f "$RUN/supervisor.pid" "$RUN/status.json"; return 0; }
  local pid
  pid="$(cat "$RUN/supervisor.pid")"
  say "stopping the server, its workers, the simulated observatory and the runner"
  kill "$pid" 2>/dev/null
  for _ in $(seq 300); do supervisor_runs || break; sleep 0.1; done
  supervisor_runs && kill -9 "$pid" 2>/dev/null
  rm -f "$RUN/supervisor.pid" "$RUN/status.json"
}

show_status() {
  load_secrets
  local name restarts
  if supervisor_runs; then
    for name in $(node -e 'try { console.log(Object.keys(JSON.parse(require("fs").readFileSync(process.argv[1], "utf8"))).join(" ")); } catch {}' "$RUN/status.json"); do
      restarts="$(service_field "$name" restarts)"
      if [ "${restarts:-0}" = 0 ]; then say "$name $(service_field "$name" state) (process $(service_field "$name" pid))"
      else say "$name $(service_field "$name" state) (process $(service_field "$name" pid)), restarted $restarts times, last after: $(service_field "$name" lastEnd)"; fi
    done
  else say "the server, its workers, the simulated observatory and the runner are stopped"; fi
  if [ -f "$STATE/postgres-folder" ] && pg_running "$(cat "$STATE/postgres-folder")" "$(postgres_bin)"; then say "PostgreSQL runs on 127.0.0.1:$(cat "$STATE/postgres-port")"; else say "PostgreSQL is stopped"; fi
  if supervisor_runs && server_answers; then say "address: http://127.0.0.1:$(cat "$STATE/server-port")"; fi
}
