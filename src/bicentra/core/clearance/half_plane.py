"""The half plane through the axle, (z, r): what turns is one profile at every angle there, what stands is swept."""

import math
from collections.abc import Iterable
from functools import lru_cache

import numpy as np
import shapely

from bicentra.core.base.numbers import UNKNOWN
from bicentra.core.base.records import Record
from bicentra.core.geometry.gaps import distance
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.geometry.ring import Ring
from bicentra.core.geometry.tracing import Points

Solids = tuple[tuple[str, Points], ...]
NOWHERE = (UNKNOWN, UNKNOWN)
ROUND = (0, 1, 2, 1, 2, 3, 0, 3, 0, 1)
"""Which of z0, r0, z1, r1 the five corners of a ring's closed outline are at."""


class HalfPlanePart(Record, frozen=True):
    """Something that stands, as a line round it or through all of it in (z, r) [mm]; none while it is unknown. ``tag``:
    its own in a drawing.
    """

    tag: str
    line: shapely.LineString | None = None


Parts = tuple[HalfPlanePart, ...]


def ring_parts(rings: Iterable[tuple[str, Ring]]) -> Parts:
    """Return rings, each with its tag, as their closed outlines."""
    every = tuple(rings)
    known = [ring for _, ring in every if ring.is_known]
    sizes = np.array([(ring.z0, ring.r0, ring.z1, ring.r1) for ring in known]).reshape(-1, 4)
    lines = iter(shapely.linestrings(sizes[:, ROUND].reshape(-1, 5, 2)).tolist())
    return tuple(HalfPlanePart(tag, next(lines) if ring.is_known else None) for tag, ring in every)


class WheelGap(Record, frozen=True):
    """The least room [mm] between what stands (its drawing tag) and a part of the wheel, and its ends (z, r)."""

    value: float
    tag: str
    name: str
    at: tuple[float, float]
    to: tuple[float, float]


NO_GAP = WheelGap(UNKNOWN, "caliper", "wheel", NOWHERE, NOWHERE)
"""What is said while something that decides is unknown."""


def room_between(parts: Parts, solids: Solids) -> WheelGap:
    """Return the least room between standing parts that are known and the wheel; negative when they meet, unknown when
    one is not there.

    How deep a clash goes is that of the deepest of the standing outline's points.
    """
    there = [(part.tag, part.line) for part in parts if part.line is not None]
    if not (there and solids):
        return NO_GAP
    shapes = [(name, _solid(points)) for name, points in solids]
    far = distance(np.array([line for _, line in there])[:, None], np.array([solid for _, solid in shapes]))
    least = float(far.min())  # of all pairs only the nearest, or those that meet, are looked at closely
    near = np.argwhere(far <= max(least, 0.0)) if math.isfinite(least) else np.argwhere(~np.isfinite(far))
    gaps = [_gap(*there[i], *shapes[j]) for i, j in near.tolist()]
    return min(gaps, key=lambda gap: gap.value)


def _gap(tag: str, line: shapely.LineString, name: str, solid: shapely.Polygon) -> WheelGap:
    if shapely.intersects(line, solid):
        points = shapely.get_coordinates(line)
        inside = shapely.points(points)
        depths = np.where(shapely.intersects(solid, inside), shapely.distance(inside, shapely.boundary(solid)), 0.0)
        deepest = int(np.argmax(depths))
        there = (float(points[deepest][0]), float(points[deepest][1]))
        return WheelGap(-float(depths[deepest]), tag, name, there, there)
    (x0, y0), (x1, y1) = shapely.get_coordinates(shapely.shortest_line(line, solid)).tolist()
    return WheelGap(math.hypot(x1 - x0, y1 - y0), tag, name, (x0, y0), (x1, y1))


@lru_cache(maxsize=64)
def _solid(points: Points) -> shapely.Polygon:
    shape = shapely.make_valid(shapely.Polygon(points))
    shapely.prepare(shape)
    return shape


def slides_outboard(path: FloatArray, solids: Solids, most: float) -> float:
    """Return how far, at most ``most``, a line along (n, 2) ``path`` that meets no solid can go along +z before it
    meets one [mm].

    Where two lines of straight pieces first touch, a corner of one lies on a piece of the other.
    """
    found = [most]
    for _, points in solids:
        ring = np.array((*points, points[0]))
        found += [_first_met(path, ring, 1.0), _first_met(ring, path, -1.0)]
    return min(found)


def _first_met(corners: FloatArray, pieces: FloatArray, way: float) -> float:
    """Return the least way [mm] along z, forward or backward, from any of ``corners`` to a straight piece of a line."""
    (z0, r0), (z1, r1) = pieces[:-1].T, pieces[1:].T
    z, r = corners[:, :1], corners[:, 1:]
    level = r0 == r1
    share = (r - r0) / np.where(level, 1.0, r1 - r0)
    at = np.where(level, np.where(way * (z0 - z1) < 0.0, z0, z1), z0 + share * (z1 - z0))
    ahead = way * (at - z)
    met = (r >= np.minimum(r0, r1)) & (r <= np.maximum(r0, r1)) & (ahead >= 0.0)
    return float(np.where(met, ahead, math.inf).min())
