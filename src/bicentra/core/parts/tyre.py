"""The tyre, as far as braking asks for it: how far the axle is from the road."""

from collections.abc import Mapping
from typing import Any

from bicentra.core.parts import fields as f


class Tyre(f.Described):
    """A tyre as it lies on the shelf; its rolling radius is a little less than half of its diameter."""

    name: str = f.text("Name")
    radius_mm: float | None = f.length("Radius of the tyre")
    extra: Mapping[str, Any] = f.other_keys()
