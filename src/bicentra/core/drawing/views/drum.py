"""A drum brake seen from outboard with its drum off: shoes, wheel cylinder and anchor, dashed where a size is not known."""

import math

from bicentra.core.base.numbers import first_known
from bicentra.core.drawing.model import Drawing, Shape, Sheet
from bicentra.core.drawing.shapes import sector_loop
from bicentra.core.parts.brakes import Drum

DRUM_MM, CYLINDER_MM = 230.0, 19.0
"""What is drawn, dashed, while diameter and cylinder are unknown [mm]."""
LIP_MM, LINING_MM, SHOE_MM, REACH = 9.0, 5.0, 16.0, math.radians(58.0)
"""The drum's wall, thickness of lining and web, and half of what a lining spans: how such a brake looks, no size of anything."""


def drum_view(drum: Drum) -> Drawing:
    """Return the brake as far as it is known [mm], to be looked at only: no number is read off it."""
    sheet = Sheet()
    measured = drum.diameter_mm is not None
    ink, line = ("rotor", "solid") if measured else ("example", "hidden")
    inside = first_known(drum.diameter_mm, DRUM_MM) / 2
    sheet.ring((0.0, 0.0), inside, inside + LIP_MM, ink, "drum", line)
    lining = inside - LINING_MM
    for middle in (0.0, math.pi):
        for inner, outer, one in ((lining, inside - 1.0, "pad"), (lining - SHOE_MM, lining, "knuckle")):
            loop = sector_loop(inner, outer, middle - REACH, 2 * REACH)
            sheet.shape(Shape((loop,), one if measured else "example", "shoe", True, measured, line))
    bore = first_known(drum.cylinder_bore_mm, CYLINDER_MM)
    known = drum.cylinder_bore_mm is not None
    high, half = (lining - SHOE_MM) * math.sin(REACH) * 0.98, lining * math.cos(REACH) - SHOE_MM
    style = ("caliper", "cylinder", "solid") if known else ("example", "cylinder", "hidden")
    sheet.box(-half, high - bore / 2, half, high + bore / 2, *style)
    sheet.box(-half, -high - 8.0, half, -high + 8.0, "knuckle" if measured else "example", "anchor", line)
    sheet.circle((0.0, 0.0), inside * 0.28, "hub" if measured else "example", "hub", measured, line)
    return sheet.finish((-inside, -inside, inside, inside))
