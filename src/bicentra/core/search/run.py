"""The search: every rotor with every caliper, plate behind the rotor and side, at every clock angle; results as they come."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace

import numpy as np

from bicentra.core.base.finding import Finding, Verdict, worst
from bicentra.core.base.judging import BY_RANK, OK, STOP
from bicentra.core.base.numbers import UNKNOWN
from bicentra.core.base.registry import kind_of
from bicentra.core.base.wording import LengthFormat
from bicentra.core.certainty.guesses import guessed_paths, guesses_behind, on_a_guess
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.lineup.checks import line_up_findings
from bicentra.core.lineup.rotor_on_hub import rotor_on_hub
from bicentra.core.lineup.solve import LineUp, line_up
from bicentra.core.parts.job import Caliper, Job, Rotor
from bicentra.core.search.score import criteria_met, scores
from bicentra.core.search.sweep import SweptSet, sweep_set, worst_rank
from bicentra.core.solution import Solution, solve

ANGLES = 360
PLATES_MM = (0.0, 3.0, 5.0)
"""Plates behind the rotor that are tried: none, and two that are easily had."""
SIDES = ("outboard", "inboard")


@dataclass(frozen=True)
class Space:
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


@dataclass(frozen=True)
class FoundSet:
    """The best clock angle of one rotor, caliper, plate and side. ``decides``: id of the finding its verdict comes from.

    ``verdict`` is that of ``check`` on ``job`` without its survey; lengths in mm, unknown where the set was stopped before.
    ``axial_offset``: what the plate has to make up at the first lug. ``granted``: the criteria behind the score, 0 to 1 each.
    ``alike``: so many more sets of these parts are stopped too and were not made.
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

    @property
    def key(self) -> tuple[int, float]:
        """What sets are ranked by, best first: verdict, then score [no unit]."""
        return -self.verdict.rank, -self.score

    @property
    def name(self) -> str:
        """The set in one line."""
        fit, side = self.job.fit, self.job.bracket.side
        behind = f", {fit.rotor_spacer_mm:g} mm behind the rotor" if fit.rotor_spacer_mm else ""
        return f"{self.job.rotor.name} + {self.job.caliper.name} at {fit.clock_deg:g}°{behind}, plate {side}"


@dataclass(frozen=True)
class Step:
    """What came out since the last step: how much of the space is done (0 to 1), and the sets found."""

    done: float
    sets: tuple[FoundSet, ...]


def search(job: Job, space: Space) -> Iterator[Step]:
    """Look through ``space`` for the hub and knuckle of ``job``; one step for each rotor. Stop by asking no further.

    Every set of parts gives one ``FoundSet``, at its best angle. What a rotor stops by itself, or with a caliper, is not made set
    by set: one of them stands for all, told with what stops it and how many are ``alike``.
    """
    lengths = job.lengths
    angles: FloatArray = np.arange(space.angles, dtype=np.float64) * (360.0 / space.angles)
    for count, rotor in enumerate(space.rotors, 1):
        yield Step(count / len(space.rotors), tuple(_with_rotor(replace(job, rotor=rotor), space, angles, lengths)))


def sets_called(job: Job, space: Space, words: Sequence[str], most: int) -> tuple[FoundSet, ...]:
    """Return the first ``most`` sets of ``space`` whose names hold every one of ``words``, each looked at by itself [no unit]."""
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


def _with_rotor(job: Job, space: Space, angles: FloatArray, lengths: LengthFormat) -> Iterator[FoundSet]:
    """Yield every set with this rotor; what does not change from set to set is made once."""
    fits = {plate: replace(job.fit, rotor_spacer_mm=plate) for plate in space.plates}
    brackets = [replace(job.bracket, side=side) for side in space.sides]
    on_hub = {plate: rotor_on_hub(replace(job, fit=fit), lengths, cures=False) for plate, fit in fits.items()}
    fitting = [plate for plate in space.plates if on_hub[plate].verdict is not Verdict.STOP]
    for caliper in space.calipers if fitting else space.calipers[:1]:
        stopped: list[FoundSet] = []
        for plate, fit in fits.items():
            here = replace(job, caliper=caliper, fit=fit)
            line = line_up(here)
            still = _pair_findings(here, line) if plate in fitting else (on_hub[plate],)
            if worst_rank(still) == STOP:
                stopped.append(_stopped(replace(here, bracket=brackets[0]), line, still))
                continue
            for bracket in brackets:
                yield _swept(replace(here, bracket=bracket), angles, lengths, still)
        if stopped:
            many = len(stopped) * len(brackets) * (1 if fitting else len(space.calipers))
            yield replace(stopped[0], alike=many - 1)


def _pair_findings(job: Job, line: LineUp) -> tuple[Finding, ...]:
    """Return the findings of the line-up that do not turn with the caliper."""
    return tuple(f for f in line_up_findings(job, line, cures=False) if not kind_of(f.id).turns)


def _stopped(job: Job, line: LineUp, still: tuple[Finding, ...]) -> FoundSet:
    worst_one = min(still, key=lambda f: f.verdict.rank)
    return FoundSet(job, Verdict.STOP, 0.0, worst_one.id, line.tip_gap, UNKNOWN, UNKNOWN, 0, line.axial_offset[0])


def _swept(job: Job, angles: FloatArray, lengths: LengthFormat, before: tuple[Finding, ...]) -> FoundSet:
    swept = sweep_set(job, angles, lengths, before)
    stack_up, line = swept.assembly.stack_up, swept.assembly.line
    sizes = (line.tip_gap, stack_up.worst_error, stack_up.thickness)
    places = np.flatnonzero(swept.ranks > STOP)
    if not len(places):
        return FoundSet(job, Verdict.STOP, 0.0, _why_stopped(swept), *sizes, 0, line.axial_offset[0])
    granted = criteria_met(swept, places, np.radians(angles[places]))
    score = scores(granted)
    best = int(np.lexsort((-score, -swept.ranks[places]))[0])
    chosen = replace(job, fit=replace(job.fit, clock_deg=float(angles[places[best]])))
    verdict = BY_RANK[swept.ranks[places[best]]]
    worst_one = min(swept.still, key=lambda f: f.verdict.rank)
    decides = worst_one.id if worst_one.verdict is verdict is not Verdict.OK else ""
    told = {name: float(values[best]) for name, values in granted.items()}
    found = FoundSet(chosen, verdict, float(score[best]), decides, *sizes, len(places), line.axial_offset[0], told)
    return _on_guesses(found) if verdict.rank == OK and guessed_paths(chosen) else found


def _why_stopped(swept: SweptSet) -> str:
    """Return the id of what stops a set at every angle: a finding that does not turn, else the last question asked."""
    still = min(swept.still, key=lambda f: f.verdict.rank)
    return still.id if still.verdict is Verdict.STOP else next(reversed(swept.values), "handedness")


def _on_guesses(found: FoundSet) -> FoundSet:
    """Return ``found`` as it is once guessed dimensions hold what rests on them down to a watch."""
    held = held_down(solve(found.job, turns=False, cures=False))
    verdict = worst(f.verdict for f in held)
    return replace(
        found, verdict=verdict, decides=next((f.id for f in held if f.verdict is verdict is not Verdict.OK), "")
    )


def held_down(solution: Solution) -> tuple[Finding, ...]:
    """Return the findings of ``solution`` with those that rest on a guess held down to a watch."""
    guesses = guesses_behind(solution)
    return tuple(on_a_guess(finding, guesses.get(finding.id, ())) for finding in solution.findings)


def single_path(job: Job) -> tuple[Verdict, tuple[Finding, ...]]:
    """Return the verdict and findings of one set the long way: one whole solution, as ``check`` makes it without a survey."""
    findings = held_down(solve(job, turns=False, cures=False))
    return worst(f.verdict for f in findings), findings


def why_not(job: Job) -> tuple[Finding, ...]:
    """Return what stops the set in ``job``, or is not known about it; where nothing is, what is only a watch."""
    _, findings = single_path(job)
    for verdicts in ((Verdict.STOP,), (Verdict.UNKNOWN,), (Verdict.CAUTION,)):
        found = tuple(f for f in findings if f.verdict in verdicts)
        if found:
            return found
    return ()
