#!/usr/bin/env bash
# Programs for Linux, Windows and macOS on amd64 and arm64 with the page inside, their checksums, a list of what is in
# them (CycloneDX), and the notices. Everything comes into release/.
set -euo pipefail
cd "$(dirname "$0")/.."
version=$(git describe --tags --always --dirty)
bom=github.com/CycloneDX/cyclonedx-gomod/cmd/cyclonedx-gomod@v1.10.0
rm -rf release
mkdir release
make --silent build
for target in linux/amd64 linux/arm64 windows/amd64 windows/arm64 darwin/amd64 darwin/arm64; do
  os=${target%/*} arch=${target#*/}
  program=release/draxel-$version-$os-$arch
  [ "$os" != windows ] || program+=.exe
  CGO_ENABLED=0 GOOS=$os GOARCH=$arch go build -trimpath -ldflags "-s -w -X main.version=$version" -o "$program" ./cmd/draxel
done
cp server/dist/licences.txt release/LICENCES.txt
if go run "$bom" bin -json -output release/program.cdx.json "release/draxel-$version-linux-amd64" 2>/dev/null; then
  echo "what is in the program: release/program.cdx.json"
else
  echo "The list of what is in the program could not be made: $bom cannot be fetched here." >&2
  exit 1
fi
(cd web && npm sbom --omit=dev --sbom-format cyclonedx 2>/dev/null) >release/page.cdx.json
(cd release && sha256sum -- * >SHA256SUMS)
ls -l release
