"""The obstacles of the knuckle as shapes seen along the axle."""

from functools import lru_cache

import shapely

from bicentra.core.geometry.tracing import few_points
from bicentra.core.parts.job import Obstacle


def obstacle_shape(obstacle: Obstacle) -> shapely.Polygon:
    """Return the obstacle's outline as a polygon, kept ready for many distance questions."""
    return _shape_of(obstacle.outline_mm)


@lru_cache(maxsize=256)
def _shape_of(points: tuple[tuple[float, float], ...]) -> shapely.Polygon:
    shape = few_points(shapely.Polygon(points))
    shapely.prepare(shape)
    return shape
