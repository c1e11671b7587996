#!/usr/bin/env bash
# Everything that must hold: builds, vets, lints, type-checks, compares what is generated, and runs all tests.
set -euo pipefail
cd "$(dirname "$0")/.."
./scripts/expect.sh

say() { printf '\n== %s\n' "$*"; }

# What the tests use beside Go and Node. Without the last five, five live cross-checks are skipped, visibly.
need=()
[ -x /usr/lib/chromium/chromium-headless-shell ] || need+=(chromium-headless-shell)
command -v pdftotext >/dev/null || need+=(poppler-utils)
want=()
command -v units >/dev/null || want+=(units)
command -v ngspice >/dev/null || want+=(ngspice)
command -v dot >/dev/null || want+=(graphviz)
command -v zbarimg >/dev/null || want+=(zbar-tools)
/usr/bin/python3 -c 'import scipy' 2>/dev/null || want+=(python3-scipy)
if [ ${#need[@]} -gt 0 ] || [ ${#want[@]} -gt 0 ]; then
  line="apt-get install -y --no-install-recommends ${need[*]:-} ${want[*]:-}"
  say "installing: ${need[*]:-} ${want[*]:-}"
  if command -v apt-get >/dev/null && [ "$(id -u)" = 0 ] && apt-get update -qq && DEBIAN_FRONTEND=noninteractive $line -qq >/dev/null; then
    echo installed
  elif [ ${#need[@]} -gt 0 ]; then
    echo "The tests need: $line" >&2
    exit 1
  else
    echo "Not installed, so the live cross-checks with these are skipped: ${want[*]}"
  fi
fi

work=$(mktemp -d)
trap 'kill $(jobs -p) 2>/dev/null || true; rm -rf "$work"' EXIT

# What runs beside the rest: part NAME COMMAND… starts it, finish NAME waits for it and shows what it said if it failed.
declare -A parts
part() {
  local name=$1
  shift
  (SECONDS=0; status=0; "$@" >"$work/$name" 2>&1 || status=$?; echo "$SECONDS s" >"$work/$name.time"; exit $status) &
  parts[$name]=$!
}
finish() {
  local status=0
  wait "${parts[$1]}" || status=$?
  say "$1 ($(cat "$work/$1.time"))"
  [ $status = 0 ] || { cat "$work/$1"; echo "failed: $1" >&2; return 1; }
}

generated() {
  mkdir "$work/schema"
  go run ./cmd/schema "$work/schema"
  (cd web && npx --no-install json2ts -i "$work/schema/api.schema.json" -o "$work/schema/types.gen.ts" \
    --unreachableDefinitions --no-additionalProperties)
  local f
  for f in docs/api.schema.json docs/job.schema.json docs/faces.schema.json web/src/api/types.gen.ts web/src/frame/changes.gen.ts; do
    cmp "$f" "$work/schema/$(basename "$f")" || { echo "$f is not current: make generate" >&2; return 1; }
  done
}
page() { (cd web && nice -n 10 npm run --silent "$1"); }
checks() {
  go vet ./... && go tool staticcheck ./...
}

# Known holes in what is linked in: looked at where their database can be reached, and said where it cannot.
vulnerabilities() {
  if curl -sfm 5 -o /dev/null https://vuln.go.dev/index/db.json; then
    go run golang.org/x/vuln/cmd/govulncheck@v1.9.0 ./...
    (cd web && npm audit --omit=dev --audit-level=high)
  else
    echo "not looked at: the database of known vulnerabilities cannot be reached from here"
  fi
}

# What takes a second is looked at before what takes minutes.
unformatted=$(gofmt -l $(git ls-files '*.go'))
[ -z "$unformatted" ] || { echo "gofmt: $unformatted" >&2; exit 1; }

# The page is embedded in the program, so it is built before the tests are; Go's packages are compiled meanwhile.
part compiled go build ./core/... ./exchange ./store
make --silent web/node_modules/.installed
part built page build
finish compiled
finish built
go run ./scripts/notices >"$work/licences.txt"
mv "$work/licences.txt" server/dist/licences.txt
part lint page lint
part types page typecheck
say "tests"
status=0
# Vet is among the checks. Garbage is collected seldom, up to a limit: the tests make many plans and keep few, and spend
# a seventh less. Nobody debugs these binaries, so they are linked without what a debugger reads, in two thirds of the time.
GOGC=1500 GOMEMLIMIT=1200MiB go test -vet=off -ldflags=-w -count=1 -timeout 20m -p 3 -parallel 3 -json ./... >"$work/tests" || status=$?
go run ./scripts/count "$work/tests" || status=1
part format page format
part generated generated
part checks checks
part vulnerabilities vulnerabilities
finish vulnerabilities && cat "$work/vulnerabilities" || true # what became known since yesterday breaks no test
for name in lint types format generated checks; do
  finish $name || status=1
done
exit $status
