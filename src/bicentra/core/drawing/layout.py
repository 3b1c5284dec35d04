"""Finding room for texts: dimensions and notes cross neither each other nor the parts; what finds none goes into margins."""

import math
from collections.abc import Callable, Iterable
from functools import partial
from itertools import islice, pairwise

import numpy as np

from bicentra.core.base.records import Record, replace
from bicentra.core.drawing.model import Dimension, Drawing, Note
from bicentra.core.geometry.outline import FloatArray, Point

GAP = 3.0
"""What is kept free round a text [units]."""


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


CLEAR, LINE_GAP, LONGEST = 12.0, 4.0, 280.0
"""Between the parts and their margin, between lines of texts, and how long a leader may be [units]."""
_ROWS, _SHIFTS = tuple(range(6)), (0.0, 0.5, -0.5, 1.0, -1.0)
_STEPS = (0, 1, -1, 2, -2, 3, -3, 4, -4, 6, -6, 8, -8)
_DRAWN_TO = 40.0
"""How much longer a leader may be that goes the way its note prefers [units]."""

Leader = tuple[Point, Point]


class Margins(Record, frozen=True):
    """What texts stay clear of: ``parts`` within ``frame``, ``filled`` the boxes of what is drawn (n × 4) [units]."""

    parts: Box
    frame: Box
    filled: FloatArray

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


def crosses(box: Box, line: Leader) -> bool:
    """Tell whether a straight ``line`` passes through ``box`` (clipped side by side: Liang and Barsky, 1984, from memory)."""
    (x, y), (x1, y1) = line
    if (x < box.x0 > x1) or (x > box.x1 < x1) or (y < box.y0 > y1) or (y > box.y1 < y1):
        return False  # wholly to one side, as nearly all are
    start, end = 0.0, 1.0
    for step, low, high in ((x1 - x, box.x0 - x, box.x1 - x), (y1 - y, box.y0 - y, box.y1 - y)):
        if abs(step) < 1e-12:
            if low > 0 or high < 0:
                return False
            continue
        near, far = sorted((low / step, high / step))
        start, end = max(start, near), min(end, far)
        if start > end:
            return False
    return True


def cross(first: Leader, second: Leader) -> bool:
    """Tell whether two leaders cross each other between their ends."""

    def side(a: Point, b: Point, p: Point) -> float:
        return (b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])

    (a, b), (c, d) = first, second
    return side(a, b, c) * side(a, b, d) < 0 and side(c, d, a) * side(c, d, b) < 0


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
        return _key(self.tag, self.edits, self.text)


def _key(tag: str, edits: str, text: str) -> tuple[str, str, str]:
    first = text.split(" ", 1)[0]
    return tag, edits, "" if first[:1].isdigit() else first


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
    drawing: Drawing,
    scale: float,
    measure: Measure,
    frame: Box,
    taken: Iterable[Box] = (),
    on_line: bool = False,
    margins: bool = False,
    before: Iterable[Placed] = (),
) -> tuple[Placed, ...]:
    """Return the dimensions and notes of ``drawing`` in places where they meet nothing already placed.

    ``on_line``: an upright dimension that would have to leave its line is left out, instead of standing beside it.
    ``margins``: texts stand round the parts rather than over them, where there is room. ``before``: where the texts stood last;
    a note stays there while it can, so that nothing jumps about during a pull.
    ``frame`` is the visible rectangle and ``taken`` what must stay free, both in units with the drawing's origin at 0.
    """
    page = _Page(frame, taken, on_line)
    around = _around(drawing, scale, frame) if margins else None
    stood = {old.key: old for old in before}
    items: list[Dimension | Note] = [*drawing.dimensions, *drawing.notes]
    for item in sorted(
        items, key=lambda one: (margins and one.rank > 0 and isinstance(one, Note), one.rank, isinstance(one, Note))
    ):
        old = stood.get(_key(item.tag, item.edits, item.text))
        if old is not None and page.place(item, _where_it_stood(item, scale, measure, old, around)):
            continue
        if isinstance(item, Dimension):
            tries = _dimension_tries(item, scale, measure, around)
            placed = around is not None and not stood and page.place(item, (tries := tuple(tries)), strict=True)
            if not placed and not page.place(item, tries) and around is not None:
                page.place(item, _margin_tries(_as_note(item), scale, measure, around), strict=True)
        elif around is None or stood or not page.place(item, _margin_tries(item, scale, measure, around), strict=True):
            page.place(item, _note_tries(item, scale, measure))
    return tuple(page.placed)


def _around(drawing: Drawing, scale: float, frame: Box) -> Margins:
    x0, y0, x1, y1 = drawing.bounds
    filled = _boxes(shape.bounds for shape in drawing.shapes if shape.filled) * scale
    return Margins(Box(x0 * scale, y0 * scale, x1 * scale, y1 * scale), frame, filled)


def _where_it_stood(
    item: Dimension | Note, scale: float, measure: Measure, old: Placed, around: Margins | None
) -> Iterable[Try]:
    """Yield the place a text had in the drawing before: the same of its tries, or for a note the same spot of the sheet."""
    if isinstance(item, Dimension):
        for box, finish in islice(_dimension_tries(item, scale, measure, around), old.nth, old.nth + 1):
            yield box, partial(_again, finish, old.nth)
        return
    at = (item.at[0] * scale, item.at[1] * scale)
    box = _round(old.box.middle, *measure(item.text))
    end = (min(max(at[0], box.x0), box.x1), min(max(at[1], box.y0), box.y1))
    if math.dist(end, at) <= LONGEST:
        yield box, partial(_noted, item, at, end, _way(end, at))


def _again(finish: Callable[[Box], Placed], nth: int, box: Box) -> Placed:
    return replace(finish(box), nth=nth)


class _Page:
    """What has been placed so far, and whether a text finds room among it."""

    def __init__(self, frame: Box, taken: Iterable[Box], on_line: bool) -> None:
        self.placed: list[Placed] = []
        self._frame, self._on_line = frame, on_line
        self._held = _boxes((box.x0, box.y0, box.x1, box.y1) for box in taken)
        self._leaders: list[Leader] = []
        self._lines: list[Leader] = []

    def place(self, item: Dimension | Note, tries: Iterable[Try], strict: bool = False) -> bool:
        """Put ``item`` into the first place with room; ``strict``: no line of it runs through a text, nor a text over a line."""
        upright = isinstance(item, Dimension) and abs(item.along[0]) < abs(item.along[1])
        for nth, (box, finish) in enumerate(tries):
            there = box if self._on_line and upright else _into(box, self._frame)
            if self._free(there) and not (strict and any(crosses(there, line) for line in self._lines)):
                made = finish(there)
                if not (strict and self._tangled(made.lines, isinstance(item, Note))):
                    self._keep(made if made.nth or not nth else replace(made, nth=nth), isinstance(item, Note))
                    return True
        return False

    def _keep(self, made: Placed, note: bool) -> None:
        self.placed.append(made)
        self._lines += made.lines
        if note:
            self._leaders += made.lines

    def _free(self, box: Box) -> bool:
        return (
            box.inside(self._frame)
            and not any(box.meets(other.box) for other in self.placed)
            and not _meets_any(box, self._held)
        )

    def _tangled(self, lines: Iterable[Leader], leader: bool) -> bool:
        """Tell whether one of ``lines`` leaves the frame, runs through a text or, as a ``leader``, across another one."""
        return any(
            not all(Box(x, y, x, y).inside(self._frame) for x, y in line)
            or any(crosses(other.box, line) for other in self.placed)
            or (leader and any(cross(line, old) for old in self._leaders))
            for line in lines
        )


def _as_note(dim: Dimension) -> Note:
    """Return a dimension that finds no room on its lanes as a note with a leader to the middle of what it measures."""
    at = ((dim.a[0] + dim.b[0]) / 2, (dim.a[1] + dim.b[1]) / 2)
    return Note(at, dim.text, dim.tag, dim.rank, dim.edits, dim.verdict, dim.side, 0, dim.example)


def _margin_tries(note: Note, scale: float, measure: Measure, around: Margins) -> Iterable[Try]:
    """Yield places for a note where nothing is drawn: near by, then in the margins, at last anywhere near."""
    at, size = (note.at[0] * scale, note.at[1] * scale), measure(note.text)
    for box, finish in _note_tries(note, scale, measure):
        if box.inside(around.frame) and not _meets_any(box, around.filled):
            yield box, finish
    long = math.hypot(*note.prefer) or 1.0
    for box, end in around.spots(at, size, (note.prefer[0] / long, note.prefer[1] / long)):
        yield box, partial(_noted, note, at, end, _way(end, at))
    yield from _note_tries(note, scale, measure)  # over the parts, if it has to be, but over no line


def _way(start: Point, end: Point) -> Point:
    """Return the unit direction from ``start`` to ``end``."""
    long = math.dist(start, end) or 1.0
    return (end[0] - start[0]) / long, (end[1] - start[1]) / long


def _boxes(rows: Iterable[tuple[float, float, float, float]]) -> FloatArray:
    """Return boxes as an n × 4 array: left, bottom, right, top."""
    return np.array(list(rows), dtype=float).reshape(-1, 4)


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


def _dimension_tries(dim: Dimension, scale: float, measure: Measure, margins: Margins | None = None) -> Iterable[Try]:
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
            yield _round(middle, width, height), partial(_drawn, dim, (a, b), (first, last), cut)
        if dim.inline and math.dist(first, last) > 4 * ARROW:
            middle = ((first[0] + last[0]) / 2, (first[1] + last[1]) / 2)
            clear = (abs(dim.side[0]) * width + abs(dim.side[1]) * height) / 2 + GAP
            for way in (clear, -clear):
                beside = (middle[0] + dim.side[0] * way, middle[1] + dim.side[1] * way)
                yield _round(beside, width, height), partial(_drawn, dim, (a, b), (first, last), 0.01)
        if margins is not None:
            clear_of = (_round(spot, width, height) for spot in spots)
            for box in (box for box in clear_of if not _meets_any(box, margins.filled)):
                yield box, partial(_drawn, dim, (a, b), (first, last), 0.0)
        if margins is not None and not dim.inline and max(abs(ux), abs(uy)) > STRAIGHT:
            for box in _beside_parts((first, last), abs(ux) > abs(uy), (width, height), margins, dim.side[0] >= 0):
                yield box, partial(_drawn, dim, (a, b), (first, last), 0.0)
        for spot in spots:
            yield _round(spot, width, height), partial(_drawn, dim, (a, b), (first, last), 0.0)


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
    return Placed(note.text, box, ((at, end),), ((at, way),), note.tag, note.edits, note.verdict, note.example)
