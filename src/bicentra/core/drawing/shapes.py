"""Shapes that several drawings share, and a drawing made larger or smaller as a whole."""

import math

from bicentra.core.base.records import replace
from bicentra.core.drawing.model import Bounds, Dimension, Drawing, Loop, Note, Shape, Sheet, Text
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


def scaled(drawing: Drawing, factor: float) -> Drawing:
    """Return ``drawing`` with every place ``factor`` times as far from its origin, without handles."""
    return Drawing(
        tuple(_shape(shape, factor) for shape in drawing.shapes),
        tuple(_text(text, factor) for text in drawing.texts),
        tuple(_dimension(dimension, factor) for dimension in drawing.dimensions),
        tuple(_note(note, factor) for note in drawing.notes),
        (),
        _bounds(drawing.bounds, factor),
        drawing.examples,
        _bounds(drawing.spare, factor),
    )


def _at(point: Point, factor: float) -> Point:
    return point[0] * factor, point[1] * factor


def _bounds(bounds: Bounds, factor: float) -> Bounds:
    x0, y0, x1, y1 = bounds
    return x0 * factor, y0 * factor, x1 * factor, y1 * factor


def _shape(shape: Shape, factor: float) -> Shape:
    return replace(shape, loops=tuple(tuple((x * factor, y * factor, b) for x, y, b in loop) for loop in shape.loops))


def _text(text: Text, factor: float) -> Text:
    return replace(text, at=_at(text.at, factor))


def _dimension(one: Dimension, factor: float) -> Dimension:
    return replace(one, a=_at(one.a, factor), b=_at(one.b, factor), base=one.base * factor)


def _note(note: Note, factor: float) -> Note:
    return replace(note, at=_at(note.at, factor))
