"""What the core says of a score of jobs, against what it said when somebody last looked: nothing changes unseen."""

import math

import pytest

from tests.regression.jobs import JOBS
from tests.regression.others import OTHERS
from tests.regression.records import SECTIONS, Line, kept, record

SHARE, LEAST = 1e-9, 2e-4
"""How far sums may differ, as a share of their size and at least [unit of the numbers summed]."""


@pytest.mark.parametrize("name", JOBS)
@pytest.mark.parametrize("section", SECTIONS)
def test_nothing_changes_unseen(name: str, section: str) -> None:
    """Every line as it was kept: change the core, look at what it changed, then ``make records``."""
    _alike_all(record(name, section), kept(f"{name}.{section}"))


@pytest.mark.parametrize("name", OTHERS)
def test_nothing_put_together_by_chance_changes_unseen(name: str) -> None:
    """The same for what chance puts together, and for the limits of every field."""
    _alike_all(list(OTHERS[name]()), kept(f"any.{name}"))


def _alike_all(now: list[Line], before: list[Line]) -> None:
    assert [line[0] for line in now] == [line[0] for line in before]
    assert [one[0] for one, other in zip(now, before) if not _alike(one, other)] == []


def _alike(one: Line, other: Line) -> bool:
    (_, many, total, weighed, words), (_, many_before, total_before, weighed_before, words_before) = one, other
    close = [
        math.isclose(a, b, rel_tol=SHARE, abs_tol=LEAST) for a, b in ((total, total_before), (weighed, weighed_before))
    ]
    return many == many_before and words == words_before and all(close)
