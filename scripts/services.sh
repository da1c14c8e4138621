# The application's processes: server, simulated observatory, runner. Each has a pid file and a log.

# Passwords and keys of this installation, made once, readable by its owner only.
load_secrets() {
  if [ ! -f "$STATE/secrets" ]; then
    (umask 077; for name in OWNER_PASSWORD APP_PASSWORD SESSION_SECRET RUNNER_KEY; do
      printf 'MERIDIEM_%s=%s\n' "$name" "$(node -e 'console.log(require("crypto").randomBytes(24).toString("hex"))')"
    done > "$STATE/secrets")
  fi
  set -a; . "$STATE/secrets"; set +a
}

# start_service NAME MAIN: in a session of its own, with its log, the start lock not inherited.
start_service() {
  local name="$1" main="$2"
  if alive "$RUN/$name.pid" "$main"; then return; fi
  (cd "$ROOT" && exec setsid node "${NODE_FLAGS[@]}" "$main" >>"$LOGS/$name.log" 2>&1 </dev/null 9>&-) &
  printf '%s\n' "$!" > "$RUN/$name.pid"
  disown
}

stop_service() {
  local name="$1" main="$2" pid
  if alive "$RUN/$name.pid" "$main"; then
    pid="$(cat "$RUN/$name.pid")"
    say "stopping the $name"
    kill "$pid" 2>/dev/null
    for _ in $(seq 100); do alive "$RUN/$name.pid" "$main" || break; sleep 0.1; done
    alive "$RUN/$name.pid" "$main" && kill -9 "$pid" 2>/dev/null
  fi
  rm -f "$RUN/$name.pid"
}

wait_for() {
  local url="$1" what="$2"
  for _ in $(seq 300); do
    node -e 'fetch(process.argv[1]).then((a) => process.exit(a.ok ? 0 : 1), () => process.exit(1))' "$url" && return
    sleep 0.2
  done
  tail -20 "$LOGS/server.log" >&2
  fail "$what did not answer at $url"
}

SERVICES=("runner packages/runner/src/main.ts" "server packages/server/src/main.ts" "simulator packages/simulator/src/main.ts")

# What runs was started before the code was changed: it would serve old answers to new pages.
end_outdated_services() {
  local stamp="$RUN/server.pid" newer
  alive "$stamp" packages/server/src/main.ts || return 0
  newer="$(cd "$ROOT" && find packages/*/src demo package-lock.json -type f -newer "$stamp" -not -path 'packages/web/*' -print -quit)"
  if [ -n "$newer" ]; then say "the code is newer than what runs: starting it anew"; stop_services; fi
}

start_services() {
  end_outdated_services
  # Whoever still runs keeps its port; the runner is told of both, so it starts anew when either of them does.
  if ! alive "$RUN/server.pid" packages/server/src/main.ts; then
    stop_service runner packages/runner/src/main.ts
    free_port "${MERIDIEM_PORT:-4310}" > "$STATE/server-port"
  fi
  if ! alive "$RUN/simulator.pid" packages/simulator/src/main.ts; then
    stop_service runner packages/runner/src/main.ts
    free_port "$(($(cat "$STATE/server-port") + 1))" > "$STATE/simulator-port"
  fi
  export MERIDIEM_PORT="$(cat "$STATE/server-port")" MERIDIEM_SIMULATOR_PORT="$(cat "$STATE/simulator-port")"
  export MERIDIEM_SERVER_URL="http://127.0.0.1:$MERIDIEM_PORT" MERIDIEM_SIMULATOR_URL="http://127.0.0.1:$MERIDIEM_SIMULATOR_PORT"
  export MERIDIEM_WEB_ROOT="$ROOT/packages/web/dist" MERIDIEM_CATALOGUE="$ROOT/packages/server/catalogue" MERIDIEM_CACHE="$STATE/cache"
  start_service server packages/server/src/main.ts
  start_service simulator packages/simulator/src/main.ts
  wait_for "$MERIDIEM_SERVER_URL/api/health" "the server"
  start_service runner packages/runner/src/main.ts
}

stop_services() {
  local entry
  for entry in "${SERVICES[@]}"; do stop_service ${entry%% *} ${entry#* }; done
}

show_status() {
  local entry name
  for entry in "${SERVICES[@]}"; do
    name="${entry%% *}"
    if alive "$RUN/$name.pid" "${entry#* }"; then say "$name runs (process $(cat "$RUN/$name.pid"))"; else say "$name is stopped"; fi
  done
  if [ -f "$STATE/postgres-folder" ] && pg_running "$(cat "$STATE/postgres-folder")" "$(postgres_bin)"; then say "PostgreSQL runs on 127.0.0.1:$(cat "$STATE/postgres-port")"; else say "PostgreSQL is stopped"; fi
  if alive "$RUN/server.pid" packages/server/src/main.ts; then say "address: http://127.0.0.1:$(cat "$STATE/server-port")"; fi
}
