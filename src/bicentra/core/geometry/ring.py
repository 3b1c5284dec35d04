"""Rings about the wheel axis: what turns with the wheel, in the (r, z) half plane, and what lies between two of them."""

import math

from bicentra.core.base.lazy import cached_property
from bicentra.core.base.numbers import UNKNOWN, is_known, smallest
from bicentra.core.base.records import Record


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
