"""What every part's drawing is made with: known sizes, plausible ones where none is known, dimensions that can be typed over."""

import math

from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.model import Dimension, Note, Sheet, circle_loop
from bicentra.core.drawing.model import Shape as Drawn
from bicentra.core.drawing.views.example import BLANK
from bicentra.core.geometry.outline import Point

UP, DOWN, LEFT, RIGHT = (0.0, 1.0), (0.0, -1.0), (-1.0, 0.0), (1.0, 0.0)


class Draft:
    """One record of a job on a sheet. ``prefix``: its key path; ``placeholders``: sizes by key to draw where none is known.

    No placeholder sizes is ever written out: it shows as a blank, and what stands on it is dotted.
    """

    def __init__(
        self, sheet: Sheet, prefix: str, record: object, placeholders: dict[str, float], lengths: LengthFormat
    ) -> None:
        self.sheet, self.prefix, self.record, self.lengths = sheet, prefix, record, lengths
        self._placeholders = placeholders

    def on(self, sheet: Sheet) -> "Draft":
        """Return the same record to be drawn on another ``sheet``."""
        return Draft(sheet, self.prefix, self.record, self._placeholders, self.lengths)

    def size(self, key: str) -> float:
        """Return the size called ``key``, or a plausible one [unit of the key]."""
        value = getattr(self.record, key)
        return float(value) if value is not None and is_known(known(value)) else self._placeholders.get(key, math.nan)

    def has(self, *keys: str) -> bool:
        """Tell whether all of ``keys`` are measured."""
        return all(getattr(self.record, key) is not None for key in keys)

    def box(self, x0: float, y0: float, x1: float, y1: float, ink: str, *keys: str) -> None:
        """Add a rectangle [mm], dotted unless all of ``keys`` that it stands on are measured."""
        self.area(((x0, y0), (x1, y0), (x1, y1), (x0, y1)), ink, *keys)

    def area(self, points: tuple[Point, ...], ink: str, *keys: str) -> None:
        """Add a polygon [mm], dotted unless all of ``keys`` that it stands on are measured."""
        there = self.has(*keys)
        style = (ink, True, "solid") if there else ("example", False, "hidden")
        self.sheet.polygon(points, style[0], self._tag, style[1], style[2])

    def circle(self, centre: Point, diameter: float, ink: str, *keys: str, filled: bool = True) -> None:
        """Add a circle of ``diameter`` [mm], dotted unless all of ``keys`` that it stands on are measured."""
        there = self.has(*keys)
        self.sheet.circle(
            centre,
            diameter / 2,
            ink if there else "example",
            self._tag,
            filled and there,
            "solid" if there else "hidden",
        )

    def ring(self, centre: Point, inner: float, outer: float, ink: str, *keys: str) -> None:
        """Add what lies between two circles by their diameters [mm], dotted unless all of ``keys`` are measured."""
        if not self.has(*keys):
            self.circle(centre, outer, ink, *keys)
            self.circle(centre, inner, ink, *keys)
            return
        loops = (circle_loop(centre, outer / 2), circle_loop(centre, inner / 2))
        self.sheet.shape(Drawn(loops, ink, self._tag, True, True, "solid"))

    def axis(self, a: Point, b: Point) -> None:
        """Add a centre line [mm]."""
        self.sheet.line((a, b), "centre", "axle", "centre")

    def across(
        self,
        key: str,
        name: str,
        a: Point,
        b: Point,
        along: Point,
        side: Point,
        base: float,
        lane: int = 0,
        rank: int = 1,
    ) -> None:
        """Add the dimension of ``key`` between ``a`` and ``b``, ``base`` [mm] out along ``side``."""
        text, example = self._text(key, name)
        path = f"{self.prefix}.{key}"
        self.sheet.dimension(Dimension(a, b, along, side, base, text, path, lane, rank, path, "", example))

    def note(self, key: str, name: str, at: Point, prefer: Point, rank: int = 1) -> None:
        """Add the number of ``key`` with a leader to the place ``at`` [mm] that it speaks of."""
        text, example = self._text(key, name)
        path = f"{self.prefix}.{key}"
        self.sheet.note(Note(at, text, path, rank, path, prefer=prefer, example=example))

    def heading(self, at: Point, text: str) -> None:
        """Add the name of a view above ``at`` [mm]."""
        self.sheet.note(Note(at, text, "", 3, prefer=UP))

    @property
    def _tag(self) -> str:
        return self.prefix.split(".")[-1].split("[")[0]

    def _text(self, key: str, name: str) -> tuple[str, bool]:
        value = getattr(self.record, key)
        if value is None:
            return f"{name} {BLANK}", True
        if isinstance(value, int | float) and key.endswith("_mm"):
            return f"{name} {self.lengths.size(float(value)).replace('-', '−')}", False
        return f"{name} {f'{value:g}' if isinstance(value, int | float) else value}", False


def around(centre: Point, circle_mm: float, count: int, first: float = math.pi / 2) -> tuple[Point, ...]:
    """Return ``count`` places on a circle of diameter ``circle_mm`` [mm] from the angle ``first`` [rad]."""
    turns = (first + 2 * math.pi * k / count for k in range(count))
    return tuple((centre[0] + circle_mm / 2 * math.cos(t), centre[1] + circle_mm / 2 * math.sin(t)) for t in turns)
