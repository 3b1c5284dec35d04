"""Remedies that really help: each is carried out and the job solved again before it is offered.

A remedy that changes nothing, cannot be carried out or leaves its finding as bad as it was is not shown. What it makes stop that
did not stop before is named among its side effects. Those that clear their finding and stop nothing new come first, then what can
be taken back before what is cut.
"""

import math
from collections.abc import Callable, Iterable

from bicentra.core.base.cache import cached_property
from bicentra.core.base.errors import BicentraError
from bicentra.core.base.finding import Finding, Remedy, Verdict
from bicentra.core.base.numbers import is_known
from bicentra.core.base.records import replace
from bicentra.core.base.registry import kind_of
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.parts.validate import validate

Findings = tuple[Finding, ...]
NOTHING_MM = 0.005
"""A remedy of less than this is none: it would be written as 0.00 mm or 0 thou."""
SHARE = 0.5
"""A remedy that does not clear its finding is kept while nothing does, if it takes away at least this share of what is
missing.
"""
CURABLE = (Verdict.STOP, Verdict.CAUTION)


class Verifier:
    """Tries the remedies of one job's findings. ``findings`` are all of them, asked when they are first needed."""

    def __init__(self, job: Job, findings: Callable[[], Findings], solve: Callable[[Job], Findings]) -> None:
        self._job, self._findings, self._solve = job, findings, solve

    @cached_property
    def _stops(self) -> frozenset[str]:
        return frozenset(f.id for f in self._findings() if f.verdict is Verdict.STOP)

    def verified(self, finding: Finding) -> Finding:
        """Return ``finding`` with the remedies that help, the best first; those that only a person can carry out come last."""
        if finding.verdict not in CURABLE or not finding.remedies:
            return finding
        tried = [self._tried(finding, remedy) for remedy in finding.remedies if remedy.edits]
        kept = sorted((one for one in tried if one is not None), key=lambda one: one[0])
        if any(rank[0] == 0 for rank, _ in kept):  # something clears it: what only lessens it is no help
            kept = [one for one in kept if one[0][0] == 0]
        by_hand = [remedy for remedy in finding.remedies if not remedy.edits]
        return replace(finding, remedies=(*(remedy for _, remedy in kept), *by_hand))

    def _tried(self, finding: Finding, remedy: Remedy) -> tuple[tuple[int, int, bool], Remedy] | None:
        """Return how good a remedy is and the remedy with what it brings; ``None`` where it does not help."""
        if remedy.amount_mm is not None and abs(remedy.amount_mm) < NOTHING_MM:
            return None
        try:
            job = with_edits(self._job, remedy.edits)
            if job == self._job:
                return None
            validate(job, trusted=self._job)
            after = self._solve(job)
        except (BicentraError, LookupError, TypeError, ValueError):
            return None
        now = _of(after, finding.id)
        if now is None or now.rank > finding.verdict.rank:
            helps = 0
        elif now.rank == finding.verdict.rank and _lessened(finding, after):
            helps = 1
        else:
            return None
        new = [f for f in after if f.verdict is Verdict.STOP and f.id not in self._stops and f.id != finding.id]
        names = list(dict.fromkeys(kind_of(f.id).title for f in new))
        text = (f"then stops: {', '.join(names)}",) if names else ()
        return (helps, len(names), not remedy.reversible), replace(remedy, side_effects=(*text, *remedy.side_effects))


def _of(findings: Iterable[Finding], id: str) -> Verdict | None:
    return min((f.verdict for f in findings if f.id == id), key=lambda verdict: verdict.rank, default=None)


def _lessened(before: Finding, findings: Findings) -> bool:
    """Tell whether a finding that is as bad as before lacks much less now, or has fewer comparisons that are as bad."""
    after = next(f for f in findings if f.id == before.id and f.verdict.rank == _worst_rank(findings, before.id))
    if before.checks and after.checks:
        bad = [sum(check.verdict.rank <= before.verdict.rank for check in one.checks) for one in (before, after)]
        if bad[1] < bad[0]:
            return True
    if before.unit != after.unit or not is_known(before.value, before.limit, after.value, after.limit):
        return False
    lacks = [abs(one.value - one.limit) for one in (before, after)]
    return math.isfinite(lacks[0]) and lacks[1] <= (1.0 - SHARE) * lacks[0]


def _worst_rank(findings: Findings, id: str) -> int:
    return min(f.verdict.rank for f in findings if f.id == id)
