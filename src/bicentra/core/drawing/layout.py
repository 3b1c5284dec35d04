"""Finding room for texts: dimensions and notes are placed so that they cross neither each other nor the frame.

Works in the back end's own small units (pixels, points): ``scale`` is units per mm. Texts that find no room are left
out, least important first; nothing is ever drawn over another text.
"""

import math
from collections.abc import Callable, Iterable
from dataclasses import dataclass, replace

from bicentra.core.base.outline import Point
from bicentra.core.drawing.model import Dimension, Drawing, Note

Measure = Callable[[str], tuple[float, float]]
LANE, FIRST_LANE, GAP, ARROW = 22.0, 16.0, 3.0, 7.0
"""Distance between dimension lines, of the first one from the part, round a text, and an arrow's length [units]."""
_REACH = (34.0, 52.0, 76.0, 104.0, 140.0)


@dataclass(frozen=True)
class Box:
    """A rectangle in units: left, bottom, right, top."""

    x0: float
    y0: float
    x1: float
    y1: float

    def meets(self, other: "Box", gap: float = GAP) -> bool:
        """Tell whether the two come closer than ``gap``."""
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
        """The centre."""
        return (self.x0 + self.x1) / 2, (self.y0 + self.y1) / 2


@dataclass(frozen=True)
class Placed:
    """A text in its place with the lines and arrowheads (tip, direction) that belong to it; all in units."""

    text: str
    box: Box
    lines: tuple[tuple[Point, Point], ...]
    arrows: tuple[tuple[Point, Point], ...]
    tag: str
    edits: str
    verdict: str


def lay_out(
    drawing: Drawing, scale: float, measure: Measure, frame: Box, taken: Iterable[Box] = ()
) -> tuple[Placed, ...]:
    """Return the dimensions and notes of ``drawing`` in places where they meet nothing already placed.

    ``frame`` is the visible rectangle and ``taken`` what must stay free, both in units with the drawing's origin at 0.
    """
    boxes = list(taken)
    placed: list[Placed] = []
    items: list[Dimension | Note] = [*drawing.dimensions, *drawing.notes]
    for item in sorted(items, key=lambda one: (one.rank, isinstance(one, Note))):
        tries = (
            _dimension_tries(item, scale, measure) if isinstance(item, Dimension) else _note_tries(item, scale, measure)
        )
        for choice in tries:
            there = _into(choice, frame)
            if there.box.inside(frame) and not any(there.box.meets(box) for box in boxes):
                placed.append(there)
                boxes.append(there.box)
                break
    return tuple(placed)


def _into(choice: Placed, frame: Box) -> Placed:
    """Return ``choice`` with its text pushed into ``frame``, by no more than the text's own width."""
    box = choice.box
    if box.inside(frame):
        return choice
    wide = box.x1 - box.x0
    dx = max(frame.x0 - box.x0, 0.0) - max(box.x1 - frame.x1, 0.0)
    dx = max(-wide, min(wide, dx))
    return replace(choice, box=Box(box.x0 + dx, box.y0, box.x1 + dx, box.y1))


def _dimension_tries(dim: Dimension, scale: float, measure: Measure) -> Iterable[Placed]:
    """Yield the places a dimension may take: text in the middle, past either end, then one lane further out."""
    width, height = measure(dim.text)
    (ux, uy), (sx, sy) = dim.along, dim.side
    a, b = (dim.a[0] * scale, dim.a[1] * scale), (dim.b[0] * scale, dim.b[1] * scale)
    if (b[0] - a[0]) * ux + (b[1] - a[1]) * uy < 0:
        a, b = b, a
    for lane in range(dim.lane, dim.lane + 5):
        out = dim.base * scale + FIRST_LANE + lane * LANE
        ends = [_on_lane(p, dim.side, out) for p in (a, b)]
        span = math.dist(*ends)
        reach = abs(ux) * width + abs(uy) * height
        past = reach / 2 + ARROW * 2
        middle = ((ends[0][0] + ends[1][0]) / 2, (ends[0][1] + ends[1][1]) / 2)
        inside = span > reach + 4 * ARROW
        spots = [middle] if inside else []
        spots += [(ends[1][0] + ux * past, ends[1][1] + uy * past), (ends[0][0] - ux * past, ends[0][1] - uy * past)]
        for place, spot in enumerate(spots):
            box = Box(spot[0] - width / 2, spot[1] - height / 2, spot[0] + width / 2, spot[1] + height / 2)
            lines = [_witness(p, end, (sx, sy)) for p, end in zip((a, b), ends)]
            if inside and place == 0:
                cut = reach / 2 + GAP
                lines += [
                    (ends[0], (middle[0] - ux * cut, middle[1] - uy * cut)),
                    ((middle[0] + ux * cut, middle[1] + uy * cut), ends[1]),
                ]
                arrows = ((ends[0], (ux, uy)), (ends[1], (-ux, -uy)))
            else:
                tail = ARROW * 1.8
                lines += [
                    ((ends[0][0] - ux * tail, ends[0][1] - uy * tail), ends[0]),
                    (ends[1], (ends[1][0] + ux * tail, ends[1][1] + uy * tail)),
                ]
                arrows = ((ends[0], (-ux, -uy)), (ends[1], (ux, uy)))
            yield Placed(dim.text, box, tuple(lines), arrows, dim.tag, dim.edits, dim.verdict)


def _on_lane(point: Point, side: Point, out: float) -> Point:
    """Return ``point`` moved along ``side`` until it lies ``out`` from the origin in that direction."""
    shift = out - (point[0] * side[0] + point[1] * side[1])
    return point[0] + side[0] * shift, point[1] + side[1] * shift


def _witness(point: Point, end: Point, side: Point) -> tuple[Point, Point]:
    """Return the thin line from the part to a little past the dimension line."""
    return (point[0] + side[0] * 2, point[1] + side[1] * 2), (end[0] + side[0] * 4, end[1] + side[1] * 4)


def _note_tries(note: Note, scale: float, measure: Measure) -> Iterable[Placed]:
    """Yield places round a note's point, the preferred direction first, then ever further away."""
    width, height = measure(note.text)
    at = (note.at[0] * scale, note.at[1] * scale)
    first = math.atan2(note.prefer[1], note.prefer[0])
    for reach in _REACH[note.far :]:
        for turn in (0.0, 0.4, -0.4, 0.8, -0.8, 1.2, -1.2, 1.7, -1.7, 2.3, -2.3, math.pi):
            ux, uy = math.cos(first + turn), math.sin(first + turn)
            end = (at[0] + ux * reach, at[1] + uy * reach)
            left = end[0] if ux >= 0 else end[0] - width
            box = Box(left, end[1] - height / 2, left + width, end[1] + height / 2)
            yield Placed(note.text, box, ((at, end),), ((at, (-ux, -uy)),), note.tag, note.edits, note.verdict)
