"""Twist drills that are sold by name in the inch system: sixty-fourths and letters (ASME B94.11M, from memory)."""

from fractions import Fraction

LETTERS_IN = (
    0.234, 0.238, 0.242, 0.246, 0.250, 0.257, 0.261, 0.266, 0.272, 0.277, 0.281, 0.290, 0.295,
    0.302, 0.316, 0.323, 0.332, 0.339, 0.348, 0.358, 0.368, 0.377, 0.386, 0.397, 0.404, 0.413,
)  # fmt: skip
"""Letter drills A to Z [in]."""
SAME_MM = 0.05
"""How far a named drill may be from the size that is asked for, to be called by its name [mm]."""


def inch_drill(diameter_mm: float) -> str:
    """Return the name of the inch drill that makes a hole of ``diameter_mm`` [mm]: ``17/32``, ``Z``; empty where there
    is none.
    """
    inches = diameter_mm / 25.4
    sixty_fourth = Fraction(round(inches * 64), 64)
    named = [(abs(float(sixty_fourth) - inches), str(sixty_fourth))]
    named += [(abs(size - inches), chr(ord("A") + k)) for k, size in enumerate(LETTERS_IN)]
    off, name = min(named)
    return name if 0 < inches <= 1.0 and off * 25.4 <= SAME_MM else ""
