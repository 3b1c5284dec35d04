"""A drawing made larger or smaller as a whole, its texts and notes of the same size at their places."""

from bicentra.core.base.records import replace
from bicentra.core.drawing.model import Bounds, Dimension, Drawing, Note, Shape, Text
from bicentra.core.geometry.outline import Point


def scaled(drawing: Drawing, factor: float) -> Drawing:
    """Return ``drawing`` with every place ``factor`` [no unit] times as far from its origin, without handles."""
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
