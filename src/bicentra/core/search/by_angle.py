"""A set whose bracket is made anew at every clock angle: looked at where it matters, each look ended by the first stop.

Making and judging one takes some milliseconds, so not all 360 are: every fifteenth that the caliper leaves open first, then closer
and closer round the best of them; every third before it is said that there is none, every fifth where it is always the same
finding that stops it, which is then asked first. What is chosen has been judged whole.
"""

from collections import Counter

import numpy as np
from numpy.typing import NDArray

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.judging import STOP, Ranks
from bicentra.core.base.records import replace
from bicentra.core.base.registry import kind_of
from bicentra.core.bracket.families.table import family_of, make
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.parts.limits import limit_for
from bicentra.core.search.still import StillSet, worst_rank
from bicentra.core.solution import solve

CLOCK_SET = "bushing-clock"
EVERY, CLOSE, HALFWAY = 15, 3, 5
"""Of the open angles every so many is looked at first; where all those are stopped, and where the same finding stops them all: a
narrower window is not found."""
Places = NDArray[np.intp]


def looked_at(
    set_: StillSet, angles: FloatArray, alive: Places, every: int
) -> tuple[Ranks, tuple[Finding, ...], dict[str, FloatArray]]:
    """Return rank and values at each of ``angles`` [degrees], and the findings that do not turn; ``alive``: places that are open;
    ``every``: how many of them are passed by at first.

    The values end with those of what stops most often, where everything is stopped.
    """
    look = _Look(set_, angles)
    stands = family_of(set_.job).stands_at
    if stands is not None:  # only there can it stand: any other angle is a stop
        off = [np.abs((angles[alive] - clock + 180.0) % 360.0 - 180.0) for clock in stands(set_.job)]
        near_by = (
            np.min(off, axis=0) <= limit_for(set_.job, CLOCK_SET).stop if off else np.zeros(len(alive), dtype=bool)
        )
        alive, every = (alive[near_by] if near_by.any() else alive[:1]), 1
    coarse = [*alive[::every].tolist(), *alive[-1:].tolist()]
    for place in coarse:
        look.at(place)
        if look.hopeless:
            break
    if look.best is None:
        rest = alive[:: HALFWAY if look.by_one else CLOSE]
        for place in rest.tolist() if not look.hopeless else ():
            look.at(place)
    look.close_in(set(alive.tolist()), every)
    return look.ranks, look.still, look.told


class _Look:
    """What has been seen of one set so far. ``hopeless``: what stops it does not turn with the caliper."""

    def __init__(self, set_: StillSet, angles: FloatArray) -> None:
        self._set, self._angles = set_, angles
        self.ranks: Ranks = np.full(len(angles), STOP, dtype=np.int8)
        self.still: tuple[Finding, ...] = set_.before
        self.hopeless = False
        self._seen: set[int] = set()
        self._values: dict[str, FloatArray] = {}
        self._stops: Counter[str] = Counter()
        job, kind = set_.job, family_of(set_.job)
        ways = make(kind, job, set_.line, set_.lengths)
        self._stands_alike = all(way.stack_up == ways[0].stack_up and way.asks == ways[0].asks for way in ways)

    @property
    def best(self) -> int | None:
        """The best place looked at, of those of one rank the one with its bleeders highest; ``None`` while all are stopped."""
        rank = int(self.ranks.max(initial=STOP))
        if rank == STOP:
            return None
        places = np.flatnonzero(self.ranks == rank)
        off_top = self._values.get("bleeder-up", np.zeros(len(self.ranks)))[places]
        return int(places[np.argmin(np.nan_to_num(off_top, nan=np.inf))])

    @property
    def by_one(self) -> bool:
        """Whether one finding alone stops every place looked at."""
        return len(self._stops) == 1

    @property
    def told(self) -> dict[str, FloatArray]:
        """The values by finding, what stops most often last."""
        order = [
            *(id for id in self._values if id not in self._stops),
            *(id for id, _ in reversed(self._stops.most_common())),
        ]
        return {id: self._values[id] for id in order}

    def close_in(self, alive: set[int], every: int) -> None:
        """Look on either side of the best place, half as far each time, down to its neighbours."""
        step = every
        while step > 1 and self.best is not None:
            step = (step + 1) // 2
            for place in (self.best - step, self.best + step):
                if place % len(self._angles) in alive:
                    self.at(place % len(self._angles))

    def at(self, place: int) -> None:
        """Make and judge the bracket at one angle."""
        if place in self._seen:
            return
        self._seen.add(place)
        fit = replace(self._set.job.fit, clock_deg=float(self._angles[place]))
        solution = solve(replace(self._set.job, fit=fit), turns=False, cures=False)
        found: list[Finding] = []
        stopped_by = next(iter(self._stops), "")
        likely = kind_of(stopped_by).room if stopped_by else ""
        for findings in solution.asked.one_by_one(first=likely, last="line-up"):
            found += findings
            if any(f.verdict is Verdict.STOP for f in findings):
                break
        self.ranks[place] = worst_rank(found)
        for finding in found:
            self._values.setdefault(finding.id, np.full(len(self._angles), np.nan))[place] = finding.value
        stop = next((f for f in found if f.verdict is Verdict.STOP), None)
        still = tuple(f for f in found if not kind_of(f.id).turns)
        if stop is None:
            self.still = still
        else:
            self._stops[stop.id] += 1
            own = solution.bracket
            fixed = self._stands_alike and not (kind_of(stop.id).turns or kind_of(stop.id).shaped)
            if fixed or (own.refused and not own.turns):
                self.still, self.hopeless = (*self._set.before, *still), True
