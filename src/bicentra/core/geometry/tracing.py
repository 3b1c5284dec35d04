"""Traced outlines of very many points, made few: round the traced one and a hair larger, to err towards a clash."""

from functools import lru_cache

import shapely

Points = tuple[tuple[float, float], ...]
MOST_POINTS, GROWN_MM, OFF_MM = 200, 0.05, 0.04
"""Points up to which an outline is left as it is; how far it is grown before points are left out, and how far those may lie off
[mm]: less than it is grown, so that nothing of it is lost."""


def few_points(shape: shapely.Geometry) -> shapely.Geometry:
    """Return ``shape``, or one of fewer points that holds it and is at most a tenth of a millimetre larger.

    What keeps too many points even then (a star, a saw) is taken as its convex hull.
    """
    if shapely.get_num_coordinates(shape) <= MOST_POINTS:
        return shape
    for whole in (shape, shape.convex_hull):
        made = whole.buffer(GROWN_MM, quad_segs=2).simplify(OFF_MM)
        if shapely.get_num_coordinates(made) <= 2 * MOST_POINTS:
            break
    return made


@lru_cache(maxsize=64)
def few(points: Points) -> Points:
    """Return the outline of ``points`` (closed, first not repeated) with few points, as ``few_points`` has it [mm]."""
    if len(points) <= MOST_POINTS:
        return points
    made = few_points(shapely.make_valid(shapely.Polygon(points)))
    largest = max(shapely.get_parts(made), key=lambda part: part.area) if made.geom_type != "Polygon" else made
    return tuple((float(x), float(y)) for x, y in largest.exterior.coords[:-1])
