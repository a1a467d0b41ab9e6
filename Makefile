# Two commands do everything: `make demo` and `make test`. Both set up first.
PY ?= python3
BIN := .venv/bin
STAMP := .venv/.nullah-ready
COMPILED := .venv/.nullah-compiled
# tests run side by side, a processor each
ONE_EACH := OPENBLAS_NUM_THREADS=1 OMP_NUM_THREADS=1

.PHONY: setup demo test lint types contract check bench soak shots schema demo-file install uninstall clean

setup: $(COMPILED)

$(STAMP): pyproject.toml constraints.txt tools/system.sh
	bash tools/system.sh
	$(PY) -m venv .venv
	$(BIN)/python -m pip install --quiet --disable-pip-version-check --constraint constraints.txt --editable ".[dev]"
	$(BIN)/python -m compileall -q src
	touch $(STAMP)

# the inner loops of planner and plane, compiled once, so that nobody waits for it
$(COMPILED): $(STAMP) $(wildcard src/nullah/core/*/compiled/*.py) src/nullah/core/layout/merit.py
	$(BIN)/python tools/warm.py
	touch $(COMPILED)

demo: setup
	bash tools/demo.sh

lint: $(STAMP)
	$(BIN)/ruff check --no-cache src tests bench tools

types: $(STAMP)
	$(BIN)/mypy --cache-dir=.mypy_cache

contract: $(STAMP)
	$(BIN)/lint-imports --no-cache

# with `make -j2 test` the planner is compiled while the rest is checked
test: setup lint types contract
	$(ONE_EACH) QT_QPA_PLATFORM=offscreen $(BIN)/python -m pytest -n 2 --dist worksteal

bench: setup
	QT_QPA_PLATFORM=offscreen $(BIN)/python bench/bench.py

soak: setup
	$(ONE_EACH) QT_QPA_PLATFORM=offscreen NULLAH_SOAK=1 $(BIN)/python -m pytest -n 2 --dist worksteal --durations=40 tests -m "" -k "soak or property"

install:
	bash tools/install.sh

uninstall:
	bash tools/install.sh remove

shots: setup
	$(BIN)/nullah shots docs/screenshots

schema: setup
	$(BIN)/python tools/write_schema.py

demo-file: setup
	$(BIN)/python tools/write_demo.py

clean:
	rm -rf .venv build
