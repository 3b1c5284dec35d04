"""One sentence that always says the most useful next action."""

from bicentra.core.base.finding import Finding, Remedy, Verdict
from bicentra.core.base.records import Record
from bicentra.core.base.registry import kind_of
from bicentra.core.parts.job import Job
from bicentra.core.solution import Solution


class NextStep(Record, frozen=True):
    """What to do next: the sentence, the finding it serves, and the remedy that does it when one is at hand."""

    sentence: str
    finding: Finding | None = None
    remedy: Remedy | None = None


def next_step(solution: Solution, doubted: bool = True) -> NextStep:
    """Return the next action: cure the worst stop, then measure what is missing, then look at what is close.

    ``doubted``: whether survey, play and guesses have been asked; before, nothing is taken to paper.
    """
    for wanted in (Verdict.STOP, Verdict.UNKNOWN, Verdict.CAUTION):
        asked = (f for f in solution.findings if f.verdict is wanted and not kind_of(f.id).elsewhere)
        left = [f for f in asked if not (f.by_play and f.verdict is Verdict.CAUTION)]
        found = min(left, key=lambda f: not kind_of(f.id).upstream, default=None)
        if found is not None:
            return _for(found, solution.job)
    if not doubted:
        return NextStep("Everything clears so far; what survey, play and guesses make of it is being worked out.")
    other = any(kind_of(f.id).elsewhere and f.verdict is not Verdict.OK for f in solution.findings)
    beside = " The other corner is not the same: line it up by itself." if other else ""
    if any(f.by_play for f in solution.findings):
        beside += " Bolt holes let the caliper move: hold it in place while its bolts are tightened, and measure again."
    return NextStep(
        f"Everything clears on paper. Take away the 1:1 template, and try it in card before cutting metal.{beside}"
    )


FAR_DEG = 20.0
"""A turn of the caliper by more is no next step: hose, bleed screw and bracket change with it. It is offered, no key does it."""


def _turns_far(remedy: Remedy, job: Job) -> bool:
    """Tell whether a remedy puts the caliper somewhere else altogether."""
    turns = [float(str(value)) - (job.fit.clock_deg or 0.0) for path, value in remedy.edits if path == "fit.clock_deg"]
    return any(abs((turn + 180.0) % 360.0 - 180.0) > FAR_DEG for turn in turns)


def _for(finding: Finding, job: Job) -> NextStep:
    if finding.verdict is Verdict.UNKNOWN:
        return NextStep(f"{finding.title}: {finding.why[0].lower()}{finding.why[1:]}", finding)
    able = (r for r in finding.remedies if r.edits and r.reversible and not _turns_far(r, job))
    remedy = next(able, None)
    if remedy is None:
        return NextStep(f"{finding.title}: {finding.why}", finding)
    return NextStep(f"{finding.title}: {remedy.action[0].lower()}{remedy.action[1:]}.", finding, remedy)
