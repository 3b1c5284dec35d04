"""Boxes round texts and the lines that lead to them: which of many meet, and which lines run through them."""

import math
from collections.abc import Iterable
from itertools import pairwise

from bicentra.core.base.records import Record
from bicentra.core.geometry.outline import Point

GAP = 3.0
"""What is kept free round a text [units]."""
Leader = tuple[Point, Point]
Rect = tuple[float, float, float, float]


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


def crosses(box: Box, line: Leader) -> bool:
    """Tell whether a straight ``line`` passes through ``box`` (clipped side by side: Liang and Barsky, 1984, from memory)."""
    (x, y), (x1, y1) = line
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


def along(line: Iterable[Point], scale: float, step: float = 4.0, half: float = 1.0) -> Iterable[Box]:
    """Yield small boxes along a ``line`` [mm], ``step`` apart and ``half`` wide [units]: what no text shall be written over."""
    points = [(x * scale, y * scale) for x, y in line]
    for (x0, y0), (x1, y1) in pairwise(points):
        count = max(math.ceil(math.hypot(x1 - x0, y1 - y0) / step), 1)
        for k in range(count + 1):
            x, y = x0 + (x1 - x0) * k / count, y0 + (y1 - y0) * k / count
            yield Box(x - half, y - half, x + half, y + half)


def meets_any(box: Box, held: Iterable[Rect], gap: float = GAP) -> bool:
    """Tell whether ``box`` comes closer than ``gap`` [units] to one of ``held``. A plain loop: there are a few dozen at most."""
    left, low, right, high = box.x0 - gap, box.y0 - gap, box.x1 + gap, box.y1 + gap
    for x0, y0, x1, y1 in held:  # noqa: SIM110 - half as fast with any()
        if x0 < right and left < x1 and y0 < high and low < y1:
            return True
    return False


def crosses_any(box: Box, lines: Iterable[Leader]) -> bool:
    """Tell whether one of ``lines`` passes through ``box``."""
    left, low, right, high = rect_of(box)
    for line in lines:
        (x, y), (x1, y1) = line
        if (x < left > x1) or (x > right < x1) or (y < low > y1) or (y > high < y1):
            continue  # wholly to one side, as nearly all are
        if crosses(box, line):
            return True
    return False


def rect_of(box: Box) -> Rect:
    """Return left, bottom, right, top of ``box`` [units]."""
    return box.x0, box.y0, box.x1, box.y1
