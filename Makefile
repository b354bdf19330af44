# Everything Corrim needs is installed by the targets that need it: on a machine with Go, Node.js, apt and root.

SQLC := go tool -modfile=go.tool.mod sqlc
STATICCHECK := go tool -modfile=go.tool.mod staticcheck
NPM := npm --no-audit --no-fund --loglevel=error

.PHONY: demo dev build test quick fmt lint bench generate check-format check-go check-ui check-generated test-go test-ui test-e2e

# Starts Corrim with demo data and all stand-ins on http://localhost:8080.
demo: build
	@exec bin/corrim demo

# The same on http://localhost:5173 for who works on it: pages change as you save, and the server is built and started anew.
dev: ui/node_modules/.installed
	cd ui && npm run -s dev

build: bin/corrim

GO_FILES := $(shell find cmd core internal ui -name '*.go' -not -name '*_test.go' -not -path '*/node_modules/*') $(wildcard internal/store/migrations/*.sql) go.mod go.sum
UI_FILES := $(shell find ui/src ui/public -type f) $(wildcard ui/*.html ui/*.config.ts) ui/package.json

bin/corrim: $(GO_FILES) ui/dist/index.html
	go build -trimpath -o $@ ./cmd/corrim

ui/dist/index.html: $(UI_FILES) ui/node_modules/.installed
	cd ui && npm run -s build -- --logLevel warn
	@touch $@

%/node_modules/.installed: %/package-lock.json
	cd $* && $(NPM) ci
	@touch $@

# All checks, those that find faults fastest first.
test: check-format check-go check-ui check-generated test-go test-ui test-e2e
	@echo "All checks passed."

# What takes about a minute: all but the race detector and the journeys. For while you work; make test is what counts.
quick: ui/node_modules/.installed /usr/bin/radicale
	@$(MAKE) --no-print-directory -j2 check-format check-types test-go-quick test-ui
	@echo "Quick checks passed."

.PHONY: check-types test-go-quick
check-types: ui/node_modules/.installed
	cd ui && npx tsc --noEmit

test-go-quick:
	go vet ./...
	go test ./...

fmt: ui/node_modules/.installed
	gofmt -w cmd core internal ui/embed.go
	cd ui && npm run -s format

lint: check-format check-go check-ui

check-format:
	@unformatted=$$(gofmt -l cmd core internal ui/embed.go); test -z "$$unformatted" || { echo "gofmt these: $$unformatted"; exit 1; }

check-go:
	go vet ./...
	$(STATICCHECK) ./...

check-ui: ui/node_modules/.installed e2e/node_modules/.installed
	cd ui && npm run -s check
	cd e2e && npx tsc

# Radicale is the calendar server, not ours, that reading and writing calendars is tried with. The race detector looks at where several
# things happen at once; core computes, and planting demos, opening older databases and walking all routes as everybody are slow under it
# and do one after the other.
test-go: /usr/bin/radicale
	go test -timeout 20m ./core/... ./internal/app ./internal/demo ./internal/store
	go test -timeout 20m -run '^$(UNRACED)$$' ./internal/api
	go test -race -timeout 20m -skip '^$(UNRACED)$$' $$(go list ./cmd/... ./internal/... ./ui | grep -v -e internal/app$$ -e internal/demo -e internal/store$$)
	go test -race -timeout 20m -run "^($$(sed -n 's/^func \(Test[A-Za-z0-9]*\).*/\1/p' $(RACED) | paste -sd'|'))$$" ./internal/app ./internal/store

UNRACED := TestNobodyReadsWhatIsNotTheirs
RACED := $(addprefix internal/app/,booking_test.go outage_test.go puzzle_test.go reading_test.go) $(addprefix internal/store/,store_test.go tables_test.go write_test.go)

test-ui: ui/node_modules/.installed
	cd ui && npm run -s test

test-e2e: build e2e/node_modules/.installed /usr/bin/chromium-headless-shell
	cd e2e && npm run -s test

/usr/bin/chromium-headless-shell /usr/bin/radicale:
	apt-get update -qq && DEBIAN_FRONTEND=noninteractive apt-get install -y -qq $(@F)

# Generated code is committed. generate makes it anew. Since sqlc takes minutes to compile, check-generated doesn't run it
# but compares the sums of what went in and came out when it last ran.
SQL_SUMS := sqlc.yaml $(sort $(wildcard internal/store/migrations/*.sql internal/store/queries/*.sql internal/store/sqlc/*.go))

generate: ui/node_modules/.installed
	$(SQLC) generate
	sha256sum $(SQL_SUMS) > internal/store/sqlc.sum
	go run ./cmd/corrim openapi > docs/openapi.json
	go run ./cmd/sentences > ui/src/api/sentences.gen.json
	cd ui && npm run -s types

check-generated: ui/node_modules/.installed
	@sha256sum $(SQL_SUMS) | diff internal/store/sqlc.sum - || { echo "internal/store/sqlc is old: make generate"; exit 1; }
	@go run ./cmd/corrim openapi | diff -u docs/openapi.json - || { echo "docs/openapi.json is old: make generate"; exit 1; }
	@go run ./cmd/sentences | diff -u ui/src/api/sentences.gen.json - || { echo "the list of sentences is old: make generate"; exit 1; }
	@cd ui && npx openapi-typescript ../docs/openapi.json -o node_modules/.schema.d.ts >/dev/null 2>&1 && diff -u src/api/schema.gen.d.ts node_modules/.schema.d.ts || { echo "the types of the API are old: make generate"; exit 1; }

bench: build e2e/node_modules/.installed /usr/bin/chromium-headless-shell
	go test -run '^$$' -bench . -skip PoolOfFifty$$ -benchmem ./core/... ./internal/api/ ./internal/app/ ./internal/job/ ./cmd/corrim/
	go test -run '^$$' -bench PoolOfFifty$$ -benchtime 8000x ./internal/api/
	cd e2e && npx playwright test --config bench.config.ts
	@echo "Host's first view, scripts in bytes:"
	@node ui/weigh.mjs
	@echo "The script for others' pages, in bytes (wanted under 4096):"
	@printf '  %-34s %7d gzipped\n' "embed.js" "$$(gzip -9c ui/dist/embed.js | wc -c)"
	@echo "Client's page, sizes in bytes:"
	@printf '  %-34s %7d gzipped\n' "with its first drawing" "$$(gzip -9c ui/dist/type.html | wc -c)"
	@cd ui/dist/assets && for f in $$(grep -o 'assets/[^"]*\.js' ../page.html | sort -u | sed 's|assets/||'); do printf '  %-34s %7d gzipped\n' "$$f" "$$(gzip -9c "$$f" | wc -c)"; done
	@cd ui/dist/assets && for f in newsreader-latin-500-normal*.woff2 ibm-plex-sans-latin-wght*.woff2; do printf '  %-60s %7d\n' "$$f" "$$(wc -c < "$$f")"; done

# Takes the pictures in docs/screenshots anew.
.PHONY: screenshots
screenshots: build e2e/node_modules/.installed /usr/bin/chromium-headless-shell
	cd e2e && npx playwright test --config screenshots.config.ts

# Tries the program from outside: years of use, races, hard kills, services that fail, a full disk. Seven minutes; root makes the small disk.
.PHONY: trial
trial: build
	go run ./cmd/trial
