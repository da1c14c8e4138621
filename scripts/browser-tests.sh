# The browser tests: two parts side by side, each with an application of its own, then what is held to the clock.
set -u
cd "$(dirname "${BASH_SOURCE[0]}")/.." || exit 1

part() { MERIDIEM_BROWSER_PART="$1" npx playwright test --config e2e/playwright.config.ts; }

said="$(mktemp)"
trap 'rm -f "$said"; kill "${second:-}" 2>/dev/null' EXIT
part second >"$said" 2>&1 & second=$!
part first
ended=$?
wait "$second" || ended=1
cat "$said"
[ "$ended" = 0 ] && part timed
