"""What the core says of a dozen jobs, against what it said when somebody last looked: nothing changes unseen."""

import pytest

from bicentra.study.document.starting import demo_job
from tests.regression.chance import CHANCE
from tests.regression.jobs import JOBS, KEPT
from tests.regression.records import kept, record
from tests.regression.telling import unlike


@pytest.mark.parametrize("name", KEPT)
def test_nothing_changes_unseen(name: str) -> None:
    """Every line as it was kept: change the core, read what it changed, then ``make records``."""
    assert unlike(record(JOBS[name](demo_job())), kept(name)) == []


@pytest.mark.parametrize("name", CHANCE)
def test_nothing_put_together_by_chance_changes_unseen(name: str) -> None:
    """The same for what chance puts together, and for the range of every field."""
    assert unlike(list(CHANCE[name]()), kept(name)) == []


def test_a_change_is_told_as_a_person_would_mark_it() -> None:
    """A number off by rounding is alike; one that moved, a word, a line more are told as they were and as they are."""
    assert unlike(["plate 12.0001 mm, -0.5"], ["plate 12 mm, -0.5"]) == []
    assert unlike(["plate 12.01 mm"], ["plate 12 mm"]) == ["- plate 12 mm", "+ plate 12.01 mm"]
    assert unlike(["stop x: 1"], ["ok x: 1"]) == ["- ok x: 1", "+ stop x: 1"]
    assert unlike(["a", "b"], ["a"]) == ["1 lines have become 2"]
