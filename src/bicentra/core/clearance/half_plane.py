"""The half plane through the axle, (z, r): what turns is one profile at every angle, what stands is swept; the
caliper's body there.
"""

import math
from collections.abc import Iterable
from functools import lru_cache
from itertools import pairwise

import numpy as np
import shapely
from numpy.typing import NDArray

from bicentra.core.base.cache import cached_property
from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record
from bicentra.core.geometry.hull import Points, few
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.geometry.ring import Ring, distance
from bicentra.core.lineup.solids import section_outline
from bicentra.core.parts.job import Job

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
    far = _distances(parts, solids)
    least = float(far.min())  # of all pairs only the nearest, or those that meet, are looked at closely
    if least <= 0.0:
        return _deepest(there, solids, np.argwhere(far <= 0.0))
    near = np.argwhere(far <= least) if math.isfinite(least) else np.argwhere(~np.isfinite(far))
    gaps = [_apart(*there[i], *solids[j]) for i, j in near.tolist()]
    return min(gaps, key=lambda gap: gap.value)


def have_room(parts: Parts, solids: Solids, wanted: float) -> bool:
    """Tell whether standing parts that are known keep ``wanted`` [mm] to the wheel: how deep they clash is not asked."""
    if not wanted > 0.0:
        return room_between(parts, solids).value >= wanted
    lines = [part.line for part in parts if part.line is not None]
    less = math.nextafter(wanted, 0.0)  # just so far away is far enough
    return bool(solids and lines) and not any(
        shapely.dwithin(_solid(points), lines, less).any() for _, points in solids
    )


def _distances(parts: Parts, solids: Solids) -> FloatArray:
    """Return (n, m) float, mm: the distance of each of n known parts to each of m solids, nothing where they meet."""
    lines = np.array([part.line for part in parts if part.line is not None])
    return distance(lines[:, None], np.array([_solid(points) for _, points in solids]))


def _deepest(there: list[tuple[str, shapely.LineString]], solids: Solids, met: NDArray[np.intp]) -> WheelGap:
    """Return the deepest of the points of lines that lie in a solid; ``met``: (n, 2) which line meets which solid."""
    rows = []
    for j in np.unique(met[:, 1]):
        which = met[met[:, 1] == j, 0]
        points, of = shapely.get_coordinates([there[i][1] for i in which], return_index=True)
        solid, at = _solid(solids[j][1]), shapely.points(points)
        depth = np.where(shapely.intersects(solid, at), shapely.distance(at, shapely.boundary(solid)), 0.0)
        rows.append(np.column_stack([-depth, which[of], np.full(len(of), j), np.arange(len(of)), points]))
    found = np.concatenate(rows)
    value, i, j, _, z, r = found[np.lexsort(found[:, 3::-1].T)[0]].tolist()
    return WheelGap(value, there[int(i)][0], solids[int(j)][0], (z, r), (z, r))


def _apart(tag: str, line: shapely.LineString, name: str, points: Points) -> WheelGap:
    (z0, r0), (z1, r1) = shapely.get_coordinates(shapely.shortest_line(line, _solid(points))).tolist()
    return WheelGap(math.hypot(z1 - z0, r1 - r0), tag, name, (z0, r0), (z1, r1))


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


STEP_MM = 2.0
"""Distance of the points along the caliper's section [mm]."""


class SweptBody(Record, frozen=True):
    """A closed outline swept over its width: (n, 2) float each, mm (z from slot centre, r), first point repeated at the end.

    ``inner``: at its middle; ``outer``: the outer bound of its widest.
    """

    inner: FloatArray
    outer: FloatArray

    @property
    def section(self) -> Points:
        """The outer bound as points (z from slot centre, r) [mm]."""
        return tuple((z, r) for z, r in self.outer.tolist())

    @cached_property
    def path(self) -> FloatArray:
        """(m, 2) float, mm: both outlines and the rungs between them as one line that runs through all of them."""
        rungs = np.stack([self.outer, self.inner], axis=1)
        rungs[1::2] = rungs[1::2, ::-1]
        return np.concatenate([self.inner, self.outer, rungs.reshape(-1, 2)[1:]])

    def line(self, middle: float = 0.0) -> shapely.LineString:
        """Return that line with the slot's centre at ``middle`` [mm]."""
        return shapely.linestrings(self.path + np.array([middle, 0.0]))


def swept_body(job: Job, top: float) -> SweptBody | None:
    """Return the caliper with its pads' top at the radius ``top`` [mm]; ``None`` while something is unknown."""
    outline, face = section_outline(job), few(job.caliper.body_face_mm)
    half = known(job.caliper.body_width_mm) / 2
    if not outline or not is_known(top) or not (face or is_known(half)):
        return None
    return swept_outline(outline, face, half, top)


@lru_cache(maxsize=32)
def swept_outline(outline: Points, face: Points, half: float, top: float) -> SweptBody:
    """Return ``outline`` (z, out) swept over ``face``, or over ``half`` its width [mm]."""
    dense, wide, order = _widths(outline, face, half)
    out = dense[:, 1]
    far = np.empty(len(out))
    far[order] = np.maximum.accumulate(np.hypot(top + out, wide)[order])  # what lies below may reach out further
    return SweptBody(dense + np.array([0.0, top]), np.column_stack([dense[:, 0], far]))


@lru_cache(maxsize=32)
def _widths(outline: Points, face: Points, half: float) -> tuple[FloatArray, FloatArray, NDArray[np.intp]]:
    """Return (n, 2) points of the outline, (n,) how far across the body reaches there [mm], (n,) their order from the axle."""
    dense = _dense(outline, tuple(out for _, out in face))
    out = dense[:, 1]
    wide = _widest(face, out) if face else np.full(len(out), half)
    return dense, wide, np.argsort(out, kind="stable")


def _dense(outline: Points, levels: tuple[float, ...]) -> FloatArray:
    """Return (n, 2) float, mm: the closed outline with a point at least every ``STEP_MM``, and one at each of ``levels``.

    ``levels``: heights of the face's corners, where its width turns: a corner between two points would be missed. Between
    them the width is linear and √(u² + w²) convex, so that a straight line errs towards a clash.
    """
    ring = np.array((*outline, outline[0]))
    parts = []
    for a, b in pairwise(ring):
        count = max(1, math.ceil(float(np.hypot(*(b - a))) / STEP_MM))
        steps = {k / count for k in range(count)}
        rise = float(b[1] - a[1])
        steps |= {t for t in ((level - float(a[1])) / rise for level in levels if rise) if 0.0 < t < 1.0}
        parts.append(a + (b - a) * np.array(sorted(steps))[:, None])
    dense = np.concatenate([*parts, ring[-1:]])
    dense.flags.writeable = False  # kept for the next call
    return dense


def _widest(face: Points, out: FloatArray) -> FloatArray:
    """Return how far across the body reaches at each height ``out`` above the pad's top [mm]."""
    ring = np.array((*face, face[0]))
    at = np.clip(out, ring[:, 1].min(), ring[:, 1].max())[:, None]
    (w0, u0), (w1, u1) = ring[:-1].T, ring[1:].T
    level = np.abs(u1 - u0) < 1e-12
    t = (at - u0) / np.where(level, 1.0, u1 - u0)
    across = np.where(level, np.maximum(np.abs(w0), np.abs(w1)), np.abs(w0 + t * (w1 - w0)))
    hit = (at >= np.minimum(u0, u1) - 1e-9) & (at <= np.maximum(u0, u1) + 1e-9)
    return np.asarray(np.max(np.where(hit, across, 0.0), axis=1))
