"""Unit factors against a general units package (pint), which carries the definitions of NIST SP 811.

Only factors are compared: how pint reads mixed fractions is known to be wrong for the shop.
"""

import pint
import pytest

from bicentra.core.base.quantities import LENGTH_MM, MASS_KG, TORQUE_NM

UNITS = pint.UnitRegistry()


@pytest.mark.parametrize(
    ("ours", "theirs"), [("in", "inch"), ("thou", "thou"), ("ft", "foot"), ("cm", "cm"), ("µm", "um")]
)
def test_length_factors(ours: str, theirs: str) -> None:
    """Every length unit is worth what the outside package says."""
    assert float(LENGTH_MM[ours]) == pytest.approx(UNITS.Quantity(1, theirs).to("mm").magnitude, rel=1e-12)


@pytest.mark.parametrize(
    ("ours", "theirs"),
    [("lbf ft", "lbf * foot"), ("in lbf", "lbf * inch"), ("kgf m", "kgf * m"), ("n m", "newton * meter")],
)
def test_torque_factors(ours: str, theirs: str) -> None:
    """Every torque unit is worth what the outside package says."""
    assert float(TORQUE_NM[ours]) == pytest.approx(UNITS.Quantity(1, theirs).to("newton * meter").magnitude, rel=1e-12)


def test_mass_factors() -> None:
    """The pound and the ounce."""
    assert float(MASS_KG["lb"]) == pytest.approx(UNITS.Quantity(1, "lb").to("kg").magnitude, rel=1e-12)
    assert float(MASS_KG["oz"]) == pytest.approx(UNITS.Quantity(1, "oz").to("kg").magnitude, rel=1e-12)
