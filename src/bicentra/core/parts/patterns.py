"""Bolt patterns as they are spoken of: 5x108, 4 × 100, 5x4 1/2 in."""

import math
import re

from bicentra.core.base.errors import QuantityError
from bicentra.core.base.quantities import LENGTH, parse_quantity
from bicentra.core.base.records import Record
from bicentra.core.geometry.frame import ClockFrame

LEAST_HOLES, MOST_HOLES = 3, 12
EXAMPLE = "a pattern such as 5x108, 4x100 or 5x4.5in: three to twelve holes on a circle of 30 to 400 mm"
_PATTERN = re.compile(r"\s*(?P<count>\d{1,2})\s*[x×X*/]\s*(?P<circle>.+?)\s*")
LEAST_MM, MOST_MM = 30.0, 400.0


class Pattern(Record, frozen=True):
    """``count`` holes equally spaced on a circle of ``circle`` [mm]; the first one straight up unless turned."""

    count: int
    circle: float

    @property
    def name(self) -> str:
        """The pattern as it is spoken of."""
        return f"{self.count}×{self.circle:g}"

    def angles(self, turn_deg: float = 0.0) -> tuple[float, ...]:
        """Return the direction of each hole [degrees], turned by ``turn_deg``."""
        return tuple(90.0 + turn_deg + 360.0 * k / self.count for k in range(self.count))

    def centres(self, turn_deg: float = 0.0) -> tuple[tuple[float, float], ...]:
        """Return the centre of each hole [mm], turned by ``turn_deg`` about the axis."""
        radius = self.circle / 2
        return tuple(ClockFrame(angle).at(radius) for angle in self.angles(turn_deg))

    @property
    def chord(self) -> float:
        """Distance between neighbouring holes [mm]: circle·sin(180°/n)."""
        return self.circle * math.sin(math.pi / self.count)


def parse_pattern(text: str) -> Pattern:
    """Read a pattern. Raises ``QuantityError`` for anything that is none."""
    match = _PATTERN.fullmatch(text)
    if match is None:
        raise QuantityError(text, f"“{text[:40]}”", EXAMPLE)
    count, circle = int(match["count"]), parse_quantity(match["circle"], LENGTH)
    if not LEAST_HOLES <= count <= MOST_HOLES or not LEAST_MM <= circle <= MOST_MM:
        raise QuantityError(text, f"“{text[:40]}”", EXAMPLE)
    return Pattern(count, circle)
