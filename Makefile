.PHONY: demo build test bench fuzz torture lint screenshots contract ui chromium clean

# npm's lock file is the one source of what node_modules holds.
ui/node_modules/.package-lock.json: ui/package-lock.json
	cd ui && npm ci --no-audit --no-fund
	touch $@

ui: ui/node_modules/.package-lock.json
	cd ui && npm run --silent build

build: ui
	go build -o bin/cressa ./cmd/cressa

demo: build
	bin/cressa demo

# The contract's documents, derived from the server's structs.
contract: ui/node_modules/.package-lock.json
	go generate ./server
	cd ui && npm run --silent contract

screenshots: chromium ui
	go run ./e2e/screenshots --out docs/screenshots

chromium:
	@command -v chromium >/dev/null || { apt-get update && DEBIAN_FRONTEND=noninteractive apt-get install -y --no-install-recommends chromium; }

bench:
	go test -run '^$$' -bench . -benchmem ./...

# The four readers of strangers' files, for an hour together.
FUZZTIME := 15m

fuzz:
	sh scripts/fuzz.sh $(FUZZTIME)

# A thousand kills, and copies of ten thousand stones from every version.
torture: chromium ui
	go test -count=1 -timeout 4h ./e2e -run 'UnderKills|ATabThatIsKilled' -kills 1000
	go test -count=1 -timeout 2h ./copies -run TestWhatIsCopiedComesBack -stones 10000
	go test -count=1 -timeout 4h -v ./sqlite -run TestACopyOfEveryVersionComesBack -stones 10000

GOLANGCI := github.com/golangci/golangci-lint/v2/cmd/golangci-lint@v2.15.0

lint: ui/node_modules/.package-lock.json
	test -z "$$(gofmt -l $$(git ls-files '*.go'))"
	go vet ./...
	GOOS=js GOARCH=wasm go build ./core/...
	go run $(GOLANGCI) run
	cd ui && npm run --silent lint

# The core starts goroutines in one place, core/work. The race detector sees the jobs that
# run there through the packages that ask for them, and the rest of the core runs five
# times as fast without it.
test: chromium ui lint
	sh scripts/check-contract.sh
	cd ui && npm run --silent test
	go test ./core/...
	go test -race -timeout 20m ./core/work $$(go list ./... | grep -v -e /e2e -e ^cressa/core/)
	go test -count=1 -timeout 30m ./e2e

clean:
	rm -rf bin ui/dist/assets ui/node_modules
