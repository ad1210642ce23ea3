# Five words a newcomer needs: demo, test, check, bench, shots. See README.md.

PY := .venv/bin/python
SIDE_BY_SIDE := $(MAKE) --no-print-directory -j3
WEB_SOURCES := $(shell find web/src web/public -type f 2>/dev/null) web/index.html web/vite.config.ts

.PHONY: demo test check format bench heat study judge signatures shots tables types lock setup-run setup-dev

demo: setup-run web/dist/index.html  ## set up, build, start with the demo data
	@NUDGE_DATA="$${NUDGE_DATA:-data/demo}" .venv/bin/nudge demo

test:  ## set up, check, run every test
	@$(SIDE_BY_SIDE) setup-python setup-node setup-browser
	@$(MAKE) --no-print-directory check
	@$(PY) -m tools.run_tests

check:  ## format, lint and types, both languages
	@$(SIDE_BY_SIDE) setup-python setup-node
	@$(SIDE_BY_SIDE) check-lint check-python check-web

.PHONY: check-lint check-python check-web
check-python: setup-python
	@.venv/bin/ruff format --check --quiet . || (echo "Run 'make format'." && false)
	@.venv/bin/ruff check --quiet .
	@.venv/bin/mypy

check-lint: setup-node
	@cd web && npm run --silent lint

check-web: setup-dev web/dist/index.html
	@$(PY) -m tools.api_types --check
	@cd web && npm run --silent check

format: setup-dev
	@.venv/bin/ruff check --fix --quiet . ; .venv/bin/ruff format --quiet .
	@cd web && npm run --silent format

bench: setup-dev web/dist/index.html  ## the measured figures, medians and ratios
	@tools/setup.sh browser
	@$(PY) -m tools.bench

heat: setup-dev  ## heating visits on the plant: arithmetic, healthy left alone, nothing moved
	@$(PY) -m tools.heat_study

.PHONY: winter zero defrost
winter: setup-dev  ## suspects in heating, by tables made without the family they are met in
	@$(PY) -m tools.suspects_study heating

zero: setup-dev  ## superheat that reads none, followed to its named outcome
	@$(PY) -m tools.zero_study

.PHONY: rooms
rooms: setup-dev  ## suspects in cold rooms, boxes in time, vehicles after a repair
	@$(PY) -m tools.suspects_study freezer
	@$(PY) -m tools.suspects_study cooler
	@$(PY) -m tools.box_study
	@$(PY) -m tools.vehicle_study

.PHONY: zones
zones: setup-dev  ## logs of multi-zone plants, by tables made without their family
	@$(PY) -m tools.zone_study

defrost: setup-dev  ## defrosts watched: is what is missing named, are healthy ones left alone
	@$(PY) -m tools.defrost_study

study: setup-dev  ## how often settling and the probe checks are right
	@$(PY) -m tools.study

judge: setup-dev  ## how well the judge judges systems it was not made from
	@$(PY) -m tools.judge_study

signatures: setup-dev  ## the judge's tables, from the simulated plant and its cousins
	@$(PY) -m tools.make_signatures --fresh

shots: setup-dev web/dist/index.html  ## docs/screenshots from the demo data
	@tools/setup.sh browser
	@$(PY) -m tools.shots

tables: setup-dev  ## the packaged refrigerant and state tables, from CoolProp
	@$(PY) -m tools.make_tables
	@$(PY) -m tools.make_states

types: setup-dev web/node_modules/.ready  ## the front end's types, from the OpenAPI document
	@$(PY) -m tools.api_types

lock:  ## pin every version again (needs uv)
	uv pip compile -q pyproject.toml --python-version 3.11 --universal --generate-hashes -o requirements.lock
	uv pip compile -q pyproject.toml --extra dev --python-version 3.11 --universal --generate-hashes -o requirements-dev.lock

setup-run: .venv/.ready-run
setup-dev: setup-python setup-node
.PHONY: setup-python setup-node setup-browser
setup-python: .venv/.ready-dev
	@true
setup-node: web/node_modules/.ready
	@true
setup-browser:
	@tools/setup.sh browser

.venv/.ready-run: requirements.lock pyproject.toml tools/setup.sh
	@tools/setup.sh python requirements.lock && touch $@

.venv/.ready-dev: requirements-dev.lock pyproject.toml tools/setup.sh
	@tools/setup.sh python requirements-dev.lock && touch $@ .venv/.ready-run

web/node_modules/.ready: web/package-lock.json tools/setup.sh
	@tools/setup.sh node && touch $@

web/dist/index.html: web/node_modules/.ready $(WEB_SOURCES)
	@cd web && npm run --silent build -- --logLevel warn
	@if [ -x .venv/bin/python ]; then .venv/bin/python -m tools.licences web/dist; fi
	@touch web/dist/index.html

.PHONY: audit fuzz hostile kills shop
audit: setup-dev web/node_modules/.ready  ## known weaknesses of what ships (needs the registries)
	@tools/audit.sh

fuzz: setup-dev web/dist/index.html  ## 20 minutes of requests the document allows, and does not
	@$(PY) -m tools.fuzz $${FUZZ_SECONDS:-1200}

kills: setup-dev web/dist/index.html  ## 100 pulled plugs: what was answered is still there
	@$(PY) -m tools.kills

shop: setup-dev web/dist/index.html  ## a shop at work for three minutes: errors, times, memory
	@$(PY) -m tools.shop_load

hostile: setup-dev web/dist/index.html  ## 200 bundles made hostile, sent at a running Nudge
	@$(PY) -m tools.hostile

.PHONY: books
books: setup-dev  ## the rule tables in docs/, from the code's own tables
	@$(PY) -m tools.books

.PHONY: charge responses drift wander decisions
decisions: setup-dev  ## harm, use, one voice, doses in vain: what the one decision does
	@$(PY) -m tools.decision_study

charge: setup-dev  ## how well the dose advisor charges, in closed loop
	@$(PY) -m tools.charge_study
	@$(PY) -m tools.charge_study 24 8 left

responses: setup-dev  ## the book of charge responses, from the simulated plant
	@$(PY) -m tools.make_responses

repairs: setup-dev  ## compressors swapped, from the open circuit to the trimmed charge
	@$(PY) -m tools.repair_study

drift: setup-dev  ## how often a drift between two visits is flagged, and how often for nothing
	@$(PY) -m tools.drift_study
	@$(PY) -m tools.drift_study 24 left
	@$(PY) -m tools.drift_study 60 heating
	@$(PY) -m tools.drift_study 24 heating left

wander: setup-dev  ## the table of drift, from the simulated plant
	@$(PY) -m tools.make_drift
