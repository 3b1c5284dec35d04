"""What the foot of the window says to do next on each bench: one table, state by state, its first row that applies leads on.

A row is asked in the order of the table. What was shown once and cannot be carried out by a button (a caution to look at) is
not said again in this session: ``Study.seen`` remembers it.
"""

from collections.abc import Callable

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.records import Record, replace
from bicentra.core.bracket.families.table import family_of
from bicentra.core.inputs.required_inputs import required_inputs
from bicentra.study.document.brakes import DRUM
from bicentra.study.document.next_step import NextStep, after_lock, finding_key, next_step
from bicentra.study.document.study import Study

OF_CORNER = ("survey", "lineup", "parts", "bracket", "trialfit")
"""The benches that work on one corner: once that is locked they lead on to the next."""
TEMPLATE = "pdf"
"""The paper that is tried in card."""


class Place(Record, frozen=True):
    """Where the user is: the bench in front, what it asks for itself, and whether the corner may be left there."""

    bench: str
    own: NextStep | None = None
    may_leave: bool = True


def _locked(study: Study, place: Place) -> NextStep | None:
    return after_lock(study) if place.may_leave else None


def _drums(study: Study, place: Place) -> NextStep | None:
    """An axle that keeps its drums has nothing to fit."""
    del place
    if study.brake != DRUM:
        return None
    axle = study.job.corner.split("-")[0]
    text = f"The {axle} axle keeps its drums: nothing is fitted here. Their numbers are on the pedal bench."
    return NextStep(text, button="Go there", bench="pedal")


def _blank(study: Study, place: Place) -> NextStep | None:
    """Sizes without which nothing can be drawn are typed on the line-up, in their order."""
    left = required_inputs(study.job)
    if not left:
        return None
    first, comes, many = left[0], family_of(study.job).appears, len(left)
    rest = f"1 of {many}, until {comes}" if many > 1 else f"the last one: then {comes}"
    text = f"{first.title[:1].upper()}{first.title[1:]}: {first.how[:1].lower()}{first.how[1:]} ({rest})"
    other = NextStep("", button="Measure with the survey", bench="survey") if place.bench == "lineup" else None
    return NextStep(text, button="Type it", path=first.path, then=other)


def _borrowed(study: Study, place: Place) -> NextStep | None:
    """Another corner's numbers are measured here first; said once, for there may be a reason to wait with it."""
    del place
    found = study.solution.lazy.one("corner-borrowed") if study.job.borrowed else None
    if found is None or finding_key(found) in study.seen:
        return None
    text = (
        f"This corner is borrowed: measure its {' and '.join(study.job.borrowed)} here before anything is cut for it."
    )
    return NextStep(text, finding=found, bench="survey", button="Start the survey", seen=finding_key(found))


def _own(study: Study, place: Place) -> NextStep | None:
    del study
    return place.own


def _findings(study: Study, place: Place) -> NextStep | None:
    """The worst that is open, until all of it was fixed or looked at."""
    del place
    step = next_step(study.solution, study.doubted, study.seen)
    if step.finding is None:
        return None
    if step.finding.verdict is Verdict.UNKNOWN:
        return _outline(study, step.finding)
    return step


def _outline(study: Study, finding: Finding) -> NextStep:
    """What is drawn can be printed and tried in card; what is unknown waits for sizes."""
    many = sum(one.verdict is Verdict.UNKNOWN for one in study.solution.findings)
    waits = _waiting(many)
    places = {one.path: place for place, one in enumerate(required_inputs(study.job))}
    first = (
        min(study.missing, key=lambda one: places.get(one.path, len(places)), default=None) if study.missing else None
    )
    if first is not None:
        size = f"measure {study.named(first.path)} next"
        waits = f"{_waiting(len(first.needed_by))} for it"
    elif study.missing is None:
        size = "measure what is missing next"
    else:
        size = f"look at “{finding.title.lower()}”"
    measure = NextStep("", button="Measure…", finding=finding, measure=True)
    template = NextStep("", button="Print the template", paper=TEMPLATE, seen=TEMPLATE)
    if study.missing == ():  # nothing can be typed that would settle it: it is looked at
        measure = replace(measure, button="Show", measure=False, seen=finding_key(finding))
    if TEMPLATE in study.seen:
        return replace(measure, sentence=f"{size[:1].upper()}{size[1:]} ({waits}).")
    ready = f"{family_of(study.job).ready}. Print the trial template, or {size} ({waits})."
    return replace(template, sentence=ready, then=measure)


def _waiting(many: int) -> str:
    return "1 check waits" if many == 1 else f"{many} checks wait"


def _paper(study: Study, place: Place) -> NextStep | None:
    """Nothing is open any more that has not been looked at: card first, then the car."""
    del place
    step = next_step(study.solution, study.doubted, study.seen)
    if TEMPLATE not in study.seen:
        return replace(step, button="Print the template", paper=TEMPLATE, seen=TEMPLATE)
    stops = sum(finding.verdict is Verdict.STOP for finding in study.solution.findings)
    if stops:
        text = (
            f"{Verdict.STOP.counted(stops)} still open: nothing is cut before that is fixed. Look for remedies again."
        )
        return NextStep(text, button="Plan remedies", plan=True)
    first = "Try the template in card, then" if not study.job.trials else "Go on with"
    rest = "the parts dry on the car." if not study.job.trials else "the trial on the car."
    return NextStep(f"{first} {rest}", button="Go there", bench="trialfit")


Row = tuple[tuple[str, ...], Callable[[Study, Place], NextStep | None]]
TABLE: tuple[Row, ...] = (
    (OF_CORNER, _locked),
    (("cover", *OF_CORNER), _drums),
    (("cover", "lineup", "bracket", "trialfit"), _blank),
    (("cover", "lineup", "parts", "bracket"), _borrowed),
    (("survey", "parts", "bracket", "trialfit", "pedal"), _own),
    (("cover", *OF_CORNER), _findings),
    (("cover", *OF_CORNER, "pedal"), _paper),
)


def lead(study: Study, place: Place) -> NextStep:
    """Return what to do next at ``place``: the first row of the table that is for its bench and applies."""
    for benches, row in TABLE:
        step = row(study, place) if place.bench in benches else None
        if step is not None:
            return step
    return NextStep("")
