"""What measures the program runs: a bench that has fallen behind it would tell nothing when it is asked."""

import sys
from pathlib import Path

import pytest

from bicentra.core.parts.job import Job

sys.path.insert(0, str(Path(__file__).parents[2] / "benchmarks"))

import growth


@pytest.mark.parametrize("row", growth.ROWS, ids=[row[0] for row in growth.ROWS])
def test_every_row_of_growth_works(demo: Job, row: tuple[object, ...]) -> None:
    """At its smallest size."""
    _, sizes, make = row
    make(demo, sizes[0])()


def test_an_exponent_is_that_of_a_power() -> None:
    """Time that grows as the square is told as 2; what is too short to tell as 0."""
    assert growth.exponent([1, 2, 4, 8], [3.0, 12.0, 48.0, 192.0]) == pytest.approx(2.0)
    assert growth.exponent([1, 2, 4, 8], [0.1, 0.2, 0.3, 0.4]) == 0.0
