# make demo  – everything from a fresh clone to Valley in the browser, with demo songs
# make test  – everything from a fresh clone to a green test run
# Both rest on make setup. Second runs do again only what has changed.

SHELL := /bin/bash
.DEFAULT_GOAL := help
PY := .venv/bin/python
# Suites side by side take one thread each: two that both want all cores spend their time waiting for each other.
PYTEST := env OMP_NUM_THREADS=1 OPENBLAS_NUM_THREADS=1 $(PY) -m pytest
# What is imported is compiled once and kept; most of what is installed never is.
export PYTHONDONTWRITEBYTECODE :=
STAMPS := .stamps
SOURCES := $(shell find frontend/src frontend/public frontend/index.html frontend/vite.config.ts -type f 2>/dev/null)
BIND ?= 127.0.0.1:8000

.PHONY: help setup debian demo test explore fuzz lint test-core test-lessons test-hearing test-sound test-rules test-web test-frontend test-e2e build types bench songs wheel clean

help:
	@sed -n 's/^# \(make .*\)/\1/p' Makefile

setup: $(STAMPS)/python $(STAMPS)/node

$(STAMPS)/python: requirements.lock pyproject.toml
	@mkdir -p $(STAMPS)
	@tools/ensure_python.sh
	.venv/bin/python -m pip install --quiet uv==0.13.8
	.venv/bin/uv pip sync --quiet requirements.lock
	.venv/bin/uv pip install --quiet --no-deps --no-build-isolation -e .
	@.venv/bin/python -m compileall -q src tests  # every command and every worker starts the sooner
	@touch $@

$(STAMPS)/node: frontend/package.json frontend/package-lock.json
	@mkdir -p $(STAMPS)
	cd frontend && npm ci --no-audit --no-fund --loglevel=error
	@touch $@

debian:
	@tools/ensure_debian.sh

build: setup frontend/dist/index.html

frontend/dist/index.html: $(STAMPS)/node $(SOURCES)
	cd frontend && npm run --silent build -- --logLevel warn

demo: build
	$(PY) manage.py migrate --verbosity 0
	$(PY) manage.py load_demo
	$(PY) manage.py serve --bind $(BIND)

# Three suites at a time on two cores: the first of the core's while Node's packages are fetched, then at once the browser's and the web's, which take longest
# and often wait, and the others in the gaps (they come AFTER); the core's goes in four pieces, so that none is left alone at the end. Each is told when it is over.
test:
	@$(MAKE) --no-print-directory --jobs 3 --output-sync=target AFTER=build test-e2e test-web test-lessons test-hearing test-sound test-rules lint test-frontend
	@echo "All of Valley's tests passed."

lint: $(STAMPS)/python
	.venv/bin/ruff check .
	.venv/bin/ruff format --check .
	nice .venv/bin/mypy
	.venv/bin/lint-imports

# What teaches and checks, what is run as a command, what listens and arranges; and all other rules of the core.
LESSONS := lesson checking
SOUND := arranging audio composer listening
test-core: test-lessons test-hearing test-sound test-rules

test-hearing test-sound test-rules lint test-frontend: $(AFTER)

test-lessons: $(STAMPS)/python
	nice $(PYTEST) $(addprefix tests/core/,$(LESSONS))

test-hearing: $(STAMPS)/python
	nice $(PYTEST) tests/core/pipeline

test-sound: $(STAMPS)/python
	nice $(PYTEST) $(addprefix tests/core/,$(SOUND))

test-rules: $(STAMPS)/python
	nice $(PYTEST) tests/core $(addprefix --ignore=tests/core/,$(LESSONS) pipeline $(SOUND)) src/valley

test-web: build debian
	nice $(PYTEST) tests/web src/valley_web

test-frontend: $(STAMPS)/node
	cd frontend && nice npm run --silent lint && nice npm run --silent typecheck && nice npm run --silent test

test-e2e: build debian
	$(PY) -m pytest tests/e2e

# Property tests with other examples than the usual ones, and more of them; what fails is printed.
explore: setup
	VALLEY_EXAMPLES=explore $(PYTEST) tests/core

# Thousands of requests drawn from the API's description and of damaged files (a quarter of an hour); the usual tests try a slice of both.
fuzz: build
	VALLEY_FUZZ_FILES=2400 $(PYTEST) tests/core/formats/test_damaged_files.py
	VALLEY_FUZZ_TIMES=50 $(PYTEST) tests/web/test_drawn_requests.py

# The API's description and the types made of it; tests/web fails while either is out of date.
types: setup
	$(PY) manage.py export_openapi_schema --api valley_web.config.api.api --indent 1 --sorted --output docs/openapi.json
	cd frontend && npm run --silent types

# Valley beside a textbook recipe on a folder of songs with truth: make bench SONGS=folder
bench: setup
	$(PY) bench/run.py $(SONGS)
	$(PY) bench/shelf.py

# One wheel with everything inside, for: pip install dist/valley-*.whl && valley serve --demo
wheel: build
	tools/make_wheel.sh dist

# Render the demo songs anew (needs Debian's fluidsynth and fluid-soundfont-gm).
songs: setup
	$(PY) demo/render.py

clean:
	rm -rf dist .venv $(STAMPS) frontend/node_modules frontend/dist
