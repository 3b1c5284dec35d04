"""How shims move a caliper: where they lie along the slot, which way each place acts, and every stack that can be built."""

import math
from functools import lru_cache
from math import comb
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from bicentra.core.base.numbers import UNKNOWN, is_known, known
from bicentra.core.base.records import Record
from bicentra.core.bracket.families.table import family_of
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.lineup.solve import LineUp
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import ShimStacks, Trial

Place = Literal["lug", "ear"]
PLACES: tuple[Place, ...] = ("lug", "ear")
PLACE_WORDS = {"lug": "between lug and bracket", "ear": "between bracket and ear"}


class ShimStation(Record, frozen=True):
    """How shims at one place act. ``at``: where the first and the second stack lie along the slot from the caliper's
    middle [mm], towards the leading end; ``sign``: +1 where a shim moves the caliper outboard, −1 inboard.
    ``radial``: it moves it away from the axle instead. ``names``: what the lugs at either stack are called; empty at the ears.
    """

    place: Place
    at: tuple[float, float]
    sign: float
    radial: bool = False
    names: tuple[str, str] = ("", "")

    @property
    def known(self) -> bool:
        """Whether it is known where the stacks lie."""
        return is_known(*self.at) and abs(self.at[0] - self.at[1]) > 1.0

    def shares(self) -> tuple[float, float]:
        """Return by how much a millimetre at the first and at the second stack moves the caliper's middle outboard [mm]."""
        one, other = self.at
        return -self.sign * other / (one - other), self.sign * one / (one - other)

    def turns(self) -> tuple[float, float]:
        """Return by how much a millimetre at each stack makes the trailing end stand further outboard, per mm along the slot."""
        one, other = self.at
        return -self.sign / (one - other), self.sign / (one - other)

    def wanted(self, offset: float, slope: float) -> tuple[float, float]:
        """Return by how much each stack has to grow [mm] to bring an offset [mm] and a slope [mm per mm] to nothing."""
        return tuple(-self.sign * (offset - slope * at) for at in self.at)  # type: ignore[return-value]

    def moved(self, first: float, second: float) -> tuple[float, float]:
        """Return how far the middle moves outboard [mm] and by how much the slope grows, for stacks that grow by ``first`` and
        ``second`` [mm]."""
        (a, b), (c, d) = self.shares(), self.turns()
        return a * first + b * second, c * first + d * second


def stations_of(job: Job, line: LineUp) -> tuple[ShimStation, ...]:
    """Return the places at which shims can go for the bracket of ``job``, the lugs first."""
    found = []
    kind, caliper = family_of(job), job.caliper
    radial_mount = caliper.mount == "radial"
    half = known(caliper.ear_spacing_mm) / 2
    if kind.on_lugs and job.knuckle.lugs:
        sign = 1.0 if job.bracket.side == "outboard" else -1.0
        if kind.straight:
            sign = 1.0 if caliper.ear_seat == "inboard" else -1.0
        found.append(ShimStation("lug", _lugs_at(job, line), sign, names=_lug_names(job, line)))
    if not kind.straight:
        outward = 1.0 if caliper.ear_seat == "inboard" else -1.0
        found.append(ShimStation("ear", (half, -half), outward, radial_mount))
    return tuple(found)


def _across(job: Job, line: LineUp) -> list[float]:
    """Return where each lug lies along the slot [mm], towards the leading end."""
    return [line.frame.into((known(lug.x_mm), known(lug.y_mm)))[1] for lug in job.knuckle.lugs]


def _lugs_at(job: Job, line: LineUp) -> tuple[float, float]:
    """Return where the lugs on the leading and on the trailing side lie along the slot [mm], several of a side at their
    middle.
    """
    across = _across(job, line)
    if not is_known(*across):
        half = known(job.caliper.ear_spacing_mm) / 2
        return half, -half
    middle = (max(across) + min(across)) / 2
    leading, trailing = [w for w in across if w > middle], [w for w in across if w <= middle]
    if not leading or not trailing:
        return UNKNOWN, UNKNOWN
    return math.fsum(leading) / len(leading), math.fsum(trailing) / len(trailing)


def _lug_names(job: Job, line: LineUp) -> tuple[str, str]:
    """Return what the lugs on the leading and on the trailing side are called; nothing while it is unknown which are which."""
    across = _across(job, line)
    if not is_known(*across):
        return "", ""
    middle = (max(across) + min(across)) / 2
    sides = ([lug.name for lug, w in zip(job.knuckle.lugs, across) if (w > middle) is ahead] for ahead in (True, False))
    leading, trailing = (" and ".join(name for name in names if name) for names in sides)
    return leading, trailing


def stacks_at(trial: Trial, place: Place) -> ShimStacks:
    """Return the shims a trial has at a place."""
    return trial.shims_mm if place == "lug" else trial.ear_shims_mm


def total_of(leaves: ShimStacks) -> tuple[float, float]:
    """Return the height of both stacks [mm]; unknown where one of their shims is."""
    first, second = (math.fsum(known(thick) for thick in side) for side in leaves.sides)
    return first, second


Counts = NDArray[np.int8]
MOST_A_BOLT, MOST_STACKS = 8, 200_000
"""Most pieces under one bolt that are thought of (one to four are common practice), and most stacks of one number of pieces."""


def most_pieces(sizes: int) -> int:
    """Return how many pieces a stack from so many sizes may have, so that their number stays within bounds."""
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


def nearest_stack(ready: dict[float, int], height: float, bolts: int = 1) -> tuple[float, ...]:
    """Return the shims whose sum comes nearest to ``height`` [mm] from those that are ``ready`` for so many bolts
    alike, the fewest pieces among equals; at most six.
    """
    best: dict[float, tuple[float, ...]] = {0.0: ()}
    for thick in sorted((t for t, many in ready.items() if many >= bolts), reverse=True):
        for total, pieces in list(best.items()):
            for more in range(1, ready[thick] // bolts + 1):
                stack = pieces + (thick,) * more
                at = round(total + more * thick, 6)
                if len(stack) > 6 or at > height + max(ready):
                    break
                if at not in best or len(stack) < len(best[at]):
                    best[at] = stack
    return best[min(best, key=lambda at: (round(abs(at - height), 6), len(best[at])))]
