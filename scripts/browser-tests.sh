# The browser tests: parts side by side, each with an application of its own, then what is held to the clock.
set -u
cd "$(dirname "${BASH_SOURCE[0]}")/.." || exit 1

part() { MERIDIEM_BROWSER_PART="$1" npx playwright test --config e2e/playwright.config.ts; }

said="$(mktemp -d)"
beside=()
trap 'rm -rf "$said"; kill "${beside[@]}" 2>/dev/null' EXIT
for name in second third; do
  part "$name" >"$said/$name" 2>&1 & beside+=($!)
done
part first
ended=$?
for process in "${beside[@]}"; do wait "$process" || ended=1; done
cat "$said"/*
[ "$ended" = 0 ] && part timed
