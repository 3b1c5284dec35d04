"""Rings about the wheel axis, and clearances of many pairs at many clock angles: the one rule that tells *unknown* from
*clear*.
"""

import math
from collections.abc import Iterable

import numpy as np
import shapely

from bicentra.core.base.cache import cached_property
from bicentra.core.base.numbers import UNKNOWN, is_known, smallest
from bicentra.core.base.records import Record
from bicentra.core.geometry.outline import FloatArray


class Ring(Record, frozen=True):
    """A ring about the wheel axis: r from ``r0`` to ``r1``, z from ``z0`` to ``z1`` [mm].

    ``sure``: measured; else it bounds a thing of which only the greatest size is known.
    """

    r0: float
    r1: float
    z0: float
    z1: float
    sure: bool = True

    @cached_property
    def is_known(self) -> bool:
        """Whether all four bounds are known."""
        return is_known(self.r0, self.r1, self.z0, self.z1)


def ring_gap(one: Ring, other: Ring) -> float:
    """Return the distance [mm] between two rings; negative by the smaller overlap when they run into each other."""
    if not (one.is_known and other.is_known):
        return UNKNOWN
    dr = max(one.r0 - other.r1, other.r0 - one.r1)
    dz = max(one.z0 - other.z1, other.z0 - one.z1)
    if dr > 0 and dz > 0:
        return math.hypot(dr, dz)
    return max(dr, dz)


def nearest_gap(one: Ring, others: tuple[Ring, ...], enough: float = math.inf) -> float:
    """Return the smallest distance [mm] from ``one`` to any of ``others``; unknown when any is unknown.

    One that is only bounded counts where even its bound leaves ``enough`` [mm], or where it cannot be the nearest; else the
    distance is unknown, unless a measured one is already met.
    """
    return bounded_least(
        [ring_gap(one, other) for other in others if other.sure],
        [ring_gap(one, other) for other in others if not other.sure],
        enough,
    )


def bounded_least(measured: list[float], bounded: list[float], enough: float) -> float:
    """Return the least [mm] of ``measured`` distances and of ``bounded`` ones, which may really be larger, as ``nearest_gap``."""
    sure = smallest(measured) if measured else math.inf
    if not bounded or math.isnan(sure):
        return sure if measured else UNKNOWN
    bound = smallest(bounded)
    if bound >= min(sure, enough):
        return min(sure, bound)
    certain = [value for value in measured if value <= 0.0]
    return min(certain) if certain else UNKNOWN


NO_PAIR = math.inf
"""The clearance of two things of which one does not exist."""


class Swept(Record, frozen=True):
    """One clearance for each of n clock angles [mm] (or [degrees] for bleed screws) and whose it is at each."""

    value: FloatArray
    which: FloatArray
    names: tuple[tuple[str, str], ...]

    def pair(self, index: int = 0) -> tuple[str, str]:
        """Return the two drawing tags that the smallest value at ``index`` belongs to."""
        return self.names[int(self.which[index])] if self.names else ("caliper", "bracket")


def least(columns: list[FloatArray], names: list[tuple[str, str]], count: int, certain: float = 0.0) -> Swept:
    """Return the smallest of the columns, (count, k) float [mm] each, at each of ``count`` angles.

    Unknown where one is unknown, unless another is known to touch already: a certain clash is not hidden by a
    measurement that is missing elsewhere; ``certain`` is what counts as touching. Without columns no pair exists.
    """
    if not columns or not sum(column.shape[1] for column in columns):
        return Swept(np.full(count, NO_PAIR), np.zeros(count), ())
    table = columns[0] if len(columns) == 1 else np.concatenate(columns, axis=1)
    finite = np.isfinite(table)
    if finite.all():
        return Swept(table.min(axis=1), table.argmin(axis=1), tuple(names))
    known_part = np.where(finite, table, np.inf)
    smallest = known_part.min(axis=1)
    value = np.where(~finite.all(axis=1) & ~(smallest <= certain), UNKNOWN, smallest)
    return Swept(value, known_part.argmin(axis=1), tuple(names))


def least_of(values: Iterable[float], certain: float = 0.0) -> float:
    """Return the smallest of ``values`` [mm] by the rule of ``least``; ``NO_PAIR`` for none at all."""
    rows = list(values)
    if not rows:
        return NO_PAIR
    finite = min((value for value in rows if math.isfinite(value)), default=math.inf)
    return finite if finite <= certain or all(map(math.isfinite, rows)) else UNKNOWN


def distance(one: FloatArray | shapely.Geometry, other: FloatArray | shapely.Geometry) -> FloatArray:
    """Return the distances in plan [mm] of two geometries or arrays of them; unknown where a place is unknown."""
    with np.errstate(invalid="ignore"):
        found = np.asarray(shapely.distance(one, other), dtype=float)
    finite = np.isfinite(found)
    return found if finite.all() else np.where(finite, found, UNKNOWN)


def with_height(flat: FloatArray, height: FloatArray | float) -> FloatArray:
    """Return the distance of upright bodies from their distance in plan and along z [mm]; negative when they overlap."""
    both = (flat > 0) & (np.asarray(height) > 0)
    return np.where(both, np.hypot(flat, height), np.maximum(flat, height))
