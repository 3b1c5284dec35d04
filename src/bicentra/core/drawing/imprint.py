"""What every paper and file says of itself: whether metal may be cut from it and why not, date, names, revision."""

from collections.abc import Iterable

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.numbers import is_known
from bicentra.core.base.records import Record, replace
from bicentra.core.base.registry import kind_of
from bicentra.core.base.wording import printable
from bicentra.core.bracket.cutouts import unplaced
from bicentra.core.parts.limits import changed_limits
from bicentra.core.solution import Solution

NOT_TO_CUT, TRIAL_ONLY = "NOT TO CUT", "TRIAL ONLY"
MOST_REASONS = 6
"""How many reasons a line names; the check list has them all."""


class CutMark(Record, frozen=True):
    """Whether metal may be cut: ``word`` is empty where it may; ``reasons`` in full, the worst first; ``because`` leads them in.

    ``limits``: the findings that were not judged by the usual limit, because the job sets its own.
    """

    word: str = ""
    because: str = ""
    reasons: tuple[str, ...] = ()
    limits: tuple[str, ...] = ()

    @property
    def line(self) -> str:
        """The mark with its reasons and the limits that are the job's own, on one line; empty where metal may be cut."""
        return self.text(MOST_REASONS)

    def text(self, most: int) -> str:
        """Return the line with no more than ``most`` reasons by name, the others counted."""
        found = (f"{self.word}. {self.because}: {_listed(self.reasons, most)}",) if self.word else ()
        own = (f"LIMITS CHANGED by this job: {_listed(self.limits, most)}",) if self.limits else ()
        return ". ".join((*found, *own))


def _listed(names: tuple[str, ...], most: int) -> str:
    left = len(names) - most
    return ", ".join(names[:most]) + (f", and {left} more: see the check list" if left > 0 else "")


CLEAR = CutMark()
PLAYED = "the numbers of a practice job are played, not measured"


class Imprint(Record, frozen=True):
    """When and by whom a paper was made; every field may be empty. ``changed``: what its revision changed.

    ``paper``: the sheet it is made for, A4 or Letter; empty for what goes with the units it is read in.
    """

    date: str = ""
    drawn: str = ""
    checked: str = ""
    revision: str = ""
    changed: str = ""
    paper: str = ""

    @property
    def line(self) -> str:
        """Everything that is said, on one line."""
        rev = f"revision {self.revision}" + (f" ({self.changed})" if self.changed else "")
        names = (
            (f"drawn by {self.drawn}", self.drawn),
            (f"checked by {self.checked}", self.checked),
            (rev, self.revision),
        )
        return " · ".join([*([self.date] if self.date else []), *(text for text, there in names if there)])


BLANK = Imprint()


def cut_mark(solution: Solution, both: bool = False) -> CutMark:
    """Return the mark of what is made for ``solution``: a stop forbids metal, what is unknown or guessed leaves a trial piece.

    ``both``: parts of both corners are on the paper, so what is asked of the other corner counts as well.
    """
    job, findings = solution.job, solution.findings
    mark = mark_of(findings, _unplaced(solution), job.practice, both)
    own = tuple(f.title for f in findings if job.limits and changed_limits(job, kind_of(f.id)))
    return replace(mark, limits=tuple(dict.fromkeys(own)))


def mark_of(findings: Iterable[Finding], unplaced: tuple[str, ...], practice: bool, both: bool = False) -> CutMark:
    """Return the mark that ``findings`` leave, with what is not placed yet in front of what is unknown."""
    counted = [finding for finding in findings if both or not kind_of(finding.id).elsewhere]
    stops = _titles(counted, Verdict.STOP)
    if stops or practice:
        return CutMark(
            NOT_TO_CUT, "These say stop" if stops else "Practice", (*stops, *((PLAYED,) if practice else ()))
        )
    guessed = dict.fromkeys(f"{name} (guessed)" for finding in counted for name in finding.guesses)
    unknown = (*unplaced, *_titles(counted, Verdict.UNKNOWN), *guessed)
    return CutMark(TRIAL_ONLY, "Still unknown", unknown) if unknown else CLEAR


def worse(one: CutMark, other: CutMark) -> CutMark:
    """Return the mark of a paper on which the parts of both stand."""
    limits = tuple(dict.fromkeys((*one.limits, *other.limits)))
    if one.word == other.word:
        return CutMark(one.word, one.because, tuple(dict.fromkeys((*one.reasons, *other.reasons))), limits)
    return replace(max((one, other), key=lambda mark: ("", TRIAL_ONLY, NOT_TO_CUT).index(mark.word)), limits=limits)


def _titles(findings: Iterable[Finding], verdict: Verdict) -> tuple[str, ...]:
    return tuple(dict.fromkeys(finding.title for finding in findings if finding.verdict is verdict))


def _unplaced(solution: Solution) -> tuple[str, ...]:
    """Return what the plate is drawn without: cutouts without a place, its thickness, the room for what turns."""
    part, missing = solution.part, tuple(printable(name) for name in unplaced(solution.job))
    if part is not None and not is_known(part.thickness):
        missing = (*missing, "Thickness of the plate")
    shape = solution.bracket.shape
    return (*missing, "Room for hub and rotor") if shape is not None and shape.open else missing
