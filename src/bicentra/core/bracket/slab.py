"""Metal between two heights: what a made part is where it sits, and how far that is from other upright bodies."""

import math
from dataclasses import dataclass

import numpy as np
import shapely

from bicentra.core.base.numbers import apart
from bicentra.core.lineup.solids import Ring

FAR_MM = 10.0
"""Bodies further apart than this along the axle are reported by that distance; their outlines are not compared."""


@dataclass(frozen=True)
class Slab:
    """``shape`` in the hub frame's (x, y), from ``z0`` to ``z1`` [mm]."""

    shape: shapely.Geometry
    z0: float
    z1: float
    exact: Ring | None = None

    @property
    def ring(self) -> Ring:
        """The ring about the axle that it just fits in: ``exact`` where that is known."""
        if self.exact is not None:
            return self.exact
        points = shapely.get_coordinates(self.shape)
        near = self.shape.distance(shapely.Point(0.0, 0.0))
        return Ring(near, float(np.hypot(points[:, 0], points[:, 1]).max()), self.z0, self.z1)


def slab_gap(slab: Slab, shape: shapely.Geometry, z0: float, z1: float) -> float:
    """Return the distance [mm] from an upright body; negative when they overlap, the height alone where that is far."""
    height = apart(slab.z0, slab.z1, z0, z1)
    if math.isnan(height) or height >= FAR_MM:
        return height
    flat = float(slab.shape.distance(shape))
    return math.hypot(flat, height) if flat > 0 and height > 0 else max(flat, height)
