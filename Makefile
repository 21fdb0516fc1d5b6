# One command each. Without an argument: lint, types, tests.
.DEFAULT_GOAL := check
.PHONY: check setup demo test properties crash lint types web bench conformance load accuracy mutants record format lock openapi shots clean

PY := .venv/bin/python
RUN := .venv/.run
DEV := .venv/.dev
WEB := web/dist/index.html
PAGES := demo/skerry-light/.truth.json
PHOTOS := demo/photographs/.made
# Tests that each keep one core busy run side by side; those that start whole applications run one after the other.
SIDE_BY_SIDE := tests/core tests/reference tests/server
export DJANGO_SETTINGS_MODULE := hollowstack.server.config.settings

check: lint types test

setup: $(RUN)

# What the program needs to run: nothing but python3 and python3-venv.
$(RUN): requirements/bootstrap.txt requirements/run.txt pyproject.toml
	test -x $(PY) || python3 -m venv .venv
	.venv/bin/pip install --quiet --disable-pip-version-check --require-hashes -r requirements/bootstrap.txt
	.venv/bin/uv pip install --quiet --compile-bytecode --require-hashes -r requirements/run.txt
	.venv/bin/uv pip install --quiet --no-deps --no-build-isolation -e .
	touch $@

# What working on it needs besides.
$(DEV): $(RUN) requirements/dev.txt
	.venv/bin/uv pip install --quiet --compile-bytecode --require-hashes --no-deps -r requirements/dev.txt
	touch $@

web: $(WEB)

$(WEB): $(RUN) web/package-lock.json web/index.html web/vite.config.ts $(shell find web/src web/public -type f)
	bash scripts/web.sh run build
	touch $@

$(PAGES): $(RUN) $(wildcard src/hollowstack/standins/skerry/*.py)
	$(PY) -m hollowstack.standins.skerry.make $(@D)

$(PHOTOS): $(RUN) $(wildcard src/hollowstack/standins/skerry/*.py)
	$(PY) -m hollowstack.standins.skerry.photographs $(@D)
	touch $@

# A data folder of its own: the demo's made-up people and pages are nowhere else.
demo: export HOLLOWSTACK_DATA := demo/data
demo: export HOLLOWSTACK_DEMO := true
demo: export HOLLOWSTACK_STATION_NETWORKS := 127.0.0.0/8,::1/128
demo: export HOLLOWSTACK_DELIVERY_NETWORKS := 127.0.0.0/8,::1/128
demo: $(RUN) $(WEB) $(PAGES) $(PHOTOS)
	@$(PY) -m hollowstack.server.manage migrate --verbosity 0
	@$(PY) -m hollowstack.server.manage demo $(dir $(PAGES)) --stations 8351 8352 8353
	@$(PY) -m hollowstack.server.manage demo_destinations 8361 8362 8363
	@exec .venv/bin/hollowstack serve --stations 8351 8352 8353 --receivers 8361 8362 8363 8364

# Tests have settings of their own: quick passwords, simulated stations allowed, a data folder that is thrown away.
test: export DJANGO_SETTINGS_MODULE := tests.settings
test: $(DEV) $(WEB) $(PAGES) $(PHOTOS)
	bash scripts/system.sh
	$(PY) -m compileall -q src tests
	bash scripts/web.sh run test
ifdef ARGS
	$(PY) -m pytest $(ARGS)
else
	OPENCV_FOR_THREADS_NUM=1 $(PY) -m pytest -n 3 $(SIDE_BY_SIDE)
	$(PY) -m pytest -n 2 --dist loadfile --no-loadscope-reorder tests/whole
	$(PY) -m pytest -n 2 --dist loadfile tests/browser
endif

# Property tests with examples that no run has tried: many, and other ones each time. What they find gets a test of its own.
properties: export DJANGO_SETTINGS_MODULE := tests.settings
properties: $(DEV) $(WEB) $(PAGES) $(PHOTOS)
	bash scripts/system.sh
	HOLLOWSTACK_EXAMPLES=1000 OPENCV_FOR_THREADS_NUM=1 $(PY) -m pytest -n 2 -m hypothesis $(SIDE_BY_SIDE)

# What a power cut leaves, at two thousand places; kill -9 of any process at two hundred moments.
crash: $(DEV) $(PAGES)
	bash scripts/system.sh
	HOLLOWSTACK_CUTS=2000 HOLLOWSTACK_KILLS=200 DJANGO_SETTINGS_MODULE=tests.settings \
		$(PY) -m pytest -s tests/whole/test_power_cut.py tests/whole/test_killed.py

lint: $(DEV) web/node_modules/.installed
	.venv/bin/ruff check .
	.venv/bin/ruff format --check .
	.venv/bin/lint-imports
	bash scripts/web.sh run lint

types: $(DEV) web/node_modules/.installed
	.venv/bin/mypy
	bash scripts/web.sh run types

web/node_modules/.installed: $(RUN) web/package-lock.json
	bash scripts/web.sh --version

bench: $(DEV) $(WEB) $(PAGES)
	$(PY) benchmarks/speed.py
	$(PY) benchmarks/packing.py
	PYTHONPATH=. $(PY) benchmarks/yardstick.py
	PYTHONPATH=. $(PY) benchmarks/binding.py
	bash scripts/system.sh
	PYTHONPATH=. $(PY) benchmarks/queries.py
	PYTHONPATH=. $(PY) benchmarks/search.py
	PYTHONPATH=. $(PY) benchmarks/shelf.py
	PYTHONPATH=. $(PY) benchmarks/idle.py
	PYTHONPATH=. $(PY) benchmarks/arrange.py
	PYTHONPATH=. $(PY) benchmarks/preview.py
	PYTHONPATH=. $(PY) benchmarks/face.py
	PYTHONPATH=. $(PY) benchmarks/text.py
	PYTHONPATH=. $(PY) benchmarks/inspection.py
	PYTHONPATH=. $(PY) benchmarks/camera.py

# Five hundred documents of every flavour by the outside validator and by our own check.
conformance: $(DEV)
	bash scripts/system.sh
	PYTHONPATH=. $(PY) -m benchmarks.conformance

load: $(DEV) $(WEB)
	bash scripts/system.sh
	PYTHONPATH=. $(PY) benchmarks/load.py

accuracy: $(DEV) $(PAGES)
	PYTHONPATH=. $(PY) -m benchmarks.accuracy
	HOLLOWSTACK_RECORDED=all DJANGO_SETTINGS_MODULE=tests.settings $(PY) -m pytest -n auto tests/core/test_recorded.py

record: $(DEV)
	PYTHONPATH=. $(PY) scripts/record.py

mutants: $(DEV) $(PAGES)
	bash scripts/system.sh
	$(PY) scripts/mutants.py

format: $(DEV)
	.venv/bin/ruff check --fix .
	.venv/bin/ruff format .
	bash scripts/web.sh exec -- biome check --write src vite.config.ts

lock: $(RUN)
	bash scripts/lock.sh

openapi: $(DEV)
	$(PY) scripts/openapi.py
	bash scripts/web.sh run generate

shots: $(DEV) $(WEB) $(PAGES) $(PHOTOS)
	$(PY) scripts/shots.py

clean:
	rm -rf .venv web/node_modules web/dist var demo
