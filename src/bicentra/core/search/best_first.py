"""A set whose bracket is made again at every clock angle: looked at where it matters, each look ended by the first stop.

Making and judging one takes some milliseconds, so not all 360 are. What the caliper alone says is known of all of them:
the angle that could be best by that is looked at first, then every fifteenth, best first, as long as one could still be
better (best-first search by a bound that is never too low: Hart, Nilsson and Raphael 1968, from memory), then closer
and closer round the best. Where all those are stopped, every third before it is said that there is none, every fifth
where it is always the same finding that stops it, which is then asked first. What is chosen has been judged whole.
"""

from collections import Counter
from collections.abc import Callable, Mapping, Sequence

import numpy as np
from numpy.typing import NDArray

from bicentra.core.base.finding import OK, STOP, Finding, Ranks, Verdict
from bicentra.core.base.records import replace
from bicentra.core.base.registry import KINDS, kind_of
from bicentra.core.bracket.families.table import family_of
from bicentra.core.bracket.model import Bracket
from bicentra.core.evaluation.solution import solve, solved
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.parts.limits import limit_for
from bicentra.core.search.clock_invariant import ClockInvariantSet, worst_rank
from bicentra.core.search.score import ROUNDING, CaliperAlone, Places, SweptSet, turning_score

CLOCK_SET = "bushing-clock"
EVERY, CLOSE, HALFWAY = 15, 3, 5
"""Of the open angles every so many is looked at first; where all those are stopped, and where the same finding stops them all: a
narrower window is not found."""
BRACKET_TEXTS = frozenset(kind.id for kind in KINDS if kind.of_bracket and kind.turns)
"""What a bracket is asked that turns with the caliper: each kind tells some of it."""


def search_angles(
    set_: ClockInvariantSet, angles: FloatArray, every: int, caliper_alone: Callable[[], CaliperAlone]
) -> SweptSet:
    """Return what is known of a set at each of ``angles`` [degrees] once it has been looked at where it matters.

    ``every``: how many are passed by at first; with 1 every open angle is looked at, until nothing can help. ``caliper_alone``
    says what is known of all angles without a bracket; it is asked where a first look does not stop the set whatever the angle.
    The values end with those of what stops most often, where all is stopped.
    """
    look, stands = _Look(set_, angles), family_of(set_.job).stands_at
    if stands is None and worst_rank(set_.before) > STOP:
        look.at(0)
    if not look.hopeless:
        alive = look.narrow(caliper_alone())
        if stands is not None:  # only there can it stand: any other angle is a stop
            off = [np.abs((angles[alive] - clock + 180.0) % 360.0 - 180.0) for clock in stands(set_.job)]
            near_by = (
                np.min(off, axis=0) <= limit_for(set_.job, CLOCK_SET).stop if off else np.zeros(len(alive), dtype=bool)
            )
            alive, every = (alive[near_by] if near_by.any() else alive[:1]), 1
        _look_round(look, alive, every)
    return SweptSet(set_.assembly, look.ranks, look.invariant, look.text)


def _look_round(look: "_Look", alive: Places, every: int) -> None:
    first = look.best_first(alive)
    if every == 1:
        look.at_any(first, whether_better_or_not=True)
    else:
        look.at_any([*first[:1], *look.best_first(np.unique([*alive[::every], *alive[-1:]]).astype(np.intp))])
    if look.best is None:
        look.at_any(alive[:: HALFWAY if look.by_one else CLOSE].tolist())
    look.close_in(set(alive.tolist()), every)


class _Look:
    """What has been seen of one set so far. ``hopeless``: what stops it does not turn with the caliper."""

    def __init__(self, set_: ClockInvariantSet, angles: FloatArray) -> None:
        self._set, self._angles = set_, angles
        self.ranks: Ranks = np.full(len(angles), STOP, dtype=np.int8)
        self.invariant: tuple[Finding, ...] = set_.before
        self.hopeless = False
        self._seen: set[int] = set()
        self._values: dict[str, FloatArray] = {}
        self._stops: Counter[str] = Counter()
        ways = set_.ways
        self._stands_alike = all(way.stack_up == ways[0].stack_up and way.asks == ways[0].asks for way in ways)
        self._most = np.full(len(angles), OK, dtype=np.int8)
        self._known_values: Mapping[str, FloatArray] = {}
        self._surely_stopped: Callable[[Places], NDArray[np.bool_]] = lambda places: np.zeros(len(places), dtype=bool)
        self._silent: dict[str, FloatArray] = {}
        self._bound, self._score = self._bounds(), np.zeros(len(angles))

    def narrow(self, alone: CaliperAlone) -> Places:
        """Take up what the caliper alone says, and return the places that it leaves open."""
        self._most, self._known_values = np.minimum(self._most, alone.ranks).astype(np.int8), alone.values
        self._bound, self._surely_stopped = self._bounds(), alone.surely_stopped
        return np.flatnonzero(alone.ranks > STOP)

    def _bounds(self) -> FloatArray:
        """Return what each angle's score cannot come to more than, as far as it turns."""
        every, clock = np.arange(len(self._angles)), np.radians(self._angles)
        values = {**self._known_values, **self._silent}
        return turning_score(self._set.assembly, values, every, clock, unasked=1.0) + ROUNDING

    @property
    def best(self) -> int | None:
        """The best place looked at, by rank and score; ``None`` while all are stopped."""
        rank = int(self.ranks.max(initial=STOP))
        if rank == STOP:
            return None
        places = np.flatnonzero(self.ranks == rank)
        return int(places[np.argmax(self._score[places])])

    def best_first(self, places: Places) -> list[int]:
        """Return ``places`` in the order of what each could come to, best first."""
        order = np.lexsort((-self._bound[places], -self._most[places]))
        return [int(place) for place in places[order]]

    def could_better(self, place: int) -> bool:
        """Tell whether the angle at ``place`` could be better than the best that was looked at."""
        best = self.best
        if best is None:
            return True
        here, there = (self._most[place], self._bound[place]), (self.ranks[best], self._score[best])
        return bool(here > there)

    def at_any(self, places: Sequence[int], whether_better_or_not: bool = False) -> None:
        """Look at each of ``places`` in turn that could better what was seen before, until nothing can."""
        asked = [
            place for place in places if place not in self._seen and (whether_better_or_not or self.could_better(place))
        ]
        stopped = self._surely_stopped(np.array(asked, dtype=np.intp))
        for place in (place for place, is_stopped in zip(asked, stopped) if not is_stopped):
            if self.hopeless:
                return
            if whether_better_or_not or self.could_better(place):
                self.at(place)

    @property
    def by_one(self) -> bool:
        """Whether one finding alone stops every place looked at."""
        return len(self._stops) == 1

    @property
    def text(self) -> dict[str, FloatArray]:
        """The values by finding, what stops most often last; not what is known of all angles but this kind is not asked."""
        order = [
            *(id for id in self._values if id not in self._stops),
            *(id for id, _ in reversed(self._stops.most_common())),
        ]
        before = {
            id: row for id, row in self._known_values.items() if id not in self._values and id not in self._silent
        }
        return before | {id: self._values[id] for id in order}

    def close_in(self, alive: set[int], every: int) -> None:
        """Look on either side of the best place, half as far each time, down to its neighbours."""
        step = every
        while step > 1 and self.best is not None:
            step = (step + 1) // 2
            near = [place % len(self._angles) for place in (self.best - step, self.best + step)]
            self.at_any([place for place in near if place in alive])

    def at(self, place: int) -> None:
        """Make and judge the bracket at one angle."""
        if place in self._seen:
            return
        self._seen.add(place)
        fit = replace(self._set.job.fit, clock_deg=float(self._angles[place]))
        if fit.clock_deg == self._set.job.fit.clock_deg:  # there it is made already
            solution = solved(self._set.job, self._set.assembly, turns=False, remedies=False)
        else:
            solution = solve(replace(self._set.job, fit=fit), turns=False, remedies=False)
        found: list[Finding] = []
        stopped_by = next(iter(self._stops), "")
        likely = kind_of(stopped_by).group if stopped_by else ""
        for findings in solution.lazy.one_by_one(first=likely, last="line-up"):
            found += findings
            if any(f.verdict is Verdict.STOP for f in findings):
                break
        for finding in found:
            self._values.setdefault(finding.id, np.full(len(self._angles), np.nan))[place] = finding.value
        stop = next((f for f in found if f.verdict is Verdict.STOP), None)
        invariant = tuple(f for f in found if not kind_of(f.id).turns)
        if stop is None:
            self._passed(place, worst_rank(found), invariant)
        else:
            self._stopped(stop, solution.bracket, invariant)

    def _passed(self, place: int, rank: int, invariant: tuple[Finding, ...]) -> None:
        """Take up an angle that nothing stops: it was asked everything."""
        if self.best is None:  # what this one does not tell, no other angle tells
            self._silent = dict.fromkeys(BRACKET_TEXTS - self._values.keys(), np.full(len(self._angles), -np.inf))
            self._bound = self._bounds()
        here, self.invariant = np.array([place]), invariant
        self.ranks[place] = rank
        self._score[place] = turning_score(self._set.assembly, self._values, here, np.radians(self._angles[here]))[0]
        if self._stands_alike:  # what does not turn is as bad at any other angle
            held = [f for f in invariant if not kind_of(f.id).shaped]
            self._most = np.minimum(self._most, worst_rank(held)).astype(np.int8)

    def _stopped(self, stop: Finding, own: Bracket, invariant: tuple[Finding, ...]) -> None:
        """Take up what stops an angle."""
        self._stops[stop.id] += 1
        fixed = self._stands_alike and not (kind_of(stop.id).turns or kind_of(stop.id).shaped)
        if fixed or (own.refused and not own.turns):
            self.invariant, self.hopeless = (*self._set.before, *invariant), True
