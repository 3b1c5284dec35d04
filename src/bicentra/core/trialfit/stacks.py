"""Every stack of shims that can be built from what lies ready, by number of pieces; made once for a number of sizes."""

from functools import lru_cache
from math import comb

import numpy as np
from numpy.typing import NDArray

from bicentra.core.base.records import Record
from bicentra.core.geometry.outline import FloatArray

Counts = NDArray[np.int8]
MOST_A_BOLT, MOST_STACKS = 8, 200_000
"""Most pieces under one bolt that are thought of (one to four are common practice), and most stacks of one number of pieces."""


def most_pieces(sizes: int) -> int:
    """Return how many pieces a stack from so many sizes may have, so that their number stays within bounds [no unit]."""
    return max((k for k in range(MOST_A_BOLT + 1) if comb(sizes + k - 1, k) <= MOST_STACKS), default=0) if sizes else 0


class Stacks(Record, frozen=True, eq=False):
    """The stacks of one number of pieces. ``counts``: (n, sizes) int, how many of each size; ``sums``: (n,) float, mm, rising."""

    counts: Counts
    sums: FloatArray

    def between(self, low: FloatArray, high: FloatArray) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
        """Return where those from ``low`` to ``high`` [mm] begin and end, for each of both, (n,) each."""
        return np.searchsorted(self.sums, low - 1e-9), np.searchsorted(self.sums, high + 1e-9, "right")


@lru_cache(maxsize=64)
def _multisets(sizes: int, pieces: int) -> tuple[Counts, NDArray[np.int64]]:
    """Return all multisets of so many pieces of so many sizes as counts, (n, sizes) int, and the last size in each, (n,) int."""
    if pieces == 0:
        return np.zeros((1, sizes), dtype=np.int8), np.zeros(1, dtype=np.int64)
    last, top = _multisets(sizes, pieces - 1)
    unit = np.eye(sizes, dtype=np.int8)
    grown = [last[top <= size] + unit[size] for size in range(sizes)]
    tops = [np.full(len(some), size, dtype=np.int64) for size, some in enumerate(grown)]
    return (np.concatenate(grown), np.concatenate(tops)) if grown else (last[:0], top[:0])


@lru_cache(maxsize=64)
def stacks_of(sizes: tuple[float, ...], counts: tuple[int, ...], pieces: int) -> Stacks:
    """Return the stacks of so many pieces from ``counts`` of each of ``sizes`` [mm]."""
    some, _ = _multisets(len(sizes), pieces)
    kept = some[np.all(some <= np.array(counts, dtype=np.int64), axis=1)]
    sums = kept @ np.array(sizes)
    order = np.argsort(sums, kind="stable")
    return Stacks(kept[order], sums[order])
