"""Finding room for texts: dimensions and notes are placed so that they cross neither each other nor the frame.

Works in the back end's own small units (pixels, points): ``scale`` is units per mm. Texts that find no room are left
out, least important first; nothing is ever drawn over another text.
"""

import math
from collections.abc import Callable, Iterable
from functools import partial
from itertools import pairwise

import numpy as np

from bicentra.core.base.records import Record
from bicentra.core.drawing.model import Dimension, Drawing, Note
from bicentra.core.geometry.outline import FloatArray, Point

Measure = Callable[[str], tuple[float, float]]
LANE, FIRST_LANE, GAP, ARROW = 22.0, 16.0, 3.0, 7.0
"""Distance between dimension lines, of the first one from the part, round a text, and an arrow's length [units]."""
_REACH = (34.0, 52.0, 76.0, 104.0, 140.0)
_TURNS = tuple(
    (math.cos(turn), math.sin(turn)) for turn in (0.0, 0.4, -0.4, 0.8, -0.8, 1.2, -1.2, 1.7, -1.7, 2.3, -2.3, math.pi)
)


class Box(Record, frozen=True):
    """A rectangle in units: left, bottom, right, top."""

    x0: float
    y0: float
    x1: float
    y1: float

    def meets(self, other: "Box", gap: float = GAP) -> bool:
        """Tell whether the two come closer than ``gap`` [units]."""
        return (
            self.x0 < other.x1 + gap
            and other.x0 < self.x1 + gap
            and self.y0 < other.y1 + gap
            and other.y0 < self.y1 + gap
        )

    def inside(self, frame: "Box") -> bool:
        """Tell whether this lies wholly in ``frame``."""
        return self.x0 >= frame.x0 and self.y0 >= frame.y0 and self.x1 <= frame.x1 and self.y1 <= frame.y1

    @property
    def middle(self) -> Point:
        """The centre [units]."""
        return (self.x0 + self.x1) / 2, (self.y0 + self.y1) / 2


class Placed(Record, frozen=True):
    """A text in its place with the lines and arrowheads (tip, direction) that belong to it; all in units."""

    text: str
    box: Box
    lines: tuple[tuple[Point, Point], ...]
    arrows: tuple[tuple[Point, Point], ...]
    tag: str
    edits: str
    verdict: str
    ghost: bool = False


def along(line: Iterable[Point], scale: float, step: float = 4.0, half: float = 1.0) -> Iterable[Box]:
    """Yield small boxes along a ``line`` [mm], ``step`` apart and ``half`` wide [units]: what no text shall be written over."""
    points = [(x * scale, y * scale) for x, y in line]
    for (x0, y0), (x1, y1) in pairwise(points):
        count = max(math.ceil(math.hypot(x1 - x0, y1 - y0) / step), 1)
        for k in range(count + 1):
            x, y = x0 + (x1 - x0) * k / count, y0 + (y1 - y0) * k / count
            yield Box(x - half, y - half, x + half, y + half)


Try = tuple[Box, Callable[[Box], Placed]]
"""A box that a text may take, and what finishes it there; lines are only worked out for the box that is taken."""


def lay_out(
    drawing: Drawing, scale: float, measure: Measure, frame: Box, taken: Iterable[Box] = (), on_line: bool = False
) -> tuple[Placed, ...]:
    """Return the dimensions and notes of ``drawing`` in places where they meet nothing already placed.

    ``on_line``: an upright dimension that would have to leave its line is left out, instead of standing beside it.
    ``frame`` is the visible rectangle and ``taken`` what must stay free, both in units with the drawing's origin at 0.
    """
    boxes: list[Box] = []
    held = np.array([(box.x0, box.y0, box.x1, box.y1) for box in taken]).reshape(-1, 4)
    placed: list[Placed] = []
    items: list[Dimension | Note] = [*drawing.dimensions, *drawing.notes]
    for item in sorted(items, key=lambda one: (one.rank, isinstance(one, Note))):
        tries = (
            _dimension_tries(item, scale, measure) if isinstance(item, Dimension) else _note_tries(item, scale, measure)
        )
        for box, finish in tries:
            upright = isinstance(item, Dimension) and abs(item.along[0]) < abs(item.along[1])
            there = box if on_line and upright else _into(box, frame)
            if there.inside(frame) and not any(there.meets(other) for other in boxes) and not _meets_any(there, held):
                placed.append(finish(there))
                boxes.append(there)
                break
    return tuple(placed)


def _meets_any(box: Box, held: FloatArray, gap: float = GAP) -> bool:
    """Tell whether ``box`` comes closer than ``gap`` to one of ``held`` (n × 4) [units]."""
    x = (box.x0 < held[:, 2] + gap) & (held[:, 0] < box.x1 + gap)
    return bool((x & (box.y0 < held[:, 3] + gap) & (held[:, 1] < box.y1 + gap)).any())


def _into(box: Box, frame: Box) -> Box:
    """Return ``box`` pushed into ``frame`` sideways, by no more than its own width."""
    if box.inside(frame):
        return box
    wide = box.x1 - box.x0
    dx = max(frame.x0 - box.x0, 0.0) - max(box.x1 - frame.x1, 0.0)
    dx = max(-wide, min(wide, dx))
    return Box(box.x0 + dx, box.y0, box.x1 + dx, box.y1)


def _dimension_tries(dim: Dimension, scale: float, measure: Measure) -> Iterable[Try]:
    """Yield the places a dimension may take: text in the middle, past either end, then one lane further out."""
    width, height = measure(dim.text)
    ux, uy = dim.along
    a, b = (dim.a[0] * scale, dim.a[1] * scale), (dim.b[0] * scale, dim.b[1] * scale)
    if (b[0] - a[0]) * ux + (b[1] - a[1]) * uy < 0:
        a, b = b, a
    reach = abs(ux) * width + abs(uy) * height
    past = reach / 2 + ARROW * 2
    for lane in range(dim.lane, dim.lane + 5):
        out = dim.base * scale + (lane * LANE if dim.inline else FIRST_LANE + lane * LANE)
        first, last = _on_lane(a, dim.side, out), _on_lane(b, dim.side, out)
        spots = [(last[0] + ux * past, last[1] + uy * past), (first[0] - ux * past, first[1] - uy * past)]
        if math.dist(first, last) > reach + 4 * ARROW:
            cut = reach / 2 + GAP
            middle = ((first[0] + last[0]) / 2, (first[1] + last[1]) / 2)
            yield _round(middle, width, height), partial(_drawn, dim, (a, b), (first, last), cut)
        if dim.inline and math.dist(first, last) > 4 * ARROW:
            middle = ((first[0] + last[0]) / 2, (first[1] + last[1]) / 2)
            clear = (abs(dim.side[0]) * width + abs(dim.side[1]) * height) / 2 + GAP
            for way in (clear, -clear):
                beside = (middle[0] + dim.side[0] * way, middle[1] + dim.side[1] * way)
                yield _round(beside, width, height), partial(_drawn, dim, (a, b), (first, last), 0.01)
        for spot in spots:
            yield _round(spot, width, height), partial(_drawn, dim, (a, b), (first, last), 0.0)


def _round(spot: Point, width: float, height: float) -> Box:
    return Box(spot[0] - width / 2, spot[1] - height / 2, spot[0] + width / 2, spot[1] + height / 2)


def _drawn(dim: Dimension, points: tuple[Point, Point], ends: tuple[Point, Point], cut: float, box: Box) -> Placed:
    """Return a dimension with its lines: arrows from within when the text stands between them, ``cut`` from its
    middle, else from without."""
    (ux, uy), (first, last) = dim.along, ends
    lines = [_witness(point, end, dim.side) for point, end in zip(points, ends) if math.dist(point, end) > 1.0]
    if cut:
        middle = ((first[0] + last[0]) / 2, (first[1] + last[1]) / 2)
        lines.append((first, (middle[0] - ux * cut, middle[1] - uy * cut)))
        lines.append(((middle[0] + ux * cut, middle[1] + uy * cut), last))
        arrows = ((first, (ux, uy)), (last, (-ux, -uy)))
    else:
        tail = ARROW * 1.8
        lines.append(((first[0] - ux * tail, first[1] - uy * tail), first))
        lines.append((last, (last[0] + ux * tail, last[1] + uy * tail)))
        arrows = ((first, (-ux, -uy)), (last, (ux, uy)))
    return Placed(dim.text, box, tuple(lines), arrows, dim.tag, dim.edits, dim.verdict, dim.ghost)


def _on_lane(point: Point, side: Point, out: float) -> Point:
    """Return ``point`` moved along ``side`` until it lies ``out`` from the origin in that direction."""
    shift = out - (point[0] * side[0] + point[1] * side[1])
    return point[0] + side[0] * shift, point[1] + side[1] * shift


def _witness(point: Point, end: Point, side: Point) -> tuple[Point, Point]:
    """Return the thin line from the part to a little past the dimension line."""
    return (point[0] + side[0] * 2, point[1] + side[1] * 2), (end[0] + side[0] * 4, end[1] + side[1] * 4)


def _note_tries(note: Note, scale: float, measure: Measure) -> Iterable[Try]:
    """Yield places round a note's point, the preferred direction first, then ever further away."""
    width, height = measure(note.text)
    at = (note.at[0] * scale, note.at[1] * scale)
    long = math.hypot(*note.prefer) or 1.0
    px, py = note.prefer[0] / long, note.prefer[1] / long
    for reach in _REACH[note.far :]:
        for cos, sin in _TURNS:
            ux, uy = px * cos - py * sin, px * sin + py * cos
            end = (at[0] + ux * reach, at[1] + uy * reach)
            left = end[0] if ux >= 0 else end[0] - width
            box = Box(left, end[1] - height / 2, left + width, end[1] + height / 2)
            yield box, partial(_noted, note, at, end, (-ux, -uy))


def _noted(note: Note, at: Point, end: Point, way: Point, box: Box) -> Placed:
    if box.x0 < end[0] < box.x1:  # pushed sideways over its leader: that ends at the text's edge then
        end = (end[0], box.y0 if at[1] < box.y0 else box.y1 if at[1] > box.y1 else end[1])
    return Placed(note.text, box, ((at, end),), ((at, way),), note.tag, note.edits, note.verdict, note.ghost)
