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

say "front end: types current, format, lint, build"
make --silent web/node_modules/.installed
generated=$(mktemp -d)
trap 'rm -rf "$generated"' EXIT
go run ./cmd/schema "$generated"
(cd web && npx --no-install json2ts -i "$generated/api.schema.json" -o "$generated/types.gen.ts" --unreachableDefinitions --no-additionalProperties)
for f in docs/api.schema.json docs/job.schema.json docs/faces.schema.json web/src/api/types.gen.ts web/src/frame/changes.gen.ts; do
  cmp "$f" "$generated/$(basename "$f")" || { echo "$f is not current: make generate" >&2; exit 1; }
done
(cd web && npm run --silent typecheck && npm run --silent lint && npm run --silent format && npm run --silent build)

say "go: format, vet, staticcheck"
bad=$(gofmt -l $(git ls-files '*.go'))
[ -z "$bad" ] || { echo "gofmt: $bad" >&2; exit 1; }
go build ./...
go vet ./...
go tool staticcheck ./...

say "tests"
log=$(mktemp)
trap 'rm -rf "$generated" "$log"' EXIT
status=0
go test -count=1 -timeout 20m -json ./... >"$log" || status=$?
go run ./scripts/count "$log"
exit $status
