"""A drum brake, and what its brake factor is about where nobody knows it."""

from collections.abc import Mapping
from typing import Any

from bicentra.core.parts import fields as f

SHOES = {"leading-trailing": (1.8, 2.2, 2.8), "twin-leading": (2.4, 3.0, 3.8), "duo-servo": (3.2, 4.6, 6.5)}
"""Brake factor of a drum by its shoes [no unit], at least, usually, at most: about friction 0.35 ± 0.05; Limpert, Brake
Design and Safety ch. 2, from memory.
"""


class Drum(f.Described):
    """A drum brake: torque = factor · max(p − threshold, 0) · cylinder area · radius."""

    name: str = f.text("Name")
    cylinder_bore_mm: float | None = f.length("Wheel cylinder bore", most=100.0)
    diameter_mm: float | None = f.length("Drum diameter")
    layout: str | None = f.choice("Shoes", tuple(SHOES), None, "For a guess of the brake factor")
    factor: float | None = f.number("Brake factor", most=20.0)
    threshold_bar: float | None = f.pressure("Pressure before the shoes bite", most=50.0)
    hotter_k: float | None = f.number("In hard use hotter by, °C", most=800.0)
    stands_off_mm: float | None = f.thickness("Worn shoes stand off by", "Before somebody adjusts them, each shoe")
    extra: Mapping[str, Any] = f.other_keys()
