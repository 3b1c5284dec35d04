"""Clearances of many pairs at many clock angles, and the one rule that tells *unknown* from *no such pair*.

``nan``: a measurement is missing. ``NO_PAIR`` (infinity): the two things that could meet are not both there, which only a list
without any pair can say. The geometry library gives infinity for points it was never given a place for: ``distance`` and
``least`` turn that into *unknown*, so that a missing measurement never looks like endless room.
"""

import math
from collections.abc import Iterable

import numpy as np
import shapely

from bicentra.core.base.numbers import UNKNOWN
from bicentra.core.base.records import Record
from bicentra.core.geometry.outline import FloatArray

NO_PAIR = math.inf
"""The clearance of two things of which one does not exist."""


class Swept(Record, frozen=True):
    """One clearance for each of n clock angles [mm] (or [degrees] for bleeders) and whose it is at each."""

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
