"""Hats for two-piece rotors: what carries a friction ring on the hub."""

from collections.abc import Mapping
from typing import Any

from bicentra.core.parts import fields as f


class Hat(f.Described):
    """A hat. ``height_mm``: from its outer (wheel-side) face to the face its ring seats on."""

    name: str = f.text("Name")
    height_mm: float | None = f.length("Outer face to ring seat", above=None)
    hat_thickness_mm: float | None = f.length("Hat thickness")
    centre_bore_mm: float | None = f.length("Centre bore")
    hat_inner_diameter_mm: float | None = f.length("Hat, inside diameter")
    bolt_circle_mm: float | None = f.length("Bolt circle")
    hole_count: int | None = f.count("Holes", 3, 12)
    hole_mm: float | None = f.length("Hole diameter")
    ring_bolt_circle_mm: float | None = f.length("Bolt circle of its ring")
    ring_bolt_count: int | None = f.count("Bolts of its ring", 3, 24)
    ring_bolt_hole_mm: float | None = f.length("Bolt holes of its ring")
    ring_register_mm: float | None = f.length("Register of its ring")
    ring_flange_mm: float | None = f.length("Rim under the ring, thickness", most=60.0)
    ring_held: str | None = f.choice("Ring is held by", ("bolts", "screws", "snap ring"), None)
    register_depth_mm: float | None = f.length("Register, how deep the ring sits on it", most=60.0)
    mass_kg: float | None = f.mass("Mass")
    guessed: tuple[str, ...] = ()
    extra: Mapping[str, Any] = f.other_keys()
