"""The places a text may take: a dimension on its lanes, a note round its point, both in the margins beside the parts."""

import math
from collections.abc import Callable, Iterable
from functools import partial

from bicentra.core.base.records import Record
from bicentra.core.drawing.boxes import GAP, Box, Rect, meets_any
from bicentra.core.drawing.model import Dimension, Note
from bicentra.core.geometry.outline import Point

CLEAR, LINE_GAP, LONGEST = 12.0, 4.0, 280.0
"""Between the parts and their margin, between lines of texts, and how long a leader may be [units]."""
_ROWS, _SHIFTS = tuple(range(6)), (0.0, 0.5, -0.5, 1.0, -1.0)
_STEPS = (0, 1, -1, 2, -2, 3, -3, 4, -4, 6, -6, 8, -8)
_DRAWN_TO = 40.0
"""How much longer a leader may be that goes the way its note prefers [units]."""


class Margins(Record, frozen=True):
    """What texts stay clear of: ``parts`` within ``frame``, ``filled`` the boxes of what is drawn [units]."""

    parts: Box
    frame: Box
    filled: tuple[Rect, ...]

    def spots(self, at: Point, size: tuple[float, float], prefer: Point) -> list[tuple[Box, Point]]:
        """Return boxes in the margins for a text of ``size`` that speaks of ``at``, each with its leader's end, the best first.

        ``prefer`` is the unit direction it would rather go. Leaders are at most ``LONGEST``.
        """
        found: list[tuple[float, Box, Point]] = []
        for box, end in (*self._columns(at, size), *self._rows(at, size)):
            if box.inside(self.frame):
                dx, dy = end[0] - at[0], end[1] - at[1]
                long = math.hypot(dx, dy)
                if 1e-9 < long <= LONGEST:
                    found.append((long - _DRAWN_TO * (dx * prefer[0] + dy * prefer[1]) / long, box, end))
        return [(box, end) for _, box, end in sorted(found, key=lambda row: row[0])]

    def _columns(self, at: Point, size: tuple[float, float]) -> Iterable[tuple[Box, Point]]:
        width, height = size
        for edge, left in ((self.parts.x0 - CLEAR, True), (self.parts.x1 + CLEAR, False)):
            x0 = edge - width if left else edge
            if x0 < self.frame.x0 or x0 + width > self.frame.x1:
                continue
            for step in _STEPS:
                y = at[1] + step * (height + LINE_GAP)
                yield Box(x0, y - height / 2, x0 + width, y + height / 2), (edge, y)

    def _rows(self, at: Point, size: tuple[float, float]) -> Iterable[tuple[Box, Point]]:
        width, height = size
        for row in _ROWS:
            out = CLEAR + row * (height + LINE_GAP)
            for y0, end in ((self.parts.y1 + out, 0.0), (self.parts.y0 - out - height, height)):
                for shift in _SHIFTS:
                    x0 = at[0] + (shift - 0.5) * width
                    x0 = max(min(x0, self.frame.x1 - width), self.frame.x0)
                    yield (
                        Box(x0, y0, x0 + width, y0 + height),
                        (max(x0 + GAP, min(at[0], x0 + width - GAP)), y0 + end),
                    )


Measure = Callable[[str], tuple[float, float]]
LANE, FIRST_LANE, ARROW = 22.0, 16.0, 7.0
"""Distance between dimension lines, of the first one from the part, and an arrow's length [units]."""
STRAIGHT = 0.9995
"""Cosine from which a dimension line counts as level or upright: only such a one runs on to a text in the margin."""
_REACH = (34.0, 52.0, 76.0, 104.0, 140.0)
_TURNS = tuple(
    (math.cos(turn), math.sin(turn)) for turn in (0.0, 0.4, -0.4, 0.8, -0.8, 1.2, -1.2, 1.7, -1.7, 2.3, -2.3, math.pi)
)


class Placed(Record, frozen=True):
    """A text in its place with the lines and arrowheads (tip, direction) that belong to it, in units; ``nth`` counts
    its places.
    """

    text: str
    box: Box
    lines: tuple[tuple[Point, Point], ...]
    arrows: tuple[tuple[Point, Point], ...]
    tag: str
    edits: str
    verdict: str
    example: bool = False
    nth: int = 0

    @property
    def key(self) -> tuple[str, str, str]:
        """What a text is known by from one drawing to the next, whatever its number has become."""
        return label_key(self.tag, self.edits, self.text)


def label_key(tag: str, edits: str, text: str) -> tuple[str, str, str]:
    """Return what a text is known by, whatever its number is."""
    first = text.split(" ", 1)[0]
    return tag, edits, "" if first[:1].isdigit() else first


Try = tuple[Box, Callable[[Box], Placed]]
"""A box that a text may take, and what finishes it there; lines are only worked out for the box that is taken."""


def as_note(dim: Dimension) -> Note:
    """Return a dimension that finds no room on its lanes as a note with a leader to the middle of what it measures."""
    at = ((dim.a[0] + dim.b[0]) / 2, (dim.a[1] + dim.b[1]) / 2)
    return Note(at, dim.text, dim.tag, dim.rank, dim.edits, dim.verdict, dim.side, 0, dim.example)


def margin_tries(note: Note, scale: float, measure: Measure, around: Margins) -> Iterable[Try]:
    """Yield places for a note where nothing is drawn: near by, then in the margins, at last anywhere near."""
    at, size = (note.at[0] * scale, note.at[1] * scale), measure(note.text)
    for box, finish in note_tries(note, scale, measure):
        if box.inside(around.frame) and not meets_any(box, around.filled):
            yield box, finish
    long = math.hypot(*note.prefer) or 1.0
    for box, end in around.spots(at, size, (note.prefer[0] / long, note.prefer[1] / long)):
        yield box, partial(noted, note, at, end, way_to(end, at))
    yield from note_tries(note, scale, measure)  # over the parts, if it has to be, but over no line


def way_to(start: Point, end: Point) -> Point:
    """Return the unit direction from ``start`` to ``end``."""
    long = math.dist(start, end) or 1.0
    return (end[0] - start[0]) / long, (end[1] - start[1]) / long


def dimension_tries(dim: Dimension, scale: float, measure: Measure, margins: Margins | None = None) -> Iterable[Try]:
    """Yield the places a dimension may take: text in the middle, in the margin, past either end, then one lane further out."""
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
            yield round_about(middle, width, height), partial(_drawn, dim, (a, b), (first, last), cut)
        if dim.inline and math.dist(first, last) > 4 * ARROW:
            middle = ((first[0] + last[0]) / 2, (first[1] + last[1]) / 2)
            clear = (abs(dim.side[0]) * width + abs(dim.side[1]) * height) / 2 + GAP
            for way in (clear, -clear):
                beside = (middle[0] + dim.side[0] * way, middle[1] + dim.side[1] * way)
                yield round_about(beside, width, height), partial(_drawn, dim, (a, b), (first, last), 0.01)
        if margins is not None:
            clear_ones = (round_about(spot, width, height) for spot in spots)
            for box in (box for box in clear_ones if not meets_any(box, margins.filled)):
                yield box, partial(_drawn, dim, (a, b), (first, last), 0.0)
        if margins is not None and not dim.inline and max(abs(ux), abs(uy)) > STRAIGHT:
            for box in _beside_parts((first, last), abs(ux) > abs(uy), (width, height), margins, dim.side[0] >= 0):
                yield box, partial(_drawn, dim, (a, b), (first, last), 0.0)
        for spot in spots:
            yield round_about(spot, width, height), partial(_drawn, dim, (a, b), (first, last), 0.0)


def _beside_parts(
    ends: tuple[Point, Point], level: bool, size: tuple[float, float], margins: Margins, rightward: bool
) -> Iterable[Box]:
    """Yield boxes left and right of the parts at a dimension line's height, the nearer first (``level``), or its own side."""
    (width, height), y = size, (ends[0][1] + ends[1][1]) / 2
    edges = (margins.parts.x0 - CLEAR - width, margins.parts.x1 + CLEAR)
    x = (ends[0][0] + ends[1][0]) / 2
    right_first = abs(edges[1] - x) < abs(x - edges[0] - width) if level else rightward
    for x0 in edges[::-1] if right_first else edges:
        if x0 >= margins.frame.x0 and x0 + width <= margins.frame.x1:
            yield Box(x0, y - height / 2, x0 + width, y + height / 2)


def round_about(spot: Point, width: float, height: float) -> Box:
    """Return a box of that size about ``spot`` [units]."""
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
        within = math.dist(first, last) > 4 * ARROW  # room for the arrows between the ends, though not for the text
        before, after = _tails(box, ends, (ux, uy), 0.0 if within else ARROW * 1.8)
        if within:
            lines.append((first, last))
        if before > 0.0:
            lines.append(((first[0] - ux * before, first[1] - uy * before), first))
        if after > 0.0:
            lines.append((last, (last[0] + ux * after, last[1] + uy * after)))
        if abs(ux) < abs(uy):  # a text in the margin beside an upright line: a leader from the line's middle
            x, y = (first[0] + last[0]) / 2, (first[1] + last[1]) / 2
            edge = box.x0 if box.x0 > x else box.x1
            if abs(edge - x) > ARROW and box.y0 < y < box.y1:
                lines.append(((x, y), (edge, y)))
        out = -1.0 if within else 1.0
        arrows = ((first, (-ux * out, -uy * out)), (last, (ux * out, uy * out)))
    return Placed(dim.text, box, tuple(lines), arrows, dim.tag, dim.edits, dim.verdict, dim.example)


def _tails(box: Box, ends: tuple[Point, Point], along: Point, tail: float) -> tuple[float, float]:
    """Return how far a dimension line runs on before its first end and past its last one: to its text, if that lies there, and at
    least by ``tail`` [units]."""
    (ux, uy), (first, last) = along, ends
    x, y = box.middle
    half = (abs(ux) * (box.x1 - box.x0) + abs(uy) * (box.y1 - box.y0)) / 2 + 1.0
    before = (first[0] - x) * ux + (first[1] - y) * uy - half
    after = (x - last[0]) * ux + (y - last[1]) * uy - half
    return max(tail, before), max(tail, after)


def _on_lane(point: Point, side: Point, out: float) -> Point:
    """Return ``point`` moved along ``side`` until it lies ``out`` from the origin in that direction."""
    shift = out - (point[0] * side[0] + point[1] * side[1])
    return point[0] + side[0] * shift, point[1] + side[1] * shift


def _witness(point: Point, end: Point, side: Point) -> tuple[Point, Point]:
    """Return the thin line from the part to a little past the dimension line."""
    return (point[0] + side[0] * 2, point[1] + side[1] * 2), (end[0] + side[0] * 4, end[1] + side[1] * 4)


def note_tries(note: Note, scale: float, measure: Measure) -> Iterable[Try]:
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
            yield box, partial(noted, note, at, end, (-ux, -uy))


def noted(note: Note, at: Point, end: Point, way: Point, box: Box) -> Placed:
    """Return a note in ``box`` with its leader from ``end`` to ``at``, the arrow in direction ``way`` [units]."""
    if box.x0 < end[0] < box.x1:  # pushed sideways over its leader: that ends at the text's edge then
        end = (end[0], box.y0 if at[1] < box.y0 else box.y1 if at[1] > box.y1 else end[1])
    return Placed(note.text, box, ((at, end),), ((at, way),), note.tag, note.edits, note.verdict, note.example)
