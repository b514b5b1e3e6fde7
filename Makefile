# Two commands do everything: `make demo` and `make test`.
PYTHON ?= $(shell command -v python3.11 || command -v python3)
VENV := .venv
BIN := $(VENV)/bin
CHROMIUM := /usr/bin/chromium
DATA ?= .data
# Bytecode is kept: each process that starts would compile all modules anew.
export PYTHONDONTWRITEBYTECODE :=
PORT ?= 8765

SRC_WEB := $(shell find web/src -type f 2>/dev/null) web/index.html web/vite.config.ts web/tsconfig.json $(wildcard docs/guide/*.md)

.PHONY: setup docs demo test test-times check fuzz bench screenshots types lock fonts clean browser migration

setup: $(VENV)/.installed src/tinhalo/web/index.html

# The lock is installed with hashes; the project itself goes in beside it, in place. The curve fitting is compiled
# here, so that nobody waits for it later.
$(VENV)/.installed: requirements.lock pyproject.toml
	test -x $(BIN)/python || $(PYTHON) -m venv $(VENV)
	$(BIN)/pip install --quiet --disable-pip-version-check --require-hashes -r requirements.lock
	$(BIN)/pip install --quiet --disable-pip-version-check --no-deps --no-build-isolation --editable .
	$(BIN)/tinhalo warm
	touch $@

web/node_modules/.installed: web/package.json web/package-lock.json
	cd web && npm ci --no-audit --no-fund
	touch $@

src/tinhalo/web/index.html: web/node_modules/.installed $(SRC_WEB)
	cd web && npm run --silent build
	touch $@

demo: setup
	$(BIN)/tinhalo demo --data $(DATA)/demo --port $(PORT)

browser:
	test -x $(CHROMIUM) || { command -v sudo >/dev/null && S=sudo; $$S apt-get update -q && $$S apt-get install -yq --no-install-recommends chromium; }

# A worker for each of two cores: with more, pages wait for each other until a click comes too late. The recorded times
# balance the workers. What failed is run once more by itself, and named: on a busy machine a page now and then waits so
# long that a click comes too late. One test, or some, by a part of their names: make test ONLY=test_offset
SEED ?= $(shell date -u +%F)
WORKERS ?= 2
test: setup browser .stestr
	@echo "What is sampled is drawn by SEED=$(SEED)"
	SEED=$(SEED) PYTHON=$(abspath $(BIN))/python $(BIN)/stestr run --concurrency $(WORKERS) $(if $(ONLY),'$(ONLY)') \
	  || { echo "These failed, and are run once more:"; $(BIN)/stestr failing --list; \
	    PYTHON=$(abspath $(BIN))/python SEED=$(SEED) $(BIN)/stestr run --failing --concurrency 1; }

.stestr: tests/times.json
	rm -rf $@
	$(BIN)/python scripts/test_times.py load

# After a whole run: what it took, for the next ones and for the docs.
test-times:
	$(BIN)/python scripts/test_times.py write

# All of what the tests take a share of, and COUNT random cases of a kind.
COUNT ?= 1000
fuzz: setup browser
	FUZZ=$(COUNT) $(MAKE) --no-print-directory test

check: setup
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/lint-imports
	cd web && npx --no-install pyright --project ..
	cd web && npm run --silent check
	mkdir -p /tmp/tinhalo-types
	$(MAKE) --no-print-directory types TYPES_OUT=/tmp/tinhalo-types FACTS_OUT=/tmp/tinhalo-types
	cmp web/src/api/schema.d.ts /tmp/tinhalo-types/schema.d.ts && cmp web/src/api/facts.ts /tmp/tinhalo-types/facts.ts \
	  || { echo "The generated types are stale: run make types."; exit 1; }
	$(BIN)/python scripts/check_migrations.py
	$(BIN)/python scripts/design_document.py --check

bench: setup browser
	$(BIN)/python -m benchmarks.run
	$(BIN)/python -m benchmarks.knockout
	$(BIN)/python -m benchmarks.clean
	$(BIN)/python -m benchmarks.starters --write
	$(BIN)/python -m benchmarks.findings --write
	$(BIN)/python -m benchmarks.browser --write
	$(BIN)/python -m benchmarks.shop
	$(BIN)/python -m benchmarks.worst
	$(BIN)/python -m benchmarks.hand_over
	$(BIN)/python -m benchmarks.carving
	$(BIN)/python -m benchmarks.carving --apart
	$(BIN)/python -m benchmarks.lists

screenshots: setup browser
	$(BIN)/python scripts/screenshots.py

TYPES_OUT ?= src/api
FACTS_OUT ?= web/src/api
types: $(VENV)/.installed web/node_modules/.installed
	$(BIN)/tinhalo openapi > web/openapi.json
	cd web && npx --no-install openapi-typescript openapi.json --output $(TYPES_OUT)/schema.d.ts
	$(BIN)/python scripts/web_facts.py web/openapi.json $(FACTS_OUT)/facts.ts

# What the models say of the document, as a page.
docs: $(VENV)/.installed
	$(BIN)/python scripts/design_document.py

# Exact versions with hashes; no index address may get into the file.
lock:
	$(BIN)/pip-compile --quiet --extra dev --generate-hashes --allow-unsafe --strip-extras \
	  --no-emit-index-url --no-emit-find-links --no-emit-trusted-host --no-header --output-file requirements.lock pyproject.toml

migration: setup
	$(BIN)/python scripts/check_migrations.py --write "$(MESSAGE)"

clean:
	rm -rf $(VENV) web/node_modules src/tinhalo/web build
