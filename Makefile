# make demo         set up .venv and open the demo (on a virtual screen when there is no display)
# make install      put Bicentra into your desktop: menu entry, icon, and its jobs open by a double click; make uninstall takes it out
# make test         set up and run every test, format, lint and type check, without a monitor
# make soak         5000 random jobs of every kind through every paper (JOBS=n SEED=s)
# make bench        medians and ratios of the speed targets
# make coverage     lines of the core that its own tests run, a part of make test; fails below 92 %
# make growth       time and memory against size, up to every limit
# make mutants      small faults put into core and formats one at a time: which does no test notice? (PACKAGE=lineup FAULTS=n SEED=s)
# make records      writes anew what the core says of a score of jobs: first look at what changed (tests/regression)
# make screenshots  renew docs/screenshots from the demo job
SHELL := /bin/bash
PY := .venv/bin/python
STAMP := .venv/.ready
DEV := .venv/.ready-dev
# Seconds after which the tests are ended, green or red, so that a run never hangs; a machine a fifth as fast needs half of it.
LONGEST := 4500
# Tests that run nearly every line of the core: with them its coverage is asked, which takes half as long again; the others follow.
COVERED := tests/regression tests/gallery tests/validation tests/study tests/core/practice tests/core/parts tests/core/survey \
  tests/core/trialfit tests/core/hydraulics tests/core/test_planted_dangers.py tests/core/test_by_hand.py tests/core/test_right_jobs.py

.PHONY: setup setup-dev demo install uninstall test quick soak bench coverage growth records mutants screenshots clean

setup: $(STAMP)
setup-dev: $(DEV)

$(STAMP): pyproject.toml requirements.lock
	./scripts/system-libraries.sh
	test -x $(PY) || python3 -m venv .venv
	$(PY) -m pip install --quiet --disable-pip-version-check --require-hashes --no-deps -r requirements.lock
	$(PY) -m pip install --quiet --disable-pip-version-check --no-deps -e .
	touch $(STAMP)

$(DEV): $(STAMP) requirements-dev.lock requirements-bare.lock
	$(PY) -m pip install --quiet --disable-pip-version-check --require-hashes --no-deps -r requirements-dev.lock -r requirements-bare.lock
	touch $(DEV)

demo: $(STAMP)
	./scripts/demo.sh

install: $(STAMP)
	.venv/bin/bicentra desktop install

uninstall: $(STAMP)
	.venv/bin/bicentra desktop uninstall

test: $(DEV)
	$(PY) -m ruff format --check src tests benchmarks scripts
	$(PY) -m ruff check src tests benchmarks scripts
	$(PY) -m mypy
	.venv/bin/lint-imports --no-cache
	$(PY) scripts/check_wheel.py
	QT_QPA_PLATFORM=offscreen timeout --kill-after=60 $(LONGEST) $(PY) -m pytest -q -n 2 --dist load tests $(addprefix --ignore=,$(COVERED))
	$(MAKE) --no-print-directory coverage

quick: $(DEV)
	QT_QPA_PLATFORM=offscreen $(PY) -m pytest -q -x tests/core tests/formats tests/study tests/validation

soak: $(DEV)
	QT_QPA_PLATFORM=offscreen $(PY) scripts/soak.py $(or $(JOBS),5000) $(or $(SEED),1)

bench: $(DEV)
	QT_QPA_PLATFORM=offscreen $(PY) benchmarks/bench.py

coverage: $(DEV)
	mkdir -p .mutants
	QT_QPA_PLATFORM=offscreen COVERAGE_FILE=$(CURDIR)/.mutants/lines timeout --kill-after=60 $(LONGEST) $(PY) -m pytest -q -n 2 --dist load \
	  --cov=bicentra.core --cov-report=term:skip-covered --cov-fail-under=92 $(COVERED)

growth: $(DEV)
	$(PY) benchmarks/growth.py

records: $(DEV)
	$(PY) -m tests.regression.write

mutants: $(DEV)
	$(PY) scripts/mutants.py $(or $(PACKAGE),all) $(or $(FAULTS),60) $(or $(SEED),1)

screenshots: $(DEV)
	QT_QPA_PLATFORM=offscreen $(PY) scripts/screenshots.py docs/screenshots

clean:
	rm -rf .venv build src/*.egg-info .mypy_cache .ruff_cache .hypothesis
