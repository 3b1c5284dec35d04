"""In what two states of a vehicle differ, in a few words: what would be lost if one of them were given up."""

from typing import Any

from bicentra.core.parts.fields import fields, is_described
from bicentra.core.parts.vehicle import Axle, Corner, Vehicle

MOST_NAMED = 8
WORDS = {
    "drawn_by": "drawn by", "checked_by": "checked by", "display_units": "units", "issued": "revisions given out",
    "vehicle": "chassis",
}  # fmt: skip
PASSED = {"corner", "format", "version", "extra"}
"""What is no work that could be lost."""


def differing(one: Vehicle, other: Vehicle) -> tuple[str, ...]:
    """Return what differs between two states, named: ``rotor of the front axle``, ``survey of front right``, ``notes``."""
    found = [WORDS.get(name, name) for name in _unlike(one, other) if name not in ("axles", "corners")]
    for axle in dict.fromkeys((*one.axles, *other.axles)):
        names = _unlike(one.axles.get(axle, Axle()), other.axles.get(axle, Axle()))
        found += [f"{name} of the {axle} axle" for name in names]
    for corner in dict.fromkeys((*one.corners, *other.corners)):
        names = _unlike(one.corners.get(corner, Corner()), other.corners.get(corner, Corner()))
        found += [f"{name} of {corner.replace('-', ' ')}" for name in names]
    return tuple(found)


def diff_text(one: Vehicle, other: Vehicle) -> str:
    """Return the same as one line; empty where nothing differs."""
    found = differing(one, other)
    left = len(found) - MOST_NAMED
    return ", ".join([*found[:MOST_NAMED], *([f"and {left} more"] if left > 0 else [])])


def _unlike(one: Any, other: Any) -> list[str]:
    if not is_described(one):
        return []
    return [of.name for of in fields(one) if of.name not in PASSED and getattr(one, of.name) != getattr(other, of.name)]
