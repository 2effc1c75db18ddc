# Everything here works on a fresh Debian machine with Go; rebuilding the
# stylesheet and running the tests also need Node.

.DEFAULT_GOAL := help
BIN := bin/chromaqua
# What runs in several goroutines at once; a test keeps the list complete.
SHARING := ./core/lineart ./core/order/solver ./core/pigment ./internal/desk ./internal/web ./cmd/chromaqua ./scripts/torture
# Statistics and goldens find nothing more under the race detector, and take long.
UNRACED := WhatTheyWere|TestQuality|TestForeignLineArt|TestDemoStartsAndResets
ADDR ?= 127.0.0.1:8417

help: ## list the targets
	@grep -hE '^[a-z-]+:.*## ' $(MAKEFILE_LIST) | sed -E 's/^([a-z-]+):.*## /\1\t/' | expand -t 10

build: ## build the program as one static binary
	CGO_ENABLED=0 go build -trimpath -ldflags='-s -w' -o $(BIN) ./cmd/chromaqua

demo: build ## start the application with the sample studio
	$(BIN) demo --addr $(ADDR)

tools:
	@scripts/install-test-tools

node_modules: package-lock.json
	npm ci --no-audit --no-fund
	@touch node_modules

lint: ## gofmt, go vet, staticcheck
	@test -z "$$(gofmt -l cmd core internal *.go)" || { gofmt -l cmd core internal *.go; echo 'run: gofmt -w'; exit 1; }
	go vet ./...
	go tool staticcheck ./...

css: node_modules ## rebuild the stylesheet from its sources
	npm run --silent css

css-fresh: node_modules
	@scripts/css-is-fresh

test: tools node_modules lint css-fresh ## everything that must hold: linters, all tests at full strength, the short ones with the race detector
	CHROMAQUA_TOOLS=required go test -timeout 40m ./...
	go test -race -short -skip '$(UNRACED)' -timeout 40m $(SHARING)

bench: ## the benchmarks
	go test -run '^$$' -bench . -benchmem ./...
	-/usr/bin/python3 bench/lineart.py # against OpenCV, where it is installed
	-npm ci --prefix bench --no-audit --no-fund --silent && node bench/mixing.mjs # against a mixing library

references: ## search the generated paint orders for long, and keep what is better than known
	CHROMAQUA_REFERENCES=1 go test -count=1 -timeout 20m -run TestReferences ./core/order/solver

MUTANTS := ./core/card ./core/technique ./core/run ./core/ink ./core/joint ./core/grey ./core/pouch ./core/lesson ./core/paper ./core/practice ./core/panel ./core/steps ./core/order ./core/order/solver ./core/advice ./core/fold ./core/pigment ./core/drying ./core/mount ./core/needs ./core/evening ./core/nest ./core/mask ./core/reserve ./core/cutting ./core/printing ./core/settings ./internal/store
mutants: ## put small faults into the core, one at a time, and count how many its short tests notice
	go run ./scripts/mutants -show -n 60 -seed $(or $(SEED),1) -limit 20m $(MUTANTS)

dist: ## build the programs for Linux, macOS and Windows into dist/, with checksums
	go run ./scripts/dist

fuzz: ## fuzz every parser for a while (FUZZTIME=30s each)
	@scripts/fuzz $(or $(FUZZTIME),30s)

torture: build ## kill it, ask it much at once, fill its disk, feed it what was made to break it (ten minutes; SHORT=1 for one)
	go run ./scripts/torture $(if $(SHORT),-short) $(if $(AGAINST),-against $(AGAINST)) $(BIN)

shots: build tools ## make docs/screenshots and the pictures of the guide again from the demo data
	CHROMAQUA_SHOTS=$(CURDIR)/docs/screenshots go test -count=1 -run 'TestShots|TestPicturesOfTheGuide' ./internal/web

drawings: ## render the sample drawings again (needs rsvg-convert)
	for f in internal/demo/drawings/*.svg; do rsvg-convert -d 300 -p 300 -b white $$f -o $${f%.svg}.png; done

.PHONY: help build demo tools lint css css-fresh test bench references mutants dist fuzz torture shots drawings
