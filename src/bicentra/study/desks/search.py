"""The search from a library's point of view: which parts are looked at, and the best sets kept as they come."""

from bisect import insort
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass, field
from operator import attrgetter

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.numbers import is_known
from bicentra.core.base.records import Record, replace
from bicentra.core.parts.job import Caliper, Job, Rotor, Wheel
from bicentra.core.parts.rotor import Hat, misfits, on_hat
from bicentra.core.search.run import (
    PLATES_MM,
    SIDES,
    FoundSet,
    Key,
    SearchSpace,
    SearchStep,
    search,
    sets_called,
    why_not,
)
from bicentra.study.library.library import Library

MOST_REASONS, MOST_KEPT, MOST_CALLED, MOST_MISSED, MOST_NEAR = 6, 500, 40, 30, 60
"""Reasons told against a set; best sets that are kept; sets looked at because somebody asks for them by name; how many sets are
kept of those that one reason stops, and of the near misses."""
NEAR = "near misses"
"""Asked for in place of a reason: the stopped sets that miss least, whatever stops them."""
DUTIES = {"any": 0.0, "light": 3.0, "loaded": 4.5, "hard": 6.0}
"""Least mass of the rotor for a duty [kg]: more iron takes up more heat. Common practice, no published source."""


class Criteria(Record, frozen=True):
    """What is asked of the parts. ``wheel``: of the library, instead of the job's own.

    With ``free_plate`` plate thickness, shims and bolt lengths are chosen again for every set: a plate is made, parts are
    bought. Without it those of the job hold.
    """

    plates: tuple[float, ...] = PLATES_MM
    sides: tuple[str, ...] = SIDES
    mount: str = "any"
    action: str = "any"
    duty: str = "any"
    wheel: Wheel | None = None
    free_plate: bool = True
    angles: int = 360


@dataclass
class SearchResults:
    """The best sets found so far, best first, and how many there are of each verdict.

    ``most``: how many are kept; ``passed``: how many were passed by, as none of them could be better than those kept.
    ``reasons``: how many each finding stops; ``missed``: some of those. ``by_play``: how many are a caution for nothing
    but play in bolt holes.
    """

    combinations: int
    most: int = MOST_KEPT
    done: float = 0.0
    sets: list[FoundSet] = field(default_factory=list)
    counts: Counter[Verdict] = field(default_factory=Counter)
    passed: int = 0
    by_play: int = 0
    reasons: Counter[str] = field(default_factory=Counter)
    missed: dict[str, list[FoundSet]] = field(default_factory=dict)

    def wants(self, key: Key) -> bool:
        """Tell whether a set of this ``key`` would be kept."""
        return len(self.sets) < self.most or key < self.sets[-1].key

    def take(self, step: SearchStep) -> None:
        """Put what one step found in its place."""
        self.done = step.done
        self.passed += step.passed
        for found in step.sets:
            self.counts[found.verdict] += 1 + found.alike
            self.by_play += found.by_play
            if not found.feasible:
                self._miss(found)
            if len(self.sets) < self.most or found.rank < self.sets[-1].rank:
                insort(self.sets, found, key=attrgetter("rank"))
                del self.sets[self.most :]

    def _miss(self, found: FoundSet) -> None:
        """Count a set that is stopped under what stops it, and keep those that miss least."""
        self.reasons[found.decides] += 1 + found.alike
        kept = self.missed.setdefault(found.decides, [])
        if len(kept) < MOST_MISSED or found.nearness < kept[-1].nearness:
            insort(kept, found, key=lambda one: one.nearness)
            del kept[MOST_MISSED:]

    def near_misses(self) -> list[FoundSet]:
        """Return the stopped sets of which it is reported by how much they miss, the nearest first."""
        short_ones = (found for kept in self.missed.values() for found in kept if is_known(found.short))
        return sorted(short_ones, key=lambda found: found.short)[:MOST_NEAR]


def rotors_of(library: Library) -> tuple[Rotor, ...]:
    """Return every rotor of the library that can go on a hub: those of one piece, and each ring on each hat that it fits.

    A ring that no hat fits stays in as it is: it may be bolted to a hub by its own holes.
    """
    items = [part.item for part in library.of_kind("rotor")]
    hats = [part.item for part in library.of_kind("hat")]
    found: list[Rotor] = []
    for rotor in (item for item in items if isinstance(item, Rotor)):
        if rotor.kind != "ring":
            found.append(rotor)
            continue
        pairs = [on_hat(rotor, hat) for hat in hats if isinstance(hat, Hat) and not misfits(rotor, hat)]
        found += pairs or [rotor]
    return tuple(found)


def space_for(library: Library, criteria: Criteria) -> SearchSpace:
    """Return what is searched: the parts of the library that ``criteria`` let pass."""
    least = DUTIES[criteria.duty]
    rotors = tuple(r for r in rotors_of(library) if least == 0.0 or (r.mass_kg is not None and r.mass_kg >= least))
    calipers = tuple(
        item
        for item in (part.item for part in library.of_kind("caliper"))
        if isinstance(item, Caliper)
        and criteria.mount in ("any", item.mount)
        and criteria.action in ("any", item.action)
    )
    return SearchSpace(rotors, calipers, criteria.plates, criteria.sides, criteria.angles)


def job_for(job: Job, criteria: Criteria) -> Job:
    """Return the job the parts are put into: with the wheel wished for, and with its plate left open if wished."""
    if criteria.wheel is not None:
        job = replace(job, wheel=criteria.wheel)
    if criteria.free_plate:
        free = replace(
            job.bracket,
            thickness_mm=None,
            shims_mm=None,
            cutouts=(),
            lug_bolt_length_mm=None,
            caliper_bolt_length_mm=None,
        )
        job = replace(job, bracket=free)
    return job


def look(job: Job, library: Library, criteria: Criteria, most: int = MOST_KEPT) -> Iterator[SearchResults]:
    """Search and give the same harvest again after each step, fuller each time; stop by asking no further.

    The best ``most`` sets are kept: a library of ten thousand parts makes millions.
    """
    space = space_for(library, criteria)
    results = SearchResults(space.combinations, most)
    if not space.combinations:
        results.done = 1.0
        yield results
    for step in search(job_for(job, criteria), space, results.wants):
        results.take(step)
        yield results


def called(job: Job, library: Library, criteria: Criteria, text: str) -> tuple[FoundSet, ...]:
    """Return sets whose parts' names hold every word of ``text``, kept or not: why not this one?"""
    words = text.lower().replace("x", "×").split()
    return sets_called(job_for(job, criteria), space_for(library, criteria), words, MOST_CALLED) if words else ()


def reasons(found: FoundSet) -> tuple[Finding, ...]:
    """Return what speaks against a set most, worst first."""
    return why_not(found.job)[:MOST_REASONS]
