#!/usr/bin/env bash
# Says in one line what is missing: Go 1.26 and Node 20.19 are all that Draxel is built with.
set -u
older() { [ "$(printf '%s\n%s\n' "$1" "$2" | sort -V | head -n 1)" != "$2" ]; }
go=$(go env GOVERSION 2>/dev/null | sed 's/^go//')
node=$(node --version 2>/dev/null | sed 's/^v//')
if [ -z "$go" ] || older "$go" 1.26; then
  echo "Draxel needs Go 1.26 or newer (found: ${go:-none})." >&2
  exit 1
fi
if [ -z "$node" ] || older "$node" 20.19; then
  echo "Draxel needs Node 20.19 or newer (found: ${node:-none})." >&2
  exit 1
fi
