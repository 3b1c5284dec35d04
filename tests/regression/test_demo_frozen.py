"""Our own figures for the demo job, frozen. Not a proof of anything: a change here has to be meant."""

import pytest

from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.job import Job
from bicentra.core.search.clock import search_clock
from tests.jobs import net


def test_plate_of_the_demo(demo: Job) -> None:
    """Area and mass of the plate as first drawn."""
    solution = solve(demo)
    assert net(solution) == pytest.approx(7932.87, abs=0.1)
    assert solution.mass_kg == pytest.approx(0.25703, abs=0.0001)


def test_window_of_the_demo(demo: Job) -> None:
    """One feasible window behind the axle, best at 180°."""
    found = search_clock(demo)
    assert found is not None
    assert [(w.start, w.end, w.best) for w in found.windows] == [(165.75, 188.0, 180.0)]
