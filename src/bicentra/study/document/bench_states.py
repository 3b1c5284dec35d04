"""How each bench stands: its worst verdict and how many things are open there, for the rail and the cover sheet."""

from collections.abc import Iterable

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.records import Record
from bicentra.core.base.registry import FindingKind, kind_of
from bicentra.core.parts.job import Job

ORDER = ("cover", "survey", "parts", "lineup", "bracket", "trialfit", "pedal")
"""The benches in the order of the work."""


class BenchState(Record, frozen=True):
    """``verdict``: the worst there; ``None`` where nothing is asked. ``open``: findings that are not met. ``text``: in words."""

    verdict: Verdict | None
    open: int
    text: str


def bench_of(kind: FindingKind) -> str:
    """Return the bench on which what ``kind`` asks is settled."""
    if kind.room == "survey":
        return "survey"
    if kind.room == "pedal":
        return "pedal"
    if kind.room == "trial":
        return "trialfit"
    if kind.of_bracket or kind.room == "parking":
        return "bracket"
    return "parts" if kind.of_parts else "lineup"


def bench_states(job: Job, findings: Iterable[Finding]) -> dict[str, BenchState]:
    """Return the state of every bench by name; the cover has all of it."""
    held: dict[str, list[Finding]] = {name: [] for name in ORDER}
    for finding in findings:
        held[bench_of(kind_of(finding.id))].append(finding)
        held["cover"].append(finding)
    if not job.trials:
        held["trialfit"] = []
    states = {name: _state(found) for name, found in held.items()}
    if job.corner not in job.survey:
        states["survey"] = BenchState(None, 0, "nothing measured here")
    return states


def _state(findings: list[Finding]) -> BenchState:
    still = [finding for finding in findings if finding.verdict is not Verdict.OK]
    if not findings:
        return BenchState(None, 0, "nothing is asked here yet")
    worst = min((finding.verdict for finding in findings), key=lambda verdict: verdict.rank)
    count = len(still)
    return BenchState(worst, count, f"{worst.word}, {count} open" if count else "all OK")
