# Nabrel: every target sets up what it needs. `make demo` to try it, `make test` to prove it.
PYTHON ?= python3
BIN := .venv/bin
PORT ?= 8765
DEMO_DATA ?= .demo-data
FRONT_SOURCES := $(shell find frontend/src frontend/public -type f 2>/dev/null) frontend/index.html frontend/vite.config.ts nabrel/core/face/drawing.json
CHROMIUM := $(shell command -v chromium-headless-shell 2>/dev/null)
FAKETIME := $(shell command -v faketime 2>/dev/null)
STRACE := $(shell command -v strace 2>/dev/null)

.PHONY: setup demo dev test check mutants torture late-answers drills bench screenshots generate format lock chromium faketime strace other-days

setup: .setup-python nabrel/web/static/index.html

.setup-python: requirements.txt pyproject.toml
	test -x $(BIN)/python || $(PYTHON) -m venv .venv
	$(BIN)/pip install --quiet --disable-pip-version-check --require-hashes -r requirements.txt
	$(BIN)/pip install --quiet --disable-pip-version-check --no-build-isolation --no-deps -e .
	touch $@

.setup-front: frontend/package.json frontend/package-lock.json
	cd frontend && npm ci --no-audit --no-fund --loglevel=error
	touch $@

nabrel/web/static/index.html: .setup-front $(FRONT_SOURCES)
	cd frontend && npm run --silent build
	touch $@

chromium:
ifeq ($(CHROMIUM),)
	@echo "Installing Debian's Chromium for the browser tests"
	$(if $(filter 0,$(shell id -u)),,sudo) apt-get update -qq
	$(if $(filter 0,$(shell id -u)),,sudo) apt-get install -y -qq --no-install-recommends chromium-headless-shell
endif

faketime:
ifeq ($(FAKETIME),)
	@echo "Installing Debian's faketime for the tests on other days"
	$(if $(filter 0,$(shell id -u)),,sudo) apt-get update -qq
	$(if $(filter 0,$(shell id -u)),,sudo) apt-get install -y -qq --no-install-recommends faketime
endif

strace:
ifeq ($(STRACE),)
	@echo "Installing Debian's strace for the replay of power loss"
	$(if $(filter 0,$(shell id -u)),,sudo) apt-get update -qq
	$(if $(filter 0,$(shell id -u)),,sudo) apt-get install -y -qq --no-install-recommends strace
endif

demo: setup
	NABREL_DATA=$(DEMO_DATA) $(BIN)/nabrel serve --demo --port $(PORT)

# Python reloads by hand; the front end reloads itself at the address that vite prints.
dev: setup
	NABREL_DATA=$(DEMO_DATA) $(BIN)/nabrel serve --demo --port 8765 & SERVER=$$!; \
	trap "kill $$SERVER" EXIT; cd frontend && npm run --silent dev

test: setup chromium faketime check
	cd frontend && npm run --silent test
	$(BIN)/python -m pytest -n 2 --dist worksteal

check: setup
	$(BIN)/ruff check .
	$(BIN)/ruff format --check --quiet .
	$(BIN)/mypy
	$(BIN)/lint-imports
	cd frontend && npm run --silent lint && npm run --silent format:check && npm run --silent check

# Not part of the tests: about an hour on two cores.
mutants: setup
	$(BIN)/python -m tests.mutants

# Not part of the tests: about an hour. Kills and fills only what it made itself.
torture: setup strace
	$(BIN)/python -m tests.torture

# Not part of the tests: about an hour. A sample is.
other-days: setup faketime
	$(BIN)/python -m tests.other_days

# Not part of the tests: about twenty minutes.
late-answers: setup chromium
	$(BIN)/python -m pytest -p tests.late_answers -n 2 --dist worksteal tests/browser

drills: setup
	NABREL_DRILLS=200 $(BIN)/python -m pytest -q -n 2 tests/core/test_drills.py

bench: setup chromium
	$(BIN)/python -m bench

screenshots: setup chromium
	$(BIN)/python -m docs.take_screenshots

# Everything generated that is committed: schemas, OpenAPI document, TypeScript types, examples, reference pages.
generate: setup
	$(BIN)/python -m nabrel.formats.ids_build
	$(BIN)/ruff format -q nabrel/core/terms/ids.py
	$(BIN)/python -m nabrel.core.film.cie_build
	$(BIN)/python -m nabrel.formats.schemas_build
	$(BIN)/python -m nabrel.web.openapi_build
	cd frontend && npm run --silent types
	$(BIN)/python -m nabrel.demo.export examples
	$(BIN)/python docs/write_reference.py
	$(BIN)/python docs/draw_plots.py

format: setup
	$(BIN)/ruff check --fix --quiet . ; $(BIN)/ruff format --quiet .
	cd frontend && npm run --silent format

lock: setup
	$(BIN)/pip-compile --quiet --extra dev --generate-hashes --strip-extras --allow-unsafe --no-header \
		--no-emit-index-url --no-emit-trusted-host --no-emit-find-links -o requirements.txt pyproject.toml
