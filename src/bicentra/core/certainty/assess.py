"""The solution of a job with everything its survey says about it: findings with uncertainty, statement and play."""

import math
from functools import lru_cache

from bicentra.core.base.chance import chance_met, percent
from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.records import Record, replace
from bicentra.core.base.registry import kind_of
from bicentra.core.base.wording import LengthFormat
from bicentra.core.certainty.guesses import guesses_behind, on_a_guess
from bicentra.core.certainty.inputs import Inputs, survey_inputs
from bicentra.core.certainty.play import play_bands
from bicentra.core.certainty.propagate import Propagated, propagate
from bicentra.core.parts.corners import across
from bicentra.core.parts.job import Hub, Job, Knuckle, Rotor
from bicentra.core.parts.survey import Survey
from bicentra.core.solution import Solution
from bicentra.core.survey.corner import Surveyed, survey_corner
from bicentra.core.survey.findings import survey_findings

ENOUGH = 0.95
"""Chance below which a met finding is met only by luck."""
TYPED = "what was typed and never surveyed counts as exact"
COVERAGE, NOTHING = 1.96, 5e-4
"""Standard uncertainties for 95 %, and the one below which a finding counts as untouched by the readings."""


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
    bands = play_bands(solution)
    inputs = survey_inputs(job, here) if here is not None else None
    propagated = propagate(solution, inputs) if inputs is not None and inputs.paths else None
    guesses = guesses_behind(solution)
    findings = [doubted(f, propagated, bands.get(f.id), guesses.get(f.id, ()), lengths) for f in solution.findings]
    if here is not None:
        findings += [_stated(f, lengths) for f in survey_findings(job, here, other, lengths)]
    spread = {name: figure.sd for name, figure in propagated.figures.items()} if propagated is not None else {}
    return Assessment(solution.with_findings(findings, spread), here, other, inputs, propagated, bands, guesses)


def doubted(
    finding: Finding,
    propagated: Propagated | None,
    band: tuple[float, float] | None,
    guesses: tuple[str, ...],
    lengths: LengthFormat,
) -> Finding:
    """Return ``finding`` with all that is to be doubted of it: its uncertainty, its ``band`` [its unit], what is guessed."""
    return on_a_guess(_with_certainty(finding, propagated, band, lengths), guesses)


def _with_certainty(
    finding: Finding, propagated: Propagated | None, band: tuple[float, float] | None, lengths: LengthFormat
) -> Finding:
    """Return ``finding`` with uncertainty, chance and band; one met only by luck becomes a watch and says what would help."""
    finding = replace(finding, band=band)
    spread = propagated.findings.get(finding.id) if propagated is not None else None
    if spread is None or propagated is None or not math.isfinite(spread.sd) or spread.sd < NOTHING:
        return _stated(_pushed(finding, lengths), lengths)
    chance = math.nan
    if not kind_of(finding.id).worst_of:
        chance = chance_met(finding.value, spread.sd, finding.limit, finding.at_least, kind_of(finding.id).unsigned)
    finding = replace(finding, sd=spread.sd, probability=chance, assumed=(*finding.assumed, TYPED))
    if finding.verdict is Verdict.OK and chance < ENOUGH:
        helps = propagated.helps_most(finding.id)
        why = f"{finding.why} Met only with {percent(chance)}: take this reading once more, it helps most: {helps}."
        finding = replace(finding, verdict=Verdict.CAUTION, why=why)
    return _stated(_pushed(finding, lengths), lengths)


def _pushed(finding: Finding, lengths: LengthFormat) -> Finding:
    """Return ``finding``, a watch where play in the bolt holes can push what is met past its stop."""
    if finding.band is None or finding.verdict is not Verdict.OK:
        return finding
    low, high = finding.band
    if not (low < finding.limit if finding.at_least else high > finding.limit):
        return finding
    end = _shown(low if finding.at_least else high, finding.unit, lengths)
    why = f"{finding.why} Play in the bolt holes can push it to {end}, past its limit: hold the parts in place while the bolts are "
    why += "tightened, measure again after, or drill the holes close."
    return replace(finding, verdict=Verdict.CAUTION, why=why, by_play=True)


def _stated(finding: Finding, lengths: LengthFormat) -> Finding:
    return replace(finding, statement=statement(finding, lengths))


def statement(finding: Finding, lengths: LengthFormat) -> str:
    """Return value, uncertainty, limit, chance and play in one sentence; empty when there is nothing to say.

    For example “2.31 mm ± 0.12 mm (95 %), limit 1.80 mm: met with 99.9 %.”
    """
    told = []
    if math.isfinite(finding.sd) and math.isfinite(finding.value):
        value = f"{_shown(finding.value, finding.unit, lengths)} ± {_shown(COVERAGE * finding.sd, finding.unit, lengths)} (95 %)"
        limit = f", limit {_shown(finding.limit, finding.unit, lengths)}" if math.isfinite(finding.limit) else ""
        chance = f": met with {percent(finding.probability)}" if math.isfinite(finding.probability) else ""
        told.append(f"{value}{limit}{chance}.")
    if finding.band is not None:
        low, high = (_shown(value, finding.unit, lengths) for value in finding.band)
        told.append(f"Play in the bolt holes lets it be pushed from {low} to {high}.")
    return " ".join(told)


def _shown(value: float, unit: str, lengths: LengthFormat) -> str:
    if unit == "mm":
        return ("−" if value < -5e-3 else "") + lengths.gap(value)
    return f"{value:.2f}{unit}" if unit == "°" else f"{value:.2f} {unit}".rstrip()
