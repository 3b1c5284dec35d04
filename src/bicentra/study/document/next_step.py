"""One sentence that always says the most useful next action."""

from collections.abc import Collection
from typing import TYPE_CHECKING

from bicentra.core.base.finding import Finding, Remedy, Verdict, counted_verdicts
from bicentra.core.base.records import Record, replace
from bicentra.core.base.registry import kind_of
from bicentra.core.evaluation.solution import Solution
from bicentra.core.parts.corners import across, job_of
from bicentra.core.parts.job import CORNERS, Job
from bicentra.core.trialfit.log import CornerState, holds
from bicentra.study.document.brakes import DRUM, brake_of

if TYPE_CHECKING:
    from bicentra.core.parts.vehicle import Vehicle
    from bicentra.study.document.study import Study


class NextStep(Record, frozen=True):
    """What to do next: the sentence, the finding it serves, and the remedy that does it when one is at hand.

    ``corner``, ``bench``: where it is done instead, the corner or the bench to go to. ``path``: a size to be typed on the
    line-up. ``paper``: the kind of one to be made. ``measure``, ``plan``: what is missing is asked for, remedies are combined.
    ``own``: the bench in front does it. ``seen``: what is not said again once the button was pressed. ``then``: another way
    on, with a button of its own beside the first.
    """

    sentence: str
    finding: Finding | None = None
    remedy: Remedy | None = None
    corner: str = ""
    bench: str = ""
    button: str = "Do it"
    path: str = ""
    paper: str = ""
    measure: bool = False
    plan: bool = False
    own: bool = False
    seen: str = ""
    then: "NextStep | None" = None


def finding_key(finding: Finding) -> str:
    """Return what a finding is known by once it was looked at: one that changes is said again."""
    return f"{finding.id} {finding.verdict} {finding.value:.2f}"


def after_lock(study: "Study") -> NextStep | None:
    """Return where to go on once the corner that is worked on is locked and nothing stops it; ``None`` before that."""
    fit = study.trial_fit
    locked = fit is not None and fit.standing.state is CornerState.LOCKED
    if locked and study.job.practice_run is not None:
        text = "This practice corner is locked: show the answer on the trial fit bench."
        return NextStep(text, bench="trialfit", button="Go there")
    if not locked or any(f.verdict is Verdict.STOP for f in study.solution.findings):
        return None
    done = f"The {_named(study.job.corner)} corner is locked and done."
    corner = next_corner(study.vehicle)
    if corner:
        return NextStep(f"{done} Go on with the {_named(corner)} corner.", corner=corner, button="Go there")
    return NextStep(f"{done} All corners begun are done: go on with the pedal.", bench="pedal", button="Go there")


def next_corner(vehicle: "Vehicle") -> str:
    """Return the corner to go on with once this one is done: across first, then any that was begun; empty where all are
    locked.
    """
    other = across(vehicle.corner)
    for name in (other, *(name for name in CORNERS if name not in (other, vehicle.corner))):
        own = vehicle.corners.get(name)
        begun = own is not None and own.knuckle is not None
        if (
            brake_of(vehicle, name) != DRUM
            and (begun or name == other)
            and not (begun and is_locked(job_of(vehicle, name)))
        ):
            return name
    return ""


def is_locked(job: Job) -> bool:
    """Tell whether the last trial of a corner is locked, and what its lock rests on is still as it was."""
    return bool(job.trials) and holds(job, job.trials[-1])


def _named(corner: str) -> str:
    return corner.replace("-", " ")


def next_step(solution: Solution, doubted: bool = True, seen: Collection[str] = ()) -> NextStep:
    """Return the next action: cure the worst stop, then measure what is missing, then look at what is close.

    ``doubted``: whether survey, play and guesses have been asked; before, nothing is taken to paper. ``seen``: keys of findings
    that were looked at and are not said again. A corner that is locked is done: on it only what stops or is unknown is still
    asked for.
    """
    from bicentra.core.trialfit.fit import standing_fit

    fit = standing_fit(solution) if is_locked(solution.job) else None
    locked = fit is not None and fit.standing.state is CornerState.LOCKED
    for wanted in (Verdict.STOP, Verdict.UNKNOWN, *(() if locked else (Verdict.CAUTION,))):
        asked = (f for f in solution.findings if f.verdict is wanted and not kind_of(f.id).elsewhere)
        left = [
            f
            for f in asked
            if not (f.by_play and f.verdict is Verdict.CAUTION) and not (seen and finding_key(f) in seen)
        ]
        found = min(left, key=lambda f: not kind_of(f.id).upstream, default=None)
        if found is not None:
            return _for(found, solution.job)
    if locked:
        return NextStep(f"The {_named(solution.job.corner)} corner is locked and done.")
    if left := [f for f in solution.findings if f.verdict is not Verdict.OK and finding_key(f) in seen]:
        stops = any(f.verdict is Verdict.STOP for f in left)
        last = "Nothing is cut while a stop is open; card may be tried." if stops else "Try the template in card."
        return NextStep(f"What is open was looked at: {counted_verdicts(left)}. {last}")
    if not doubted:
        return NextStep("Everything clears so far; the effect of survey, play and guesses is being worked out.")
    other = any(kind_of(f.id).elsewhere and f.verdict is not Verdict.OK for f in solution.findings)
    beside = " The other corner is not the same: line it up by itself." if other else ""
    if any(f.by_play for f in solution.findings):
        beside += " Bolt holes let the caliper move: hold it in place while its bolts are tightened, and measure again."
    return NextStep(
        f"Everything clears on paper. Print the 1:1 template and try it in card before cutting metal.{beside}"
    )


FAR_DEG = 20.0
"""A turn of the caliper by more is no next step: hose, bleed screw and bracket change with it. It is offered, no key does it."""


def _turns_far(remedy: Remedy, job: Job) -> bool:
    """Tell whether a remedy puts the caliper somewhere else altogether."""
    turns = [float(str(value)) - (job.fit.clock_deg or 0.0) for path, value in remedy.edits if path == "fit.clock_deg"]
    return any(abs((turn + 180.0) % 360.0 - 180.0) > FAR_DEG for turn in turns)


def _for(finding: Finding, job: Job) -> NextStep:
    key = finding_key(finding)
    if finding.id == "survey-agreement":
        return NextStep(f"{finding.title}: {finding.why}", finding, bench="survey", button="Go there", seen=key)
    if finding.verdict is Verdict.UNKNOWN:
        return NextStep(f"{finding.title}: {finding.why[0].lower()}{finding.why[1:]}", finding, button="Show", seen=key)
    able = (r for r in finding.remedies if r.edits and r.reversible and not _turns_far(r, job))
    remedy = next(able, None)
    show = NextStep("", finding, button="Show", seen=key)
    if remedy is None and finding.verdict is Verdict.STOP:
        return NextStep(
            f"{finding.title}: {finding.why}", finding, button="Plan remedies", plan=True, seen=key, then=show
        )
    if remedy is None:
        return replace(show, sentence=f"{finding.title}: {finding.why}")
    return NextStep(f"{finding.title}: {remedy.action[0].lower()}{remedy.action[1:]}.", finding, remedy)
