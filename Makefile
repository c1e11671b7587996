# Draxel. `make demo` builds everything and serves it with the demonstration jobs; `make test` is what CI runs.

.PHONY: expect demo build release run test lint generate shots clean

PORT ?= 8321
GO ?= go

demo: build
	./bin/draxel serve --demo --data tmp/demo --port $(PORT)

expect:
	@./scripts/expect.sh

build: expect web/node_modules/.installed
	cd web && npm run --silent build
	$(GO) run ./scripts/notices > tmp-licences.txt && mv tmp-licences.txt server/dist/licences.txt
	$(GO) build -o bin/draxel ./cmd/draxel

# Programs for every system, with the page inside: release/
release: expect web/node_modules/.installed
	./scripts/release.sh

web/node_modules/.installed: web/package-lock.json
	cd web && npm ci --no-audit --no-fund --silent
	@touch $@

# The schemas and the front end's types, from the Go types.
generate: web/node_modules/.installed
	$(GO) run ./cmd/schema docs
	mv docs/changes.gen.ts web/src/frame/changes.gen.ts
	cd web && npm run --silent types

test:
	./scripts/test.sh

shots: build
	$(GO) test ./browser -run Shots -count=1 -shots ../docs/screenshots

clean:
	rm -rf bin tmp web/node_modules server/dist/assets server/dist/index.html server/dist/licences.txt release
