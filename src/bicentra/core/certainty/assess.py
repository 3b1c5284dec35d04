"""The solution of a job with everything its survey says about it: findings with uncertainty, statement and play."""

from functools import lru_cache

from bicentra.core.base.records import Record
from bicentra.core.certainty.doubts import doubted, stated
from bicentra.core.certainty.guesses import guesses_behind
from bicentra.core.certainty.inputs import Inputs, survey_inputs
from bicentra.core.certainty.play import play_bands
from bicentra.core.certainty.propagate import Propagated, propagate
from bicentra.core.parts.corners import across
from bicentra.core.parts.job import Hub, Job, Knuckle, Rotor
from bicentra.core.parts.survey import Survey
from bicentra.core.solution import Solution
from bicentra.core.survey.corner import Surveyed, survey_corner
from bicentra.core.survey.findings import survey_findings


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
