# The whole set of commands. `make demo` and `make test` do all their own set-up.
SHELL := /bin/bash
.DEFAULT_GOAL := help
BIN := .venv/bin
SCREENS := src/valleywind/web/index.html
# Where Node is missing or too old it is put into the environment.
export PATH := $(CURDIR)/.venv/node:$(PATH)
FRONT_SOURCES := $(shell find frontend/src frontend/index.html frontend/vite.config.ts docs/words.md -type f -not -name schema.d.ts 2>/dev/null)

# T=word: only tests with it in their name, one after the other, which begins sooner.
AT_ONCE := $(if $(T),,-n 2 --dist worksteal)
NAMED := $(if $(T),-k "$(T)",)

.PHONY: help setup dist demo run test check test-core test-api test-browser lint lint-python api bench costly endurance fuzz \
	mutants screenshots

help: ## this list
	@grep -hE '^[a-z-]+:.*##' Makefile | sed -E 's/:.*## /\t/' | expand -t 14

setup: ## the environment, the packages, the screens
	@$(MAKE) --no-print-directory -j2 .venv/.ready $(SCREENS)
	@echo "Set up. Next: make demo"

dist: .venv/.ready $(SCREENS) ## one file to install where there is no Node: dist/valleywind-….whl
	@rm -rf build dist
	@$(BIN)/python -m pip wheel --quiet --disable-pip-version-check --no-deps --wheel-dir dist .
	@rm -rf build
	@ls dist/*.whl

demo: setup ## the demo shop, fresh, at one local address
	@$(BIN)/valleywind serve --demo

run: setup ## your own shop; ARGS="--host 0.0.0.0" for a tablet
	@$(BIN)/valleywind serve $(ARGS)

test: lint $(SCREENS) ## lint, types, architecture and every test
	@tools/need chromium
	$(BIN)/pytest $(AT_ONCE) $(NAMED)

check: .venv/.tested lint-python ## in a minute: format, types, imports, and the quick tests of the core
	$(BIN)/pytest $(AT_ONCE) -m "not long" tests/core $(NAMED)

test-core: .venv/.tested ## the tests of core, wording and formats; T=word for those with it in their name
	$(BIN)/pytest $(AT_ONCE) tests/core tests/wording tests/formats $(NAMED)

test-api: $(SCREENS) .venv/.tested ## the tests of shop, API and commands; T=word
	$(BIN)/pytest $(AT_ONCE) tests/api $(NAMED)

test-browser: frontend/node_modules/.tested $(SCREENS) .venv/.tested ## the tests in a browser; T=word
	@tools/need chromium
	$(BIN)/pytest $(AT_ONCE) tests/browser $(NAMED)

lint: lint-python frontend/src/api/schema.d.ts ## format, types and architecture of all of it
	cd frontend && npx tsc --noEmit && npx eslint src && npx prettier --check --log-level warn src

lint-python: .venv/.tested
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy
	$(BIN)/lint-imports

api: .venv/.ready ## docs/openapi.json, which the tests compare: a change of the API shows in review
	@$(BIN)/python -m valleywind.api.schema > docs/openapi.json.new
	@cmp -s docs/openapi.json.new docs/openapi.json && rm docs/openapi.json.new || mv docs/openapi.json.new docs/openapi.json

bench: setup .venv/.tested ## speed marks, beside a plain brute force
	@tools/need chromium
	@$(BIN)/python -m tests.bench

fuzz: setup .venv/.tested ## a few minutes of odd requests, files, heads and devices: TRIES=25 of each
	@$(BIN)/python -m tests.fuzz $(or $(TRIES),25)

costly: setup .venv/.tested ## the costliest question of each route, by a search over sizes: TRIES=30
	@$(BIN)/python -m tests.costly $(or $(TRIES),30)

endurance: setup .venv/.tested ## the server killed a thousand times in the middle of cutting; steps beside long writes
	@$(BIN)/python -m tests.endurance 1000
	@$(BIN)/python -m tests.beside

mutants: setup .venv/.tested ## faults planted in a copy, one by one: which ones do the tests catch?
	@$(BIN)/python -m tests.mutants

screenshots: setup .venv/.tested ## docs/screenshots from the demo shop
	@tools/need chromium
	@$(BIN)/python -m tests.screenshots

# Modules are compiled when they are first wanted: few of them ever are.
PIP := $(BIN)/python -m pip install --quiet --disable-pip-version-check --no-compile -c constraints.txt
NPM := npm ci --no-audit --no-fund --loglevel=error

.venv/.ready: pyproject.toml constraints.txt
	@tools/need python
	@test -x $(BIN)/python || "$$(tools/need --python)" -m venv .venv
	$(PIP) -e .
	@touch $@

.venv/.tested: .venv/.ready
	$(PIP) -e '.[test]'
	@touch $@

# What builds the screens; what looks them over besides. A Node that is missing is put into the environment.
frontend/node_modules/.ready: frontend/package.json frontend/package-lock.json | $(shell tools/need --node || echo .venv/.ready)
	@tools/need node
	cd frontend && $(NPM) --omit=dev
	@touch $@

frontend/node_modules/.tested: frontend/package.json frontend/package-lock.json | .venv/.ready
	@tools/need node
	cd frontend && $(NPM)
	@touch frontend/node_modules/.ready $@

frontend/src/api/schema.d.ts: docs/openapi.json frontend/node_modules/.tested
	cd frontend && npm run --silent schema >/dev/null

$(SCREENS): frontend/node_modules/.ready $(FRONT_SOURCES)
	cd frontend && npx vite build --logLevel warn
	@touch $@
