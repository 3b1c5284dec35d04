"""The solution of a job with everything its survey says about it, and the same carried on to a job that has changed since."""

import math
from functools import lru_cache

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.records import Record, replace
from bicentra.core.base.registry import kind_of
from bicentra.core.base.wording import LengthFormat
from bicentra.core.evaluation.bracket_evaluation import BracketEvaluation
from bicentra.core.evaluation.solution import Solution
from bicentra.core.parts.corners import across
from bicentra.core.parts.job import Hub, Job, Knuckle, Rotor
from bicentra.core.parts.survey import Survey
from bicentra.core.survey.corner import Surveyed, survey_corner
from bicentra.core.survey.findings import survey_findings
from bicentra.core.uncertainty.doubts import doubted, guessed_paths, guesses_behind, label_of, play_bands, stated
from bicentra.core.uncertainty.propagate import Inputs, Propagated, propagate, survey_inputs


class Assessment(Record, frozen=True):
    """A solution whose findings carry their uncertainty, with the surveys they rest on.

    ``bands``: lowest and highest value that play allows of a finding, ``guesses``: what it rests on that is guessed, by its id.
    """

    solution: Solution
    here: Surveyed | None
    other: Surveyed | None
    inputs: Inputs | None
    propagated: Propagated | None
    bands: dict[str, tuple[float, float]]
    guesses: dict[str, tuple[str, ...]]


def surveyed(job: Job, corner: str) -> Surveyed | None:
    """Return the survey of ``corner`` worked out, kept while nothing it depends on changes; ``None`` without readings."""
    survey = job.survey.get(corner)
    if survey is None:
        return None
    studs = Hub(stud_count=job.hub.stud_count)
    return _worked_out(corner, survey, job.knuckle, studs, Rotor(hole_count=job.rotor.hole_count))


@lru_cache(maxsize=12)
def _worked_out(corner: str, survey: Survey, knuckle: Knuckle, hub: Hub, rotor: Rotor) -> Surveyed:
    return survey_corner(Job(corner=corner, knuckle=knuckle, hub=hub, rotor=rotor, survey={corner: survey}), corner)


def assess(solution: Solution) -> Assessment:
    """Return ``solution`` with what the job's surveys say about it. Nothing raises; without a survey only play is added."""
    job = solution.job
    lengths = job.lengths
    here = surveyed(job, job.corner)
    other = surveyed(job, across(job.corner))
    bands = play_bands(job, solution.assembly)
    inputs = survey_inputs(job, here) if here is not None else None
    propagated = propagate(solution, inputs) if inputs is not None and inputs.paths else None
    guesses = guesses_behind(solution)
    findings = [doubted(f, propagated, bands.get(f.id), guesses.get(f.id, ()), lengths) for f in solution.findings]
    if here is not None:
        findings += [stated(f, lengths) for f in survey_findings(job, here, other, lengths)]
    spread = {name: figure.sd for name, figure in propagated.figures.items()} if propagated is not None else {}
    return Assessment(solution.with_findings(findings, spread), here, other, inputs, propagated, bands, guesses)


class CarriedUncertainty(Record, frozen=True):
    """What is carried: the assessment of before, what each of its findings came to, what is still guessed, and what newly is."""

    before: Assessment
    values: dict[str, float]
    guessed: frozenset[str]
    newly: tuple[str, ...]
    lengths: LengthFormat

    def about(self, finding: Finding) -> Finding:
        """Return ``finding`` with the doubts carried to its value: the same uncertainty, the band of play moved with it."""
        if kind_of(finding.id).group == "survey":
            return finding
        guesses = tuple(name for name in self.before.guesses.get(finding.id, ()) if name in self.guessed)
        found = doubted(finding, self.before.propagated, self._band(finding), guesses, self.lengths)
        if not self.newly or found.verdict is not Verdict.OK:
            return found
        why = f"{found.why} Whether it rests on a guess ({', '.join(self.newly)}) is being worked out."
        return replace(found, verdict=Verdict.CAUTION, why=why)

    def of(self, one: BracketEvaluation) -> BracketEvaluation:
        """Return a bracket with these doubts about each of its findings."""
        return replace(one, findings=tuple(map(self.about, one.findings)))

    def _band(self, finding: Finding) -> tuple[float, float] | None:
        band = self.before.bands.get(finding.id)
        moved = finding.value - self.values.get(finding.id, math.nan)
        return (band[0] + moved, band[1] + moved) if band is not None and math.isfinite(moved) else None


def uncertainty_of(before: Assessment, job: Job) -> CarriedUncertainty | None:
    """Return the doubts of ``before`` about a ``job`` that has changed since; another corner has its own."""
    was = before.solution.job
    if was.corner != job.corner:
        return None
    values, guessed = {finding.id: finding.value for finding in before.solution.findings}, _guessed(job)
    newly = tuple(name for name in guessed if name not in _guessed(was))
    return CarriedUncertainty(before, values, frozenset(guessed), newly, job.lengths)


def carried(before: Assessment, solution: Solution) -> Solution:
    """Return ``solution``, of a job that has changed since ``before``, with its doubts about each finding as it is asked."""
    uncertainty = uncertainty_of(before, solution.job)
    return solution.over(uncertainty.about, before.solution.spread) if uncertainty is not None else solution


def _guessed(job: Job) -> tuple[str, ...]:
    return tuple(label_of(path) for path in guessed_paths(job))
