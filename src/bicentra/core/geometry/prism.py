"""Upright bodies: a shape between two heights, or a round one, and the distance from one to another."""

import math
from dataclasses import dataclass

import numpy as np
import shapely

from bicentra.core.base.numbers import apart
from bicentra.core.geometry.gaps import distance, with_height
from bicentra.core.geometry.ring import Ring

FAR_MM = 10.0
"""Bodies further apart than this along the axle are reported by that distance; their outlines are not compared."""


@dataclass(frozen=True)
class Prism:
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


@dataclass(frozen=True)
class RoundPrism:
    """A round thing parallel to the axle: centre (x, y), radius, range of z [mm], and what to call it."""

    name: str
    feature: str
    x: float
    y: float
    radius: float
    z0: float
    z1: float


def prism_gap(prism: Prism, shape: shapely.Geometry, z0: float, z1: float) -> float:
    """Return the distance [mm] from an upright body; negative when they overlap, the height alone where that is far."""
    height = apart(prism.z0, prism.z1, z0, z1)
    if math.isnan(height) or height >= FAR_MM:
        return height
    return float(with_height(distance(prism.shape, shape), height))
