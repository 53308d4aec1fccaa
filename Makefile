# make demo and make test create what they need: a virtual environment with the packages of pyproject.toml.

PYTHON ?= python3
VENV ?= .venv
BIN := $(VENV)/bin
READY := $(VENV)/.ready
READY_DEV := $(VENV)/.ready-dev
INSTALL := $(BIN)/python -m pip install --quiet --disable-pip-version-check

MINUTES ?= 1
SEED ?= 0
# Many tests drive a program in a pseudo-terminal and wait for it most of the time: two for each core.
WORKERS ?= $(shell echo $$((2 * $$(getconf _NPROCESSORS_ONLN))))

.PHONY: demo test nightly campaign check bench fuzz pictures clean

# Plan one exposure; where nobody is at a terminal, the demo plays by itself.
demo: $(READY)
	@if [ -t 0 ] && [ -t 1 ] && ( : < /dev/tty ) 2> /dev/null; \
	then PATH="$(CURDIR)/$(BIN):$$PATH" wesperon demo; \
	else PATH="$(CURDIR)/$(BIN):$$PATH" wesperon tour; fi

test: $(READY_DEV)
	PYTHONDONTWRITEBYTECODE= $(BIN)/python -m pytest --numprocesses=$(WORKERS)

check: $(READY_DEV)
	$(BIN)/ruff check .
	$(BIN)/ruff format --check .
	$(BIN)/mypy
	$(BIN)/python scripts/layers.py
	$(BIN)/python -m scripts.circles
	$(BIN)/python -m scripts.handlers
	$(BIN)/python scripts/docstrings.py

# Start-up is measured on compiled modules, as an installed package has them.
bench: $(READY_DEV)
	$(BIN)/python -m compileall -q src benchmarks
	$(BIN)/python benchmarks/startup.py
	$(BIN)/python benchmarks/ways.py
	$(BIN)/python benchmarks/commands.py
	$(BIN)/python benchmarks/argv.py
	$(BIN)/python benchmarks/first_question.py
	$(BIN)/python benchmarks/key.py
	$(BIN)/python benchmarks/menu.py
	$(BIN)/python benchmarks/narrowing.py
	$(BIN)/python benchmarks/editing.py
	$(BIN)/python benchmarks/history.py
	$(BIN)/python benchmarks/growth.py
	$(BIN)/python benchmarks/streams.py
	$(BIN)/python benchmarks/consoles.py
	$(BIN)/python benchmarks/stray.py
	$(BIN)/python benchmarks/progress.py
	$(BIN)/python benchmarks/pager.py
	$(BIN)/python benchmarks/screens.py
	$(BIN)/python -m tests.screen.least_bytes

# The properties with far more examples than make test has time for, and ten minutes of the campaign.
nightly: $(READY_DEV)
	PYTHONDONTWRITEBYTECODE= HYPOTHESIS_PROFILE=nightly $(BIN)/python -m pytest --numprocesses=$(WORKERS)
	$(MAKE) campaign MINUTES=10

# Real programs with random keys, signals, prints and sizes: make campaign MINUTES=10 SEED=7; SEED=0 is any.
campaign: $(READY_DEV)
	@$(BIN)/python -m campaign --minutes=$(MINUTES) --seed=$(SEED)

# Ten million random bytes through decoder, editor and painter; random keys in our line and in a real shell's.
fuzz: $(READY_DEV)
	$(BIN)/python benchmarks/fuzz.py
	$(BIN)/python -m tests.editing.shell_line 10000
	$(BIN)/python -m tests.editing.reference_editor 100000
	$(BIN)/python -m tests.editing.reference_editor 100000 lines

# Needs Xvfb, xterm, xdotool and ImageMagick.
pictures: $(READY_DEV)
	$(BIN)/python scripts/pictures.py

clean:
	rm -rf $(VENV) build dist .mypy_cache .pytest_cache .ruff_cache .hypothesis

$(VENV)/bin/python:
	$(PYTHON) -m venv $(VENV)

$(READY): pyproject.toml | $(VENV)/bin/python
	$(INSTALL) -e .
	touch $@

$(READY_DEV): pyproject.toml | $(VENV)/bin/python
	$(INSTALL) -e ".[dev]"
	touch $(READY) $@
