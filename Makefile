# The two commands: make demo, make test. The rest is what they are made of.
SHELL := /bin/bash
export PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD := 1
export GOFLAGS := -buildvcs=false

GO_FILES := $(shell find cmd internal web/embed.go -name '*.go' -o -name '*.json' -path '*internal*' -o -name '*.sql' -path '*internal*')
WEB_FILES := $(shell find web/src web/public -type f 2>/dev/null) docs/guide.md web/index.html web/vite.config.ts web/pages.ts web/theme.ts web/tsconfig.json

.PHONY: demo demo-reset build test test-go test-web test-e2e lint vet lint-web check-web generate check-generated bench bench-web usable many contrast check-plans property durability hostile load screenshots contact clean

demo: build ## serve the demo squad on http://127.0.0.1:7420
	@bin/dunnock demo

demo-reset: build ## the same, with the demo data afresh
	@bin/dunnock demo --reset

build: bin/dunnock

.stamps/npm: web/package.json web/package-lock.json
	@scripts/need
	@echo "Installing npm packages …"
	@cd web && npm ci --no-audit --no-fund --loglevel=error
	@mkdir -p .stamps && touch $@

web/dist/index.html: .stamps/npm $(WEB_FILES)
	@echo "Building the front end …"
	@cd web && npm run --silent build -- --logLevel warn
	@touch web/dist/.keep $@

bin/dunnock: web/dist/index.html go.mod go.sum $(GO_FILES)
	@scripts/need postgresql
	@echo "Building dunnock …"
	@go build -o $@ ./cmd/dunnock

test: build check-generated ## everything; the checks of the front end beside the tests of Go, the walks alone
	@$(MAKE) --no-print-directory -j2 --output-sync=line test-go check-web
	@$(MAKE) --no-print-directory test-e2e

test-go: web/dist/index.html vet
	@scripts/need postgresql openssl
	go test -p 4 ./... # some packages wait for clocks and kills most of the time

test-web: .stamps/npm
	cd web && npm run --silent test

test-e2e: build
	@scripts/need postgresql chromium-headless-shell openssl
	cd web && npx --no-install playwright test -c ../e2e/playwright.config.ts --project=walks

lint: check-generated vet lint-web

vet:
	go vet ./...
	@test -z "$$(gofmt -l cmd internal web/embed.go)" || { gofmt -l cmd internal web/embed.go; echo "run gofmt"; exit 1; }

lint-web: .stamps/npm
	cd web && npm run --silent typecheck && npm run --silent lint

check-web: lint-web test-web

generate: .stamps/npm ## server and client types from api/contract
	go run ./api/bundle api/contract > api/openapi.yaml
	go tool oapi-codegen -config api/codegen.yaml api/openapi.yaml
	cd web && npm run --silent generate

GENERATED := internal/httpapi/gen/api.gen.go web/src/api/schema.d.ts

# What was generated keeps its time where nothing changed: nothing is built again for it.
check-generated: .stamps/npm
	@mkdir -p .stamps/generated && for f in $(GENERATED); do cp -p $$f .stamps/generated/$$(basename $$f); done
	@$(MAKE) --no-print-directory generate >/dev/null
	@for f in $(GENERATED); do \
		diff -q $$f .stamps/generated/$$(basename $$f) || { echo "the generated types do not match api/contract: they are made anew now, commit them"; exit 1; }; \
		touch -r .stamps/generated/$$(basename $$f) $$f; \
	done

bench: ## the benchmarks of docs/performance.md
	go test -run '^$$' -bench . -benchmem ./internal/core/... ./internal/httpapi/...

contrast: build ## contrast of every view in the light colours and the dark ones, by axe
	cd web && DUNNOCK_CONTRAST=1 npx --no-install playwright test -c ../e2e/playwright.config.ts --project=walks ../e2e/every-view

bench-web: build ## what a browser loads before the first view is usable
	@scripts/need postgresql chromium-headless-shell openssl
	cd web && npx --no-install playwright test -c ../e2e/playwright.config.ts --project=measure --workers 1 --grep-invert ' usable$$|ten thousand|thin line'

many: build ## a squad of ten thousand in the browser
	@scripts/need postgresql chromium-headless-shell openssl
	cd web && npx --no-install playwright test -c ../e2e/playwright.config.ts --project=measure --workers 1 ../e2e/many

usable: build ## how soon every view can be used, processor four times slower; moving about, longest task
	@scripts/need postgresql chromium-headless-shell openssl
	cd web && npx --no-install playwright test -c ../e2e/playwright.config.ts --project=measure --workers 1 ../e2e/usable

check-plans: ## the property tests of the generator over 2,000 random golfers
	DUNNOCK_GOLFERS=$${GOLFERS:-2000} go test ./internal/core/plan -count 1 -run 'Anybody|FewAre' -v

property: ## 1,000 random seasons over all schools: rules kept, locks kept, the same twice
	DUNNOCK_SEASONS=$${SEASONS:-1000} go test ./internal/core/plan -count 1 -timeout 60m -run SeasonsForAnybody -v

durability: build ## a hundred kills of program and database under load: nothing acknowledged is lost, half or stuck
	@scripts/need postgresql
	DUNNOCK_KILLS=$${KILLS:-100} go test ./internal/drill -count 1 -timeout 60m -run Durability -v

hostile: build ## hostile bodies and files, four at once, with limits of memory and time
	@scripts/need postgresql
	DUNNOCK_DRILL_LIMITS=1 go test ./internal/drill -count 1 -timeout 10m -run Hostile -v

load: build ## fifty clients, 200 golfers, screens close together and far apart; a station day
	@scripts/need postgresql
	DUNNOCK_LOAD_SECONDS=60 DUNNOCK_LOAD_GOLFERS=200 go test ./internal/drill -count 1 -timeout 20m -run Load -v

screenshots: build ## the pictures in docs/screenshots
	@scripts/need postgresql chromium-headless-shell openssl
	cd web && npx --no-install playwright test -c ../e2e/playwright.config.ts --project=screenshots --workers 1 ../e2e/screenshots

contact: build ## every view on a phone, a tablet and a desk, on sheets to be looked at
	@scripts/need postgresql chromium-headless-shell openssl
	cd web && npx --no-install playwright test -c ../e2e/playwright.config.ts --project=screenshots --workers 1 ../e2e/contact

clean:
	rm -rf bin .stamps web/dist/assets web/dist/index.html web/dist/*.svg web/node_modules e2e/test-results
