"""The master cylinder: bore, stroke, circuits."""

from collections.abc import Mapping
from typing import Any

from bicentra.core.parts import fields as f


class MasterCylinder(f.Described):
    """A master cylinder as it lies on the shelf."""

    name: str = f.text("Name")
    bore_mm: float | None = f.length("Bore", most=100.0)
    stroke_mm: float | None = f.length("Stroke", most=200.0)
    circuits: int | None = f.count("Circuits", 1, 2)
    outlet_thread: str | None = f.thread("Outlet thread")
    mass_kg: float | None = f.mass("Mass")
    guessed: tuple[str, ...] = ()
    extra: Mapping[str, Any] = f.other_keys()
