"""Shared fixtures: the demo job, a hand-sized job, and a state folder that is thrown away."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from hypothesis import settings

from bicentra.core.base.records import replace
from bicentra.core.parts.job import Job
from bicentra.study.document.starting import demo_job

settings.register_profile("calm", deadline=None, derandomize=True, max_examples=40)
settings.load_profile("calm")


@pytest.fixture(autouse=True)
def _own_folders(tmp_path_factory: pytest.TempPathFactory, monkeypatch: pytest.MonkeyPatch) -> Iterator[None]:
    """Keep settings and recovery copies of a test away from the user's own."""
    folder = tmp_path_factory.mktemp("xdg")
    for name in ("XDG_STATE_HOME", "XDG_CONFIG_HOME", "XDG_DATA_HOME"):
        monkeypatch.setenv(name, str(folder))
    return


@pytest.fixture
def demo() -> Job:
    """The demo job as it ships: two findings say stop."""
    return demo_job()


@pytest.fixture
def good(demo: Job) -> Job:
    """The demo job with both of its faults cured."""
    return replace(demo, bracket=replace(demo.bracket, thickness_mm=None, caliper_bolt_length_mm=None))


@pytest.fixture
def demo_path() -> Path:
    """The file of the demo vehicle."""
    from bicentra.data import data_path
    from bicentra.study.document.starting import DEMO

    return data_path("demo", DEMO)


@pytest.fixture
def old_path() -> Path:
    """The demo as it shipped in version 1 of the file: one corner, everything at the top."""
    return Path(__file__).parent / "data" / "old" / "float-front-right.v1.bicentra.json"
