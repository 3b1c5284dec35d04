"""A corner as it will be once its castings and shields are relieved: each obstacle in pieces, without what was cut."""

from collections.abc import Iterator

import shapely

from bicentra.core.base.records import replace
from bicentra.core.clearance.relief_plan import Relief
from bicentra.core.geometry.prism import Prism
from bicentra.core.parts.job import Job, Obstacle

SPECK_MM2, SHARP_MM = 1e-3, 1e-3
"""What is smaller than this is no piece; a ridge narrower than twice this along the cut is none either, but the
rounding of it.
"""


def relieved(job: Job, things: tuple[Prism, ...], plans: tuple[Relief, ...]) -> Job:
    """Return ``job`` with every obstacle of ``plans`` relieved; ``things``: the obstacles as they stand, by their feature."""
    shapes = {thing.feature: shapely.make_valid(thing.shape) for thing in things}
    cut = {plan.feature: plan for plan in plans}
    left: list[Obstacle] = []
    for number, obstacle in enumerate(job.knuckle.obstacles):
        feature = f"obstacle-{number}"
        left += _pieces(obstacle, shapes[feature], cut[feature]) if feature in cut else (obstacle,)
    return replace(job, knuckle=replace(job.knuckle, obstacles=tuple(left)))


def _pieces(obstacle: Obstacle, shape: shapely.Geometry, plan: Relief) -> Iterator[Obstacle]:
    """Yield what is left of ``obstacle``: beside the cut as high as before, under it the rest; nothing under one cut through."""
    rest = shapely.difference(shape, plan.region)
    for part in _whole(
        shapely.buffer(shapely.buffer(rest, -SHARP_MM, join_style="mitre"), SHARP_MM, join_style="mitre")
    ):
        yield replace(obstacle, outline_mm=_outline(part))
    if plan.through or obstacle.z_min_mm is None or obstacle.z_max_mm is None:
        return
    ends = (obstacle.z_min_mm, obstacle.z_max_mm - plan.depth)
    if plan.end == "inboard":
        ends = (obstacle.z_min_mm + plan.depth, obstacle.z_max_mm)
    for part in _whole(plan.region):
        yield replace(obstacle, outline_mm=_outline(part), z_min_mm=ends[0], z_max_mm=ends[1])


def _whole(shape: shapely.Geometry) -> Iterator[shapely.Polygon]:
    """Yield the polygons of ``shape``, one with a hole as two halves without: an obstacle has one outline."""
    for part in shapely.get_parts(shape):
        if part.geom_type != "Polygon" or part.area <= SPECK_MM2:
            continue
        if not part.interiors:
            yield part
            continue
        x0, y0, x1, y1 = part.bounds
        middle = part.interiors[0].centroid.x
        for low, high in ((x0, middle), (middle, x1)):
            yield from _whole(shapely.intersection(part, shapely.box(low, y0, high, y1)))


def _outline(part: shapely.Polygon) -> tuple[tuple[float, float], ...]:
    return tuple((float(x), float(y)) for x, y in part.exterior.coords[:-1])
