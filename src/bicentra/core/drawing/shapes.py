"""Shapes that several drawings share."""

import math

from bicentra.core.drawing.model import Loop, Shape, Sheet
from bicentra.core.geometry.outline import Point


def sector_loop(inner: float, outer: float, start: float, sweep: float) -> Loop:
    """Return an annular sector about the origin from angle ``start`` over ``sweep`` [rad], less than a full turn."""
    a, b, bulge = start, start + sweep, math.tan(sweep / 4)
    return (
        (outer * math.cos(a), outer * math.sin(a), bulge),
        (outer * math.cos(b), outer * math.sin(b), 0.0),
        (inner * math.cos(b), inner * math.sin(b), -bulge),
        (inner * math.cos(a), inner * math.sin(a), 0.0),
    )


def arc_line(radius: float, start: float, sweep: float) -> Loop:
    """Return an open arc about the origin [mm, rad]."""
    a, b = start, start + sweep
    return (
        (radius * math.cos(a), radius * math.sin(a), math.tan(sweep / 4)),
        (radius * math.cos(b), radius * math.sin(b), 0.0),
    )


def centre_mark(sheet: Sheet, at: Point, reach: float, tag: str = "") -> None:
    """Add a cross of two centre lines [mm]."""
    x, y = at
    across = ((x - reach, y, 0.0), (x + reach, y, 0.0))
    up = ((x, y - reach, 0.0), (x, y + reach, 0.0))
    sheet.shape(Shape((across, up), "centre", tag, False, False, "centre"))


def arrow_head(tip: Point, way: Point, size: float, ink: str, tag: str = "") -> Shape:
    """Return a filled arrowhead of ``size`` [mm] with its tip at ``tip``, pointing along the unit vector ``way``."""
    (x, y), (ux, uy) = tip, way
    back, half = size, size * 0.4
    loop = (
        (x, y, 0.0),
        (x - ux * back - uy * half, y - uy * back + ux * half, 0.0),
        (x - ux * back + uy * half, y - uy * back - ux * half, 0.0),
    )
    return Shape((loop,), ink, tag)
