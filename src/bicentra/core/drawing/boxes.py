"""Boxes that texts take, in the back end's own small units (pixels, points)."""

from bicentra.core.base.records import Record
from bicentra.core.geometry.outline import Point

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
