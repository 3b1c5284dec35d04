"""Numbers within their range, and traced outlines that can be outlines."""

import math

from bicentra.core.base.errors import JobError
from bicentra.core.parts.fields import Meaning
from bicentra.core.parts.job import Job
from bicentra.core.parts.sizes import MOST_POINTS

POINT = Meaning("point", least=-2000.0, most=2000.0)
Points = tuple[tuple[float, float], ...]


def check_number(path: str, of: Meaning, value: float) -> None:
    """Raise ``JobError`` for a number that is none, or outside the range of what it means [unit of its field]."""
    if not math.isfinite(value):
        raise JobError(path, str(value), "a finite number")
    if of.above is not None and value <= of.above:
        raise JobError(path, f"{value:g}", f"a number above {of.above:g}")
    if of.least is not None and value < of.least:
        raise JobError(path, f"{value:g}", f"a number of at least {of.least:g}")
    if of.most is not None and value > of.most:
        raise JobError(path, f"{value:g}", f"a number of at most {of.most:g}")


def check_shapes(job: Job, trusted: Job | None = None) -> None:
    """Raise ``JobError`` for a traced outline of caliper, pad or wheel that cannot be one."""
    caliper, wheel = job.caliper, job.wheel
    if trusted is None or trusted.caliper is not caliper:
        for name in ("body_section_mm", "body_face_mm", "pad_outline_mm"):
            check_outline(f"caliper.{name}", getattr(caliper, name))
        for index, point in enumerate(caliper.hose_port_mm):
            for value in point:
                check_number(f"caliper.hose_port_mm[{index}]", POINT, value)
    if wheel is None or (trusted is not None and trusted.wheel is wheel):
        return
    check_profile("wheel.barrel_mm", wheel.barrel_mm, 0, "outboard")
    check_profile("wheel.spokes_mm", wheel.spokes_mm, 1, "outward from the hub")
    for index, band in enumerate(wheel.weights):
        low, high = band.z_min_mm, band.z_max_mm
        if low is not None and high is not None and low > high:
            raise JobError(f"wheel.weights[{index}].z_min_mm", f"{low:g}", f"not more than z_max_mm, {high:g}")


def check_outline(path: str, points: Points) -> None:
    """Raise ``JobError`` for a closed outline with too few or too many points, or one that crosses itself [mm]."""
    from shapely.geometry import LinearRing

    if not points:
        return
    for index, point in enumerate(points):
        for value in point:
            check_number(f"{path}[{index}]", POINT, value)
    if not 3 <= len(points) <= MOST_POINTS:
        raise JobError(path, f"{len(points)} points", f"3 to {MOST_POINTS} points")
    if len(set(points)) < 3:
        raise JobError(path, "an outline without area", "at least three different points")
    if not LinearRing(points).is_simple:
        raise JobError(path, "an outline that crosses itself", "points in order round the outline")


def check_profile(path: str, points: Points, axis: int, way: str) -> None:
    """Raise ``JobError`` for a profile whose points do not run steadily along one axis (0: z, 1: radius) [mm]."""
    if not points:
        return
    if not 2 <= len(points) <= MOST_POINTS:
        raise JobError(path, f"{len(points)} point" + "s" * (len(points) > 1), f"2 to {MOST_POINTS} points")
    for index, point in enumerate(points):
        for value in point:
            check_number(f"{path}[{index}]", POINT, value)
        if point[1] <= 0:
            raise JobError(f"{path}[{index}]", f"radius {point[1]:g}", "a radius above 0")
        if index and point[axis] < points[index - 1][axis]:
            raise JobError(
                f"{path}[{index}]", f"{point[axis]:g} after {points[index - 1][axis]:g}", f"points in order, {way}"
            )
