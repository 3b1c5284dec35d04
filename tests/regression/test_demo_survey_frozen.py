"""Our own frozen figures of the demo's survey: they show that something has changed, not that it is right."""

import pytest

from bicentra.core.parts.job import Job
from bicentra.core.survey.corner import survey_corner


def test_the_demos_right_corner(demo: Job) -> None:
    """Places, chi-square, faces and index as of the first survey bench."""
    here = survey_corner(demo, "front-right")
    assert here.place("upper lug") == pytest.approx((-62.120, 41.958), abs=2e-3)
    assert here.place("lower lug") == pytest.approx((-62.349, -38.085), abs=2e-3)
    assert here.adjusted.dof == 5 and here.suspects == (2,)
    assert here.face("lower lug").z == pytest.approx(-73.745, abs=1e-6)
    assert [place.turn for place in here.index] == [0, 1, 2, 3] and here.best_index.turn == 2
    assert here.best_index.tir == pytest.approx(0.059, abs=1e-3)
