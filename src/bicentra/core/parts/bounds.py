"""How much a job may hold, numbers within their range, and traced outlines that can be outlines."""

import math
from collections.abc import Mapping, Sized

from bicentra.core.base.errors import JobError
from bicentra.core.parts.fields import Meaning
from bicentra.core.parts.job import Job

MOST_ITEMS: dict[str, int] = {
    "body_section_mm": 2000, "body_face_mm": 2000, "pad_outline_mm": 2000, "outline_mm": 2000, "barrel_mm": 2000,
    "spokes_mm": 2000, "obstacles": 200, "lugs": 12, "distances": 2000, "directions": 2000, "features": 200, "faces": 200,
    "spots": 200, "sweeps": 4, "readings": 720, "parts": 200, "was": 200, "weights": 24, "bleeders_deg": 12,
    "pistons_inboard_mm": 12, "pistons_outboard_mm": 12, "hose_port_mm": 4, "guessed": 100, "stock_mm": 100, "shims_mm": 12,
    "boss_walls_mm": 14, "cutouts": 60, "dowels": 20, "pulls": 40, "exact": 500, "limits": 300, "survey": 4, "instruments": 20,
    "values_mm": 40, "sizes": 2000, "issued": 200, "photos": 300, "absent": 20, "points_mm": 200, "quality": 100,
    "trials": 200, "first": 12, "second": 12, "stock": 40, "floated": 12, "bands_mm": 4, "lock": 40,
    "asked": 2000, "deeds": 500, "done": 40, "steps": 4000, "read_before": 12, "again": 4, "checked": 40,
}  # fmt: skip
"""Most items of a list or a map, by its key; 100 where nothing else is said."""


MOST_LETTERS: dict[str, int] = {
    "notes": 100_000,
    "title": 300,
    "why": 4000,
    "set_aside": 1000,
    "source": 1000,
    "what": 1000,
    "changed": 1000,
}
"""Most letters of a text, by its key; 200 where nothing else is said."""


USUAL_ITEMS, USUAL_LETTERS, MOST_OBSTACLE_POINTS = 100, 200, 12_000


MOST_LUGS, MOST_POINTS = MOST_ITEMS["lugs"], MOST_ITEMS["outline_mm"]


MOST_READINGS, MOST_FEATURES = MOST_ITEMS["distances"], MOST_ITEMS["features"]


MOST_BYTES, MOST_DEPTH = 16 * 1024 * 1024, 64
"""Size of a file, and how deep its brackets may nest."""


def check_size(path: str, name: str, value: object) -> None:
    """Raise ``JobError`` for a list, a map or a text at ``path`` that is longer than the key ``name`` allows."""
    if isinstance(value, str):
        most, what = MOST_LETTERS.get(name, USUAL_LETTERS), "letters"
    elif isinstance(value, tuple | Mapping):
        most, what = MOST_ITEMS.get(name, USUAL_ITEMS), "items"
    else:
        return
    if isinstance(value, Sized) and len(value) > most:
        raise JobError(path, f"{len(value)} {what}", f"at most {most}")
    if isinstance(value, Mapping):
        for key in value:
            check_size(f"{path}.{key[:40]}", "", key)


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


COINCIDENT_MM = 1.0
"""Lug centres closer than this are one hole measured twice: no two bolts fit."""
