"""Where sheet metal neither stretches nor shortens in a bend: DIN 6935, its rule K = 0.65 + ½ lg(R/t) up to K = 1 at R = 5 t.

From memory, no copy at hand: K of the standard is twice the neutral line's share of the thickness.
"""

import math

import pytest

from bicentra.core.bracket.fold import bend_allowance, neutral_factor


@pytest.mark.parametrize(
    ("radius", "thickness", "k"), [(10.0, 10.0, 0.65), (20.0, 10.0, 0.8005), (50.0, 10.0, 1.0), (60.0, 10.0, 1.0)]
)
def test_the_neutral_line(radius: float, thickness: float, k: float) -> None:
    """½ K of the rule; lg 2 = 0.3010."""
    assert neutral_factor(radius, thickness) == pytest.approx(k / 2, abs=5e-4)


def test_what_a_bend_takes() -> None:
    """A right angle about R = t = 10: a quarter turn of radius 10 + 0.325 · 10, 20.81 mm."""
    assert bend_allowance(90.0, 10.0, 10.0) == pytest.approx(math.pi / 2 * 13.25)
