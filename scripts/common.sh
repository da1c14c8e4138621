# Shared by the scripts: where things are, and how to say what is happening.
ROOT="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
STATE="${MERIDIEM_STATE:-$ROOT/.meridiem}"
RUN="$STATE/run"
LOGS="$STATE/logs"
NODE_FLAGS=(--conditions @meridiem/source --import tsx)

say() { printf '%s\n' "meridiem: $*"; }
fail() { printf '%s\n' "meridiem: $*" >&2; exit 1; }

# A port nobody listens on, at or after the one given.
free_port() {
  node -e '
    const net = require("net");
    const probe = (port) => { const s = net.createServer(); s.once("error", () => probe(port + 1)); s.listen(port, "127.0.0.1", () => s.close(() => console.log(port))); };
    probe(Number(process.argv[1]));' "$1"
}

# True while the process in a pid file lives and is ours (its command line holds the given words).
alive() {
  local file="$1" words="$2" pid
  [ -f "$file" ] || return 1
  pid="$(cat "$file" 2>/dev/null)" || return 1
  [ -n "$pid" ] && [ -r "/proc/$pid/cmdline" ] && tr '\0' ' ' < "/proc/$pid/cmdline" | grep -qF -- "$words"
}
