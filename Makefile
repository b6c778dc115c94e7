# Nabrel: every target sets up what it needs. `make demo` to try it, `make test` to prove it.
PYTHON ?= python3
BIN := .venv/bin
PORT ?= 8765
DEMO_DATA ?= .demo-data
SUDO := $(if $(filter 0,$(shell id -u)),,sudo)
MISSING := $(if $(shell command -v chromium-headless-shell 2>/dev/null),,chromium-headless-shell) \
	$(if $(shell command -v faketime 2>/dev/null),,faketime)
MISSING := $(strip $(MISSING))

# What needs nothing of each other goes on side by side: packages of Python, of Node, and of Debian.
MAKEFLAGS += --jobs=4

.PHONY: setup front demo dev test check check-python check-front mutants torture late-answers drills bench screenshots generate \
	format lock debian strace other-days

setup: .setup-python front

# uv as the lock has it, then everything else by uv, which fetches and unpacks side by side and asks no second time what needs what.
# Where uv reaches no index that pip is told of in a way of its own, pip does it.
.setup-python: requirements.txt pyproject.toml
	test -x $(BIN)/python || $(PYTHON) -m venv .venv
	awk '/^uv==/ {on = 1} on {print; if (!/\\$$/) exit}' requirements.txt > .venv/uv.txt
	$(BIN)/pip install --quiet --disable-pip-version-check --require-hashes --no-deps -r .venv/uv.txt
	$(BIN)/uv pip install --quiet --python $(BIN)/python --require-hashes --no-deps -r requirements.txt || \
		$(BIN)/pip install --quiet --disable-pip-version-check --require-hashes --no-deps -r requirements.txt
	$(BIN)/pip install --quiet --disable-pip-version-check --no-build-isolation --no-deps -e .
	touch $@

front:
	$(PYTHON) frontend/build.py

debian:
ifneq ($(MISSING),)
	@echo "Installing $(MISSING) of Debian's for the tests"
	$(SUDO) apt-get update -qq
	$(SUDO) apt-get install -y -qq --no-install-recommends $(MISSING)
endif

strace:
	command -v strace > /dev/null || ($(SUDO) apt-get update -qq && $(SUDO) apt-get install -y -qq --no-install-recommends strace)

demo: setup
	NABREL_DATA=$(DEMO_DATA) $(BIN)/nabrel serve --demo --port $(PORT)

# Python reloads by hand; the front end reloads itself at the address that vite prints.
dev: setup
	NABREL_DATA=$(DEMO_DATA) $(BIN)/nabrel serve --demo --port 8765 & SERVER=$$!; \
	trap "kill $$SERVER" EXIT; cd frontend && npm run --silent dev

test: setup debian check
	cd frontend && npm run --silent test
	$(BIN)/python -m pytest -n 2 --dist worksteal

check: check-python check-front

check-python: setup
	$(BIN)/ruff check .
	$(BIN)/ruff format --check --quiet .
	$(BIN)/mypy
	$(BIN)/lint-imports

check-front: setup
	cd frontend && npm run --silent lint && npm run --silent format:check && npm run --silent check

# Not part of the tests: about an hour on two cores.
mutants: setup
	$(BIN)/python -m tests.mutants

# Not part of the tests: about an hour and a half. Kills and fills only what it made itself.
torture: setup strace
	$(BIN)/python -m tests.torture

# Not part of the tests: about two hours. A sample is.
other-days: setup debian
	$(BIN)/python -m tests.other_days

# Not part of the tests: about twenty minutes.
late-answers: setup debian
	$(BIN)/python -m pytest -p tests.late_answers -n 2 --dist worksteal tests/browser

drills: setup
	NABREL_DRILLS=200 $(BIN)/python -m pytest -q -n 2 tests/core/test_drills.py

bench: setup debian
	$(BIN)/python -m bench

screenshots: setup debian
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
	$(BIN)/uv pip compile --quiet --extra all --extra dev --generate-hashes --no-header --python-version 3.11 \
		-o requirements.txt pyproject.toml
