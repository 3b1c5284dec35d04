"""The datum of a made part: two of its holes, which a machinist sets up by; every place is counted from them."""

import math
from itertools import pairwise

from bicentra.core.base.records import Record
from bicentra.core.bracket.model import MadePart
from bicentra.core.geometry.outline import Outline, Point

Numbers = tuple[int, int]


class Datum(Record, frozen=True):
    """``holes``: their numbers, the first at the origin, the line to the second the X axis; Y to its left as the sheet is seen.

    ``origin`` and ``axis`` (of length 1) in the part's own frame; ``mirrored``: the sheet shows the part's mirror image [mm].
    """

    holes: Numbers
    origin: Point
    axis: Point
    mirrored: bool = False

    def at(self, point: Point) -> Point:
        """Return X and Y of a ``point`` of the part's own frame [mm]."""
        dx, dy = point[0] - self.origin[0], point[1] - self.origin[1]
        (u, v), sign = self.axis, -1.0 if self.mirrored else 1.0
        return dx * u + dy * v + 0.0, sign * (dy * u - dx * v) + 0.0

    def outline(self, outline: Outline) -> Outline:
        """Return an outline of the part's own frame as it lies on the sheet [mm]."""
        shown = outline.mirrored() if self.mirrored else outline
        x, y, cos, sin = self.seen
        return Outline(tuple(
            ((u - x) * cos + (v - y) * sin, (v - y) * cos - (u - x) * sin, bulge) for u, v, bulge in shown.vertices
        ))  # fmt: skip

    @property
    def seen(self) -> tuple[float, float, float, float]:
        """Origin and axis as the sheet shows them: x, y [mm], cosine, sine [no unit]."""
        sign = -1.0 if self.mirrored else 1.0
        return sign * self.origin[0], self.origin[1], sign * self.axis[0], self.axis[1]


def datum_of(part: MadePart, holes: Numbers | None = None, mirrored: bool = False) -> Datum | None:
    """Return the datum of ``part`` by the ``holes`` asked for, else by its first two; ``None`` with fewer than two holes.

    Holes that the part has not, or twice the same one, count as not asked.
    """
    first, second = holes if holes is not None and _has(part, holes) else (1, 2)
    if len(part.bores) < 2:
        return None
    a, b = part.bores[first - 1].centre, part.bores[second - 1].centre
    long = math.dist(a, b)
    if not long > 1e-6:
        return None
    return Datum((first, second), a, ((b[0] - a[0]) / long, (b[1] - a[1]) / long), mirrored != part.mirrored)


def _has(part: MadePart, holes: Numbers) -> bool:
    return holes[0] != holes[1] and all(1 <= number <= len(part.bores) for number in holes)


def pitches(part: MadePart) -> tuple[tuple[int, int, float], ...]:
    """Return the holes that mate with one other part, two and two: their numbers and how far apart they are [mm].

    A part that says by itself where its holes are (``text``) has none.
    """
    if part.text:
        return ()
    groups: dict[str, list[int]] = {}
    for number, bore in enumerate(part.bores, 1):
        groups.setdefault(bore.feature.split("-")[0], []).append(number)
    found = []
    for numbers in groups.values():
        for one, other in pairwise(numbers):
            found.append((one, other, math.dist(part.bores[one - 1].centre, part.bores[other - 1].centre)))
    return tuple(found)
