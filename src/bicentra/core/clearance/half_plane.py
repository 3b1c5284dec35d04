"""The half plane through the axle, (z, r): where what turns is one profile at every angle, and what stands is swept by its width.

A point of the caliper at radial u and across w lies at r = √(u² + w²), so each point (z, u) of its section becomes a line from
r = u at its middle to r = √(u² + w²) at its widest.
"""

import math
from functools import lru_cache
from itertools import pairwise

import numpy as np
import shapely

from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record
from bicentra.core.geometry.gaps import distance
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.geometry.ring import Ring
from bicentra.core.geometry.tracing import few
from bicentra.core.lineup.solids import section_outline
from bicentra.core.lineup.wheel import Points
from bicentra.core.parts.job import Job

Lines = tuple[Points, ...]
Parts = tuple[tuple[str, Lines], ...]
Solids = tuple[tuple[str, Points], ...]
NOWHERE = (UNKNOWN, UNKNOWN)
STEP_MM = 2.0
"""Distance of the points along the caliper's section [mm]."""


def swept_section(job: Job, top: float) -> Points:
    """Return the outer bound of the caliper's section swept over its width: (z from slot centre, r) [mm].

    Empty while something is not known.
    """
    outline = section_outline(job)
    half = known(job.caliper.body_width_mm) / 2
    if not outline or not is_known(top) or not (job.caliper.body_face_mm or is_known(half)):
        return ()
    return swept_outline(outline, few(job.caliper.body_face_mm), half, top)


@lru_cache(maxsize=64)
def swept_outline(outline: Points, face: Points, half: float, top: float) -> Points:
    """Return the outer bound of ``outline`` (z, out) swept over ``face``, or over ``half`` its width: (z, r) [mm]."""
    dense = _dense(outline, tuple(out for _, out in face))
    out = dense[:, 1]
    wide = _widest(face, out) if face else np.full(len(out), half)
    order = np.argsort(out, kind="stable")
    far = np.empty(len(out))
    far[order] = np.maximum.accumulate(np.hypot(top + out, wide)[order])  # what lies below may reach out further
    return tuple(zip(dense[:, 0].tolist(), far.tolist()))


@lru_cache(maxsize=64)
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


@lru_cache(maxsize=64)
def swept_lines(outline: Points, face: Points, section: Points, top: float, middle: float) -> Lines:
    """Return the swept caliper as lines in (z, r) [mm]: its section at the middle and at its widest, and rungs between them."""
    dense = _dense(outline, tuple(out for _, out in face))
    inner = tuple((z + middle, top + out) for z, out in dense.tolist())
    outer = tuple((z + middle, r) for z, r in section)
    return (inner, outer, *zip(inner, outer))


def ring_lines(ring: Ring) -> Lines:
    """Return a ring in the half plane as its closed outline (z, r) [mm]."""
    z0, z1, r0, r1 = ring.z0, ring.z1, ring.r0, ring.r1
    return (((z0, r0), (z1, r0), (z1, r1), (z0, r1), (z0, r0)),)


class WheelGap(Record, frozen=True):
    """The least room [mm] between what stands (its drawing tag) and a part of the wheel, and its ends (z, r)."""

    value: float
    tag: str
    name: str
    at: tuple[float, float]
    to: tuple[float, float]


NO_GAP = WheelGap(UNKNOWN, "caliper", "wheel", NOWHERE, NOWHERE)
"""What is said while something that decides is not known."""


@lru_cache(maxsize=32)
def room_between(parts: Parts, solids: Solids) -> WheelGap:
    """Return the least room between standing parts and wheel; negative when they meet, unknown when one is not there.

    How deep a clash goes is that of the deepest of the standing outline's points.
    """
    if not (parts and solids):
        return NO_GAP
    shapes = [(name, _solid(points)) for name, points in solids]
    lines = [(tag, lines_shape(of)) for tag, of in parts]
    far = distance(np.array([line for _, line in lines])[:, None], np.array([solid for _, solid in shapes]))
    least = float(far.min())  # of all pairs only the nearest, or those that meet, are looked at closely
    near = np.argwhere(far <= max(least, 0.0)) if math.isfinite(least) else np.argwhere(~np.isfinite(far))
    gaps = [_gap(*lines[i], *shapes[j]) for i, j in near.tolist()]
    return min(gaps, key=lambda gap: gap.value)


@lru_cache(maxsize=64)
def lines_shape(lines: Lines) -> shapely.MultiLineString:
    """Return ``lines`` as one shape, the last few kept."""
    coordinates = np.array([point for line in lines for point in line], dtype=float)
    belongs = np.repeat(np.arange(len(lines)), [len(line) for line in lines])
    return shapely.multilinestrings(shapely.linestrings(coordinates, indices=belongs))


def _gap(tag: str, line: shapely.MultiLineString, name: str, solid: shapely.Polygon) -> WheelGap:
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
