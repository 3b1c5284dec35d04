"""How many stops a set of pads lasts, as far as a rule of thumb tells."""

from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.heat.stops import Heated
from bicentra.core.parts.vehicle import Pad

MM3_PER_MJ, TOO_HOT, BAND = 50.0, 4.0, 2.0
"""Pad worn away by a megajoule, how much faster beyond the pads' range, and the factor either way it is good for: rule
of thumb, no source, worked back from pads that last some 40,000 km in town.
"""


def stops_of_pads(pad: Pad, area: float, one: Heated) -> float:
    """Return how many stops like those of ``one`` [stops, no unit] two pads of ``area`` [mm2] each last from new to worn.

    The stops of the train count each with its own peak: a pad that is beyond its range wears faster.
    """
    deep = known(pad.thickness_mm) - known(pad.min_thickness_mm)
    if not is_known(deep, area, one.energy, *one.peaks) or deep <= 0.0 or one.energy <= 0.0 or not one.peaks:
        return UNKNOWN
    most = known(pad.to_c)
    if not is_known(most):
        return UNKNOWN
    worn = sum(TOO_HOT if peak > most else 1.0 for peak in one.peaks) / len(one.peaks)
    return 2.0 * area * deep / (MM3_PER_MJ * one.energy / 1e6 * worn)
