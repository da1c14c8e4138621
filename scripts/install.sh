# Installs what is missing: packages of the registry, the database server and, for tests, Chromium. Safe to call again.

need_node() {
  command -v node >/dev/null || fail "Node.js 20.19 or newer is needed and not found"
  node -e 'const [a, b] = process.versions.node.split(".").map(Number); process.exit(a > 20 || (a === 20 && b >= 19) ? 0 : 1)' \
    || fail "Node.js 20.19 or newer is needed; this is $(node -v)"
}

install_packages() {
  local stamp="$ROOT/node_modules/.meridiem-lock" lock
  lock="$(sha256sum "$ROOT/package-lock.json" | cut -d' ' -f1)"
  if [ -f "$stamp" ] && [ "$(cat "$stamp")" = "$lock" ]; then return; fi
  say "installing packages (npm ci), about a minute"
  (cd "$ROOT" && PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD=1 npm ci --no-audit --no-fund --loglevel=error) || fail "npm ci failed; its words are above"
  printf '%s\n' "$lock" > "$stamp"
}

# install_debian WHAT PACKAGE...: with apt as root, else says exactly what to install.
install_debian() {
  local what="$1"; shift
  if [ "$(id -u)" != 0 ]; then fail "$what is missing. Ask an administrator for: apt-get install $*"; fi
  command -v apt-get >/dev/null || fail "$what is missing, and this system has no apt-get; install: $*"
  say "installing $what (apt-get install $*)"
  apt-get -o DPkg::Lock::Timeout=300 update -qq || true
  DEBIAN_FRONTEND=noninteractive apt-get -o DPkg::Lock::Timeout=300 install -y -qq --no-install-recommends "$@" >/dev/null || fail "apt-get could not install $*"
}

postgres_bin() {
  local dir
  for dir in $(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -rV); do [ -x "$dir/initdb" ] && { echo "$dir"; return; }; done
  dir="$(command -v initdb 2>/dev/null)" && dirname "$dir"
}

install_postgres() { [ -n "$(postgres_bin)" ] || install_debian PostgreSQL postgresql; }

# The shell without windows is smaller and quicker, where Debian has it.
chromium_path() { command -v chromium-headless-shell || command -v chromium || command -v chromium-browser || command -v google-chrome; }
install_chromium() {
  [ -n "$(chromium_path)" ] && return
  if apt-cache show chromium-headless-shell >/dev/null 2>&1; then install_debian Chromium chromium-headless-shell; else install_debian Chromium chromium; fi
}

build_web() {
  local stamp="$ROOT/packages/web/dist/.meridiem-sources" sources
  sources="$(cd "$ROOT" && find packages/web packages/contract/src packages/core/src package-lock.json -type f -not -path '*/node_modules/*' -not -path '*/dist/*' -print0 | sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1)"
  if [ -f "$stamp" ] && [ "$(cat "$stamp")" = "$sources" ]; then return; fi
  say "building the pages"
  (cd "$ROOT" && npm run -s build:web >"$LOGS/build-web.log" 2>&1) || { tail -30 "$LOGS/build-web.log" >&2; fail "the pages could not be built"; }
  printf '%s\n' "$sources" > "$stamp"
}
