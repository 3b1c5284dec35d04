"""The obstacles of the knuckle as upright bodies."""

from functools import lru_cache

import shapely

from bicentra.core.base.cache import cached_by_identity
from bicentra.core.base.numbers import known
from bicentra.core.geometry.prism import Prism, Prisms
from bicentra.core.geometry.tracing import few_points
from bicentra.core.parts.job import Obstacle


@cached_by_identity
def obstacle_prisms(obstacles: tuple[Obstacle, ...]) -> Prisms:
    """Return the obstacles as upright bodies, their outlines kept ready for many distance questions."""
    return tuple(
        Prism(known(o.z_min_mm), known(o.z_max_mm), _shape_of(o.outline_mm), name=o.name, feature=f"obstacle-{k}")
        for k, o in enumerate(obstacles)
    )


@lru_cache(maxsize=256)
def _shape_of(points: tuple[tuple[float, float], ...]) -> shapely.Polygon:
    shape = few_points(shapely.Polygon(points))
    shapely.prepare(shape)
    return shape
