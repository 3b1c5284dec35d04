"""Room round the parts: notes and dimensions that would lie over what is drawn go into margins, each with its leader.

Works in the back end's own small units (pixels, points), like ``layout``.
"""

import math
from collections.abc import Iterable

from bicentra.core.base.records import Record
from bicentra.core.drawing.boxes import GAP, Box
from bicentra.core.geometry.outline import FloatArray, Point

CLEAR, LINE_GAP, LONGEST = 12.0, 4.0, 150.0
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
