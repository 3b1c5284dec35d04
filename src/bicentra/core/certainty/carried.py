"""The doubts of a moment ago, carried to a job that has changed since: nothing is met only because they are not worked
out yet.
"""

import math

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.records import Record, replace
from bicentra.core.base.registry import kind_of
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket_evaluation import BracketEvaluation
from bicentra.core.certainty.assess import Assessment
from bicentra.core.certainty.doubts import doubted
from bicentra.core.certainty.guesses import guessed_paths, label_of
from bicentra.core.parts.job import Job
from bicentra.core.solution import Solution


class CarriedUncertainty(Record, frozen=True):
    """What is carried: the assessment of before, what each of its findings came to, what is still guessed, and what newly is."""

    before: Assessment
    values: dict[str, float]
    guessed: frozenset[str]
    newly: tuple[str, ...]
    lengths: LengthFormat

    def about(self, finding: Finding) -> Finding:
        """Return ``finding`` with the doubts carried to its value: the same uncertainty, the band of play moved with it."""
        if kind_of(finding.id).room == "survey":
            return finding
        guesses = tuple(name for name in self.before.guesses.get(finding.id, ()) if name in self.guessed)
        found = doubted(finding, self.before.propagated, self._band(finding), guesses, self.lengths)
        if not self.newly or found.verdict is not Verdict.OK:
            return found
        why = f"{found.why} Whether it rests on a guess ({', '.join(self.newly)}) is being worked out."
        return replace(found, verdict=Verdict.CAUTION, why=why)

    def of(self, one: BracketEvaluation) -> BracketEvaluation:
        """Return a bracket with these doubts about each of its findings [no unit]."""
        return replace(one, findings=tuple(map(self.about, one.findings)))

    def _band(self, finding: Finding) -> tuple[float, float] | None:
        band = self.before.bands.get(finding.id)
        moved = finding.value - self.values.get(finding.id, math.nan)
        return (band[0] + moved, band[1] + moved) if band is not None and math.isfinite(moved) else None


def uncertainty_of(before: Assessment, job: Job) -> CarriedUncertainty | None:
    """Return the doubts of ``before`` about a ``job`` that has changed since [no unit]; another corner has its own."""
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
