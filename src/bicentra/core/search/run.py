"""The search: every rotor with every caliper, plate behind the rotor and side, at every clock angle; results as they come."""

import math
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence

import numpy as np

from bicentra.core.base.finding import BY_RANK, CAUTION, OK, STOP, Finding, Verdict, worst
from bicentra.core.base.numbers import UNKNOWN, is_known
from bicentra.core.base.records import Record, field, replace
from bicentra.core.base.registry import kind_of
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.bracket.axial import axial_error
from bicentra.core.bracket.families.table import family_of
from bicentra.core.consistency.table import consistency_findings
from bicentra.core.evaluation.solution import as_said, borrowed, ranked, solve
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.lineup.checks import line_up_findings
from bicentra.core.lineup.rotor_on_hub import rotor_on_hub
from bicentra.core.lineup.solve import LineUp, line_up
from bicentra.core.parts.job import Caliper, Fit, Job, Rotor
from bicentra.core.search.best_first import EVERY
from bicentra.core.search.clock_invariant import ClockInvariantSet, still_set, worst_rank
from bicentra.core.search.score import Places, SweptSet, best_score, criteria_met, nearest_miss, scores
from bicentra.core.search.screen import Screen, but_for_names
from bicentra.core.search.sweep import sweep_set
from bicentra.core.uncertainty.doubts import guessed_paths, past_by_play, play_bands, without_survey

Key = tuple[float, float]
Wanted = Callable[[Key], bool]
ANGLES, BY_PLAY = 360, "only for play in the bolt holes"
BEFORE_OTHERS = 0.5
"""By how much of a verdict a caution for play alone stands before other watches."""
PLATES_MM = (0.0, 3.0, 5.0)
"""Plates behind the rotor that are tried: none, and two that are easily had."""
SIDES = ("outboard", "inboard")
APART_DEG, MOST_TRIED = 10.0, 12
"""Angles at which a parking-brake caliper is asked for: how far apart they are, and how many at most."""


class SearchSpace(Record, frozen=True):
    """What is searched: parts, plates behind the rotor [mm], sides of the lugs for the bracket, clock angles to the turn."""

    rotors: tuple[Rotor, ...]
    calipers: tuple[Caliper, ...]
    plates: tuple[float, ...] = PLATES_MM
    sides: tuple[str, ...] = SIDES
    angles: int = ANGLES

    @property
    def combinations(self) -> int:
        """How many sets there are, every clock angle counted."""
        return len(self.rotors) * len(self.calipers) * len(self.plates) * len(self.sides) * self.angles


class FoundSet(Record, frozen=True):
    """The best clock angle of one rotor, caliper, plate and side. ``decides``: id of the finding its verdict comes
    from.

    ``verdict`` is that of ``check`` on ``job`` without its survey; lengths in mm, unknown where the set was stopped
    before. ``axial_offset``: what the plate has to make up at the first lug. ``granted``: the criteria behind the
    score, 0 to 1 each. ``alike``: so many more sets of these parts are stopped too and were not made; this is the one
    that misses least, as far as that is reported. ``short``: by how much what stops it misses its limits, added up.
    ``by_play``: a caution for nothing but play in the bolt holes, to be settled at the dry fit.
    """

    job: Job
    verdict: Verdict
    score: float
    decides: str
    tip_gap: float
    axial_error: float
    thickness: float
    feasible: int
    axial_offset: float = UNKNOWN
    granted: Mapping[str, float] = field(default_factory=dict)
    alike: int = 0
    short: float = UNKNOWN
    by_play: bool = False

    @property
    def key(self) -> Key:
        """What sets are ranked by, best first: verdict, a caution for play alone before others, then score."""
        return -self.verdict.rank - BEFORE_OTHERS * self.by_play, -self.score

    @property
    def nearness(self) -> float:
        """By how much a stopped set misses [mm], for putting the nearest first: infinitely much where that is not reported."""
        return self.short if is_known(self.short) else math.inf

    @property
    def rank(self) -> tuple[float, float, float]:
        """What sets are listed by, best first: as ``key``, then of those that are stopped what they miss by [mm]."""
        return *self.key, self.nearness

    @property
    def open_angles(self) -> int | None:
        """How many clock angles are open; ``None`` for a kind of bracket that is made again at each, for not all are
        looked at.
        """
        return self.feasible if family_of(self.job).cut is not None else None

    @property
    def lies(self) -> str:
        """On which side of the lugs its plate lies, in words; empty where its kind of bracket is the same on either."""
        return f"plate {self.job.bracket.side}" if family_of(self.job).sided else ""

    @property
    def name(self) -> str:
        """The set in one line."""
        fit = self.job.fit
        behind = f", {fit.rotor_spacer_mm:g} mm behind the rotor" if fit.rotor_spacer_mm else ""
        plate = f", {self.lies}" if self.lies else ""
        return f"{self.job.rotor.name} + {self.job.caliper.name} at {fit.clock_deg:g}°{behind}{plate}"


class SearchStep(Record, frozen=True):
    """What came out since the last step: how much of the space is done (0 to 1), the sets found, and how many were passed by."""

    done: float
    sets: tuple[FoundSet, ...]
    passed: int = 0


def search(job: Job, space: SearchSpace, wanted: Wanted = lambda _: True) -> Iterator[SearchStep]:
    """Look through ``space`` for the hub and knuckle of ``job``; one step for each rotor. Stop by asking no further.

    Every set of parts gives one ``FoundSet``, at its best angle. What a rotor stops by itself, or with a caliper, is not made set
    by set: one of them stands for all, told with what stops it and how many are ``alike``. Parts that differ by name alone are
    looked at once. A set whose ``key`` could at best be one that is not ``wanted`` any more is passed by without being turned
    (branch and bound: Land and Doig 1960, from memory).
    """
    space = replace(space, sides=_sides(job, space))
    angles: FloatArray = np.arange(space.angles, dtype=np.float64) * (360.0 / space.angles)
    screen, count = Screen(space.calipers), 0
    for alike in but_for_names(list(enumerate(space.rotors))):
        first = alike[0][1]
        found = tuple(_with_rotor(replace(job, rotor=first), space, screen, angles, wanted))
        sets = tuple(one for one in found if one is not None)
        for _, rotor in alike:
            count += 1
            named = sets if rotor is first else tuple(replace(f, job=replace(f.job, rotor=rotor)) for f in sets)
            yield SearchStep(count / len(space.rotors), named, len(found) - len(sets))


def _sides(job: Job, space: SearchSpace) -> tuple[str, ...]:
    """Return the sides of the lugs to try: one, where the kind of bracket is the same on either, the job's own if it is
    wished.
    """
    if family_of(job).sided:
        return space.sides
    return (job.bracket.side,) if job.bracket.side in space.sides else space.sides[:1]


def sets_called(job: Job, space: SearchSpace, words: Sequence[str], most: int) -> tuple[FoundSet, ...]:
    """Return the first ``most`` sets of ``space`` whose names hold every one of ``words``, each looked at by itself."""
    found: list[FoundSet] = []
    for rotor in space.rotors:
        for caliper in space.calipers:
            parts = f"{rotor.name} + {caliper.name}".lower().replace("x", "×")
            if all(word in parts for word in words):
                one = replace(space, rotors=(rotor,), calipers=(caliper,))
                found += [found_set for step in search(job, one) for found_set in step.sets]
                if len(found) >= most:
                    return tuple(found[:most])
    return tuple(found)


def _with_rotor(
    job: Job, space: SearchSpace, screen: Screen, angles: FloatArray, wanted: Wanted
) -> Iterator[FoundSet | None]:
    """Yield every set with this rotor, ``None`` for one passed by; what does not change from set to set is made once."""
    lengths, sides = job.lengths, len(space.sides)
    fits = {plate: replace(job.fit, rotor_spacer_mm=plate) for plate in space.plates}
    on_hub = {plate: rotor_on_hub(replace(job, fit=fit), lengths, remedies=False) for plate, fit in fits.items()}
    fitting = {plate: fit for plate, fit in fits.items() if on_hub[plate].verdict is not Verdict.STOP}
    if not space.calipers or not sides:
        return
    first = replace(job, caliper=space.calipers[0], bracket=replace(job.bracket, side=space.sides[0]))
    unfit = [_stopped(replace(first, fit=fits[plate]), (on_hub[plate],)) for plate in fits if plate not in fitting]
    if unfit:
        yield replace(min(unfit, key=lambda found: found.nearness), alike=len(unfit) * len(space.calipers) * sides - 1)
    if fitting:
        ways = [_way(job, fit, side) for fit in fitting.values() for side in space.sides]
        yield from _with_ways(ways, space, screen, angles, wanted)


def _way(job: Job, fit: Fit, side: str) -> Job:
    return replace(job, fit=fit, bracket=replace(job.bracket, side=side))


def _with_ways(
    ways: list[Job], space: SearchSpace, screen: Screen, angles: FloatArray, wanted: Wanted
) -> Iterator[FoundSet | None]:
    """Yield every set of one rotor, with each plate and side of ``ways``: what surely stops many calipers at once first."""
    left = np.ones(len(space.calipers), dtype=bool)
    for places in screen.surely_stopped(ways[0]):
        left[places] = False
        pair = replace(ways[0], caliper=space.calipers[places[0]])
        line = line_up(pair)
        yield replace(_stopped(pair, _pair_findings(pair, line), line), alike=len(places) * len(ways) - 1)
    errors = [np.where(left, screen.off_centre(way), np.nan) for way in ways]
    off = [np.isfinite(error) for error in errors]
    for way, error, held_off in zip(ways, errors, off):
        if held_off.any():
            one = still_set(
                replace(way, caliper=space.calipers[int(np.nanargmin(error))]), float(angles[0]), way.lengths
            )
            why = axial_error(one.bracket, one.lengths, remedies=False)
            yield replace(_stopped(one.job, (why,), one.line), alike=int(held_off.sum()) - 1)
    left &= ~np.all(off, axis=0)
    for alike in but_for_names([(place, space.calipers[place]) for place in np.flatnonzero(left).tolist()]):
        place, first = alike[0]
        open_ways = [replace(way, caliper=first) for way, held_off in zip(ways, off) if not held_off[place]]
        found = tuple(_pair(open_ways, angles, wanted))
        yield from found
        for _, caliper in alike[1:]:
            yield from (one and replace(one, job=replace(one.job, caliper=caliper)) for one in found)


def _pair(ways: list[Job], angles: FloatArray, wanted: Wanted) -> Iterator[FoundSet | None]:
    """Yield every set of one rotor with one caliper, ``None`` for one passed by. ``ways``: with each plate and side in
    question.
    """
    stopped: list[FoundSet] = []
    before: dict[Fit, tuple[LineUp, tuple[Finding, ...]]] = {}
    for way in ways:
        if way.fit not in before:
            line = line_up(way)
            before[way.fit] = line, _pair_findings(way, line)
        line, invariant = before[way.fit]
        if worst_rank(invariant) == STOP:
            stopped.append(_stopped(way, invariant, line))
        else:
            yield _at_its_best(still_set(way, float(angles[0]), way.lengths, invariant), angles, wanted)
    if stopped:
        yield replace(min(stopped, key=lambda found: found.nearness), alike=len(stopped) - 1)


def _pair_findings(job: Job, line: LineUp) -> tuple[Finding, ...]:
    """Return the findings of the line-up that do not turn with the caliper, and what the records' own numbers come to."""
    before = (*line_up_findings(job, line, remedies=False), *consistency_findings(job, job.lengths))
    return tuple(f for f in as_said(job, before) if not kind_of(f.id).turns)


def _stopped(job: Job, findings: tuple[Finding, ...], line: LineUp | None = None) -> FoundSet:
    line = line if line is not None else line_up(job)
    worst_one = min(findings, key=lambda f: f.verdict.rank)
    sizes = (line.tip_gap, UNKNOWN, UNKNOWN)
    offset, short = _at_first_lug(line), short_by(findings)
    return FoundSet(job, Verdict.STOP, 0.0, worst_one.id, *sizes, 0, offset, short=short)


def short_by(findings: Iterable[Finding]) -> float:
    """Return by how much all that stops misses its limits, added up [mm]; unknown where one of them is no length."""
    stops = [f for f in findings if f.verdict is Verdict.STOP]
    if not all(f.unit == "mm" and is_known(f.value, f.limit) for f in stops):
        return UNKNOWN
    return sum(abs(f.value - f.limit) for f in stops)


def _at_first_lug(line: LineUp) -> float:
    return next(iter(line.axial_offset), UNKNOWN)


def _at_its_best(invariant: ClockInvariantSet, angles: FloatArray, wanted: Wanted) -> FoundSet | None:
    """Return a set at its best clock angle; ``None`` where it could not be ``wanted`` at any."""
    best: float = worst_rank(invariant.findings)
    if best == STOP:
        decides = next(f.id for f in invariant.findings if f.verdict is Verdict.STOP)
        sizes, offset = _sizes(invariant), _at_first_lug(invariant.line)
        return FoundSet(
            invariant.job, Verdict.STOP, 0.0, decides, *sizes, 0, offset, short=short_by(invariant.findings)
        )
    if best == OK and not invariant.angle_by_angle and _pushed(invariant.job, invariant.assembly, invariant.findings):
        best = CAUTION + BEFORE_OTHERS
    return _swept(invariant, angles) if wanted((-best, -best_score(invariant))) else None


def _sizes(invariant: ClockInvariantSet) -> tuple[float, float, float]:
    return invariant.line.tip_gap, invariant.bracket.stack_up.worst_error, invariant.bracket.stack_up.thickness


def _swept(invariant: ClockInvariantSet, angles: FloatArray) -> FoundSet:
    job, sampled = invariant.job, sweep_set(invariant, angles, EVERY)
    stack_up, line = sampled.assembly.stack_up, sampled.assembly.line
    sizes = (line.tip_gap, stack_up.worst_error, stack_up.thickness)
    places = np.flatnonzero(sampled.ranks > STOP)
    if not len(places):
        return _stopped_everywhere(job, sampled, angles, sizes)
    granted = criteria_met(sampled, places, np.radians(angles[places]))
    score = scores(granted)
    order = np.lexsort((-score, -sampled.ranks[places]))
    best = int(order[0])
    if job.parking is not None and not invariant.angle_by_angle:
        best, sampled = _beside_parking(job, sampled, angles, places, order)
        if sampled.ranks[places[best]] == STOP:
            return FoundSet(job, Verdict.STOP, 0.0, _why_stopped(sampled), *sizes, 0, _at_first_lug(line))
    chosen = replace(job, fit=replace(job.fit, clock_deg=float(angles[places[best]])))
    verdict = BY_RANK[sampled.ranks[places[best]]]
    worst_one = min(sampled.invariant, key=lambda f: f.verdict.rank)
    decides = worst_one.id if worst_one.verdict is verdict is not Verdict.OK else ""
    at_best = {name: float(values[best]) for name, values in granted.items()}
    found = FoundSet(chosen, verdict, float(score[best]), decides, *sizes, len(places), _at_first_lug(line), at_best)
    return _doubted(found, sampled) if verdict is Verdict.OK else found


def _stopped_everywhere(job: Job, sampled: SweptSet, angles: FloatArray, sizes: tuple[float, float, float]) -> FoundSet:
    """Return a set that no angle suits, at the one where it misses least; at none, where that is not reported or is much."""
    offset, nearest = _at_first_lug(sampled.assembly.line), nearest_miss(job, sampled.values)
    if nearest is None:
        return FoundSet(job, Verdict.STOP, 0.0, _why_stopped(sampled), *sizes, 0, offset)
    place, decides = nearest
    there = replace(job, fit=replace(job.fit, clock_deg=float(angles[place])))
    short = short_by(solve(there, turns=False, remedies=False).findings)
    return FoundSet(there, Verdict.STOP, 0.0, decides, *sizes, 0, offset, short=short)


def _beside_parking(
    job: Job, sampled: SweptSet, angles: FloatArray, places: Places, order: Places
) -> tuple[int, SweptSet]:
    """Return the best of ``places`` once the parking-brake caliper and its adapter are asked too, and the set with its rank.

    They are not swept: angles are solved whole, best first in ``order``, a turn of ``APART_DEG`` or more between any two.
    """
    tried = dict[int, tuple[Finding, ...]]()
    for k in order.tolist():
        turns = (abs((angles[places[k]] - angles[places[other]] + 180.0) % 360.0 - 180.0) for other in tried)
        if all(turn >= APART_DEG for turn in turns):
            there = replace(job, fit=replace(job.fit, clock_deg=float(angles[places[k]])))
            tried[k] = solve(there, turns=False, remedies=False).findings
            if worst_rank(tried[k]) == sampled.ranks[places[k]] or len(tried) == MOST_TRIED:
                break
    best = max(tried, key=lambda k: worst_rank(tried[k]))
    ranks = sampled.ranks.copy()
    ranks[places[best]] = worst_rank(tried[best])
    beside = tuple(finding for finding in tried[best] if kind_of(finding.id).group == "parking")
    return best, replace(sampled, ranks=ranks, invariant=(*sampled.invariant, *beside))


def _why_stopped(sampled: SweptSet) -> str:
    """Return the id of what stops a set at every angle: a finding that does not turn, else the last question asked."""
    invariant = min(sampled.invariant, key=lambda f: f.verdict.rank)
    return invariant.id if invariant.verdict is Verdict.STOP else next(reversed(sampled.values), "handedness")


def _doubted(found: FoundSet, sampled: SweptSet) -> FoundSet:
    """Return what is OK as it is once play and guesses hold what rests on them down to a caution."""
    if guessed_paths(found.job):
        held = without_survey(solve(found.job, turns=False, remedies=False))
        return _held_by(found, tuple(f for f in held if f.verdict is not Verdict.OK))
    return _held_by(found, (*borrowed(found.job), *_pushed(found.job, sampled.assembly, sampled.invariant)))


def _pushed(job: Job, assembly: Assembly, findings: tuple[Finding, ...]) -> tuple[Finding, ...]:
    """Return those of ``findings`` that are met and that play can push past their limits, as the watches they are."""
    bands = play_bands(job, assembly)
    return ranked(
        replace(f, verdict=Verdict.CAUTION, by_play=True) for f in findings if past_by_play(f, bands.get(f.id))
    )


def _held_by(found: FoundSet, open: tuple[Finding, ...]) -> FoundSet:
    """Return ``found`` held down by what of it is not met, worst first."""
    if not open:
        return found
    return replace(found, verdict=open[0].verdict, decides=open[0].id, by_play=all(finding.by_play for finding in open))


def single_path(job: Job) -> tuple[Verdict, tuple[Finding, ...]]:
    """Return the verdict and findings of one set the long way: one whole solution, as ``check`` makes it without a survey."""
    findings = without_survey(solve(job, turns=False, remedies=False))
    return worst(f.verdict for f in findings), findings


def why_not(job: Job) -> tuple[Finding, ...]:
    """Return what stops the set in ``job``, or is unknown about it; where nothing is, what is only a caution."""
    _, findings = single_path(job)
    for verdicts in ((Verdict.STOP,), (Verdict.UNKNOWN,), (Verdict.CAUTION,)):
        found = tuple(f for f in findings if f.verdict in verdicts)
        if found:
            return found
    return ()
