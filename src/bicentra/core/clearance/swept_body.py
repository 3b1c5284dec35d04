"""The caliper's body swept over its width in the half plane through the axle, (z, r).

A point of the caliper at radial u and across w lies at r = √(u² + w²), so each point (z, u) of its section becomes a line from
r = u at its middle to r = √(u² + w²) at its widest.
"""

import math
from functools import lru_cache
from itertools import pairwise

import numpy as np
import shapely
from numpy.typing import NDArray

from bicentra.core.base.lazy import cached_property
from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.records import Record
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.geometry.tracing import Points, few
from bicentra.core.lineup.solids import section_outline
from bicentra.core.parts.job import Job

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
