#!/usr/bin/env bash
# Installs what is missing and runs everything: types, lint, the dependency rule, unit tests, the build, and the real
# interface in Chromium. The last line says how many tests passed and failed.
set -uo pipefail
source "$(dirname "$0")/common.sh"
need_node
need_packages || exit 1
need_chromium || exit 1

passed=0
failed=0
reports=$(mktemp -d)
trap 'rm -rf "$reports"' EXIT
# What failed is told once more at the end, where one looks first.
failures="$reports/failures"
: > "$failures"

# Steps that pass or fail as a whole, one after another; two such lanes run at once, one on each core.
lane() {
  while [ $# -gt 0 ]; do
    if $2 > "$reports/$1.log" 2>&1; then touch "$reports/$1.passed"; fi
    shift 2
  done
}

# What each step said, and whether it passed.
tell_steps() {
  for step in "$@"; do
    echo "== $step"
    cat "$reports/$step.log"
    if [ -f "$reports/$step.passed" ]; then
      passed=$((passed + 1))
    else
      failed=$((failed + 1))
      echo "FAILED: $step" | tee -a "$failures"
    fi
  done
}

# The tests and files of a report of Vitest that failed, each with the beginning of what it said.
tell_failed() {
  node -e '
    const r = JSON.parse(require("fs").readFileSync(process.argv[1], "utf8"));
    const begin = (text) => String(text ?? "").split("\n").slice(0, 8).map((line) => `    ${line.slice(0, 300)}`).join("\n");
    for (const { name, status, message, assertionResults } of r.testResults) {
      const file = require("path").relative(".", name);
      if (status === "failed" && assertionResults.length === 0) console.log(`FAILED: ${file}\n${begin(message)}`);
      for (const { status, fullName, failureMessages } of assertionResults)
        if (status === "failed") console.log(`FAILED: ${file}: ${fullName}\n${begin(failureMessages[0])}`);
    }
  ' "$1" 2>/dev/null || echo "FAILED: no report of $1"
}

# A run of Vitest, counted test by test.
suite() {
  local name=$1
  shift
  echo "== $name"
  local report="$reports/$name.json"
  npx vitest run "$@" --reporter=default --reporter=json --outputFile.json="$report"
  local counts
  counts=$(node -e '
    const r = JSON.parse(require("fs").readFileSync(process.argv[1], "utf8"));
    const brokenFiles = r.testResults.filter((f) => f.status === "failed" && f.assertionResults.length === 0).length;
    console.log(r.numPassedTests, r.numFailedTests + brokenFiles);
  ' "$report" 2>/dev/null) || counts="0 1"
  [ "$counts" = "0 0" ] && counts="0 1"
  passed=$((passed + ${counts% *}))
  failed=$((failed + ${counts#* }))
  tell_failed "$report" >> "$failures"
}

lane "types of the core" "npm run check --silent -w core" \
  "lint" "npm run lint --silent" \
  "dependency rule" "npm run deps --silent" &
lane "types of the page" "npm run check --silent -w web" \
  "build" "npm run build --silent"
wait
tell_steps "types of the core" "types of the page" "lint" "dependency rule" "build"
suite "unit"
suite "interface" --config vitest.e2e.config.ts

cat "$failures"
echo "$passed passed, $failed failed"
[ "$failed" -eq 0 ]
