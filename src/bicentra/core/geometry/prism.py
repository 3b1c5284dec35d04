"""Upright bodies: a shape seen along the axle between two heights. Plate, boss, bolt head, obstacle, slice of a caliper:
whatever stands is one of these, and how near two of them come is asked here."""

import math
from functools import lru_cache

import numpy as np
import shapely
from numpy.typing import NDArray

from bicentra.core.base.cache import cached_property
from bicentra.core.base.numbers import UNKNOWN, is_known
from bicentra.core.base.records import Record, replace
from bicentra.core.geometry.outline import FloatArray, Point
from bicentra.core.geometry.ring import Ring, distance, with_height

FAR_MM = 10.0
"""Where very many pairs are asked: bodies further apart along the axle are reported by that distance, their outlines
not compared.
"""
AXIS, DISC_CORNERS = shapely.Point(0.0, 0.0), 128
Shapes = NDArray[np.object_]


class Prism(Record, frozen=True):
    """A body from ``z0`` to ``z1`` [mm]: its ``outline`` in (x, y), or a round one's middle ``at``, grown by ``radius`` [mm].

    ``outline``: one geometry, or (n,) of them for n clock angles. ``bore``: what is cut out of it round the axle [mm], where that
    leaves anything. ``exact``: the ring that it just fits in, where that is known
    better than from its outline's chords. ``feature`` is its tag in a drawing, ``name`` what it is called.
    """

    z0: float
    z1: float
    outline: shapely.Geometry | Shapes | None = None
    at: Point = (UNKNOWN, UNKNOWN)
    radius: float = 0.0
    bore: float = 0.0
    name: str = ""
    feature: str = ""
    exact: Ring | None = None

    @cached_property
    def shape(self) -> shapely.Geometry | Shapes:
        """What is grown by ``radius``: the outline less its bore, or the middle as a point."""
        if self.outline is None:
            return shapely.Point(self.at)
        return self.outline if self.bore <= 0.0 else _bored(np.asarray(self.outline), self.bore)[()]

    @property
    def is_known(self) -> bool:
        """Whether its place and every one of its sizes are known."""
        return is_known(self.radius, self.z0, self.z1) and (self.outline is not None or is_known(*self.at))

    @property
    def off_axis(self) -> float:
        """How far a round one's middle is from the axle [mm]."""
        return math.hypot(*self.at)

    @property
    def disc(self) -> shapely.Polygon:
        """A round one seen along the axle, its chords within 0.5 % of its radius."""
        return shapely.Point(self.at).buffer(self.radius)

    @cached_property
    def ring(self) -> Ring:
        """The ring about the axle that it just fits in: ``exact`` where that is known."""
        if self.exact is not None:
            return self.exact
        if self.outline is None:
            return self.ring_at(self.off_axis)
        far = np.hypot(*shapely.get_coordinates(self.shape).T).max()
        return Ring(float(distance(self.shape, AXIS)), float(far), self.z0, self.z1)

    def those(self, kept: NDArray[np.bool_] | int) -> "Prism":
        """Return the same at those of its clock angles, (n,) bool, that are ``kept``, or at one of them; itself where
        it stands.
        """
        return replace(self, outline=self.outline[kept]) if isinstance(self.outline, np.ndarray) else self

    def ring_at(self, off_axis: float) -> Ring:
        """Return the ring that a round one lies in whose middle is ``off_axis`` [mm]: the same all round the axle."""
        near = max(off_axis - self.radius, 0.0) if is_known(off_axis, self.radius) else UNKNOWN
        return Ring(near, off_axis + self.radius, self.z0, self.z1)


Prisms = tuple[Prism, ...]


def prism_gaps(ones: Prisms, others: Prisms, far: float = math.inf) -> FloatArray:
    """Return (n, k, m) float, mm: how far each of k bodies is from each of m others, at n clock angles; n is 1 where all stand.

    Negative where they overlap, unknown where a place is unknown. ``far`` [mm]: from there on the distance along the axle is
    told alone, which is never more than the true one.
    """
    z0, z1 = np.array([(one.z0, one.z1) for one in ones]).reshape(-1, 1, 2).transpose(2, 0, 1)
    low, high = np.array([(other.z0, other.z1) for other in others]).reshape(-1, 2).T
    height = np.maximum(z0 - high, low - z1)
    first, second = np.nonzero(height < far)
    flat = _plan_gaps(ones, others, first, second)
    out = np.empty((len(flat), *height.shape))
    out[:] = height
    out[:, first, second] = with_height(flat, height[first, second])
    return out


def pair_columns(gaps: FloatArray, count: int) -> FloatArray:
    """Return (n, k·m) float, mm: (n or 1, k, m) ``gaps`` of pairs at each of ``count`` clock angles."""
    table = gaps.reshape(len(gaps), gaps[0].size)
    return table if len(table) == count else np.broadcast_to(table, (count, table.shape[1]))


def _plan_gaps(ones: Prisms, others: Prisms, first: NDArray[np.intp], second: NDArray[np.intp]) -> FloatArray:
    """Return (n, p) float, mm: the distances in plan of p pairs, those of ``ones`` at ``first`` and of ``others`` at
    ``second``.
    """
    grown = np.array([one.radius for one in ones])[first] + np.array([other.radius for other in others])[second]
    if not len(first):
        return np.empty((1, 0))
    if any(one.bore > 0.0 or isinstance(one.shape, np.ndarray) for one in (*ones, *others)):
        rows = [np.atleast_1d(plan_gap(ones[i], others[j].shape)) - others[j].radius for i, j in zip(first, second)]
        return np.stack(np.broadcast_arrays(*rows), axis=1)
    shapes, met = np.array([one.shape for one in ones]), np.array([other.shape for other in others])
    return np.asarray(distance(shapes[first], met[second]) - grown)[None, :]


def plan_gap(prism: Prism, shapes: shapely.Geometry | Shapes) -> FloatArray:
    """Return the distances [mm] in plan of a prism, at its (n,) clock angles or where it stands, from ``shapes``.

    What is cut out round the axle is only cut where the uncut outline is nearest within it: elsewhere that changes nothing.
    """
    if prism.bore <= 0.0:
        return distance(prism.shape, shapes) - prism.radius
    uncut, shapes = np.broadcast_arrays(np.asarray(prism.outline, dtype=object), np.asarray(shapes, dtype=object))
    with np.errstate(invalid="ignore"):
        lines = shapely.shortest_line(uncut, shapes)
        ends = shapely.get_point(lines, 0)
        within = np.asarray(np.hypot(shapely.get_x(ends), shapely.get_y(ends)) < prism.bore)
    flat = np.array(shapely.length(lines), dtype=float)
    if within.any():
        flat[within] = distance(_bored(uncut[within], prism.bore), shapes[within])
    return np.where(np.isfinite(flat), flat, UNKNOWN) - prism.radius


def _bored(shapes: Shapes, bore: float) -> Shapes:
    """Return ``shapes`` less a disc round the axle, each where that leaves anything of it."""
    cut = shapely.difference(shapes, _disc(bore))
    return np.where(shapely.is_empty(cut), shapes, cut)


@lru_cache(maxsize=16)
def _disc(radius: float) -> shapely.Polygon:
    """Return what is cut out, as a polygon *inside* the circle: metal is never shown smaller than it is."""
    turn = np.arange(DISC_CORNERS) * 2 * np.pi / DISC_CORNERS
    return shapely.Polygon(radius * np.column_stack([np.cos(turn), np.sin(turn)]))


def round_table(prisms: Prisms) -> FloatArray:
    """Return (k, 5) float, mm: x, y, radius, z0, z1 of k round bodies."""
    return np.array([(*p.at, p.radius, p.z0, p.z1) for p in prisms]).reshape(-1, 5)
