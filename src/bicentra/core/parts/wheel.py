"""The wheel with its inside profile, and the tyre as far as braking asks for it."""

from collections.abc import Mapping
from typing import Any

from bicentra.core.parts import fields as f


class WeightBand(f.Described):
    """Where balance weights are stuck: a range of z from the wheel's seat, and how far they stand in from the barrel."""

    name: str = f.text("Name", "balance weights")
    z_min_mm: float | None = f.length("Inboard end", above=None)
    z_max_mm: float | None = f.length("Outboard end", above=None)
    height_mm: float | None = f.length("Height of the weights")
    extra: Mapping[str, Any] = f.other_keys()


class Wheel(f.Described):
    """The wheel. ``barrel_mm`` (inboard to outboard) and ``spokes_mm`` (hub outward) are the traced inside profile:
    points (z outboard from the face that seats on the hub, radius). Without them a nominal profile is guessed.
    """

    name: str = f.text("Name")
    rim_diameter_mm: float | None = f.length("Rim diameter, nominal", help="15 in may be typed as that")
    rim_width_mm: float | None = f.length("Rim width, nominal", help="Between the bead seats")
    offset_mm: float | None = f.length("Offset", above=None, help="Seat face outboard of the rim's middle: positive")
    centre_thickness_mm: float | None = f.length("Centre thickness at the studs")
    centre_bore_mm: float | None = f.length("Centre bore")
    bolt_circle_mm: float | None = f.length("Bolt circle")
    hole_count: int | None = f.count("Holes", 3, 12)
    barrel_mm: tuple[tuple[float, float], ...] = ()
    spokes_mm: tuple[tuple[float, float], ...] = ()
    weights: tuple[WeightBand, ...] = ()
    mass_kg: float | None = f.mass("Mass")
    guessed: tuple[str, ...] = ()
    extra: Mapping[str, Any] = f.other_keys()


class Tyre(f.Described):
    """A tyre as it lies on the library; its rolling radius is a little less than half of its diameter."""

    name: str = f.text("Name")
    radius_mm: float | None = f.length("Radius of the tyre")
    extra: Mapping[str, Any] = f.other_keys()
