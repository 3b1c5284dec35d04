"""What every paper and file says of itself: whether metal may be cut from it and why not, and its revision."""

import math
from collections.abc import Iterable, Mapping

from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.base.numbers import is_known
from bicentra.core.base.records import Record, replace
from bicentra.core.base.registry import kind_of
from bicentra.core.base.wording import LengthFormat, printable
from bicentra.core.bracket.cutouts import unplaced
from bicentra.core.bracket.model import MadePart
from bicentra.core.evaluation.solution import Solution
from bicentra.core.parts.attachments import Issued
from bicentra.core.parts.job import Job
from bicentra.core.parts.limits import changed_limits

LETTERS = "ABCDEFGHJKLMNPRTUVWY"
"""Letters of revisions: those that are taken for figures or for each other are not among them (ASME Y14.35, from memory)."""
SAME_MM = 0.005
MOST_LISTED = 4


def made_sizes(part: MadePart, number: int) -> dict[str, float]:
    """Return every size of a made part that a change of it shows in [mm, mm2], by name."""
    name = f"part {number}"
    found = {f"{name}: thickness": part.thickness, f"{name}: count": float(part.count)}
    if part.outline is not None:
        found |= {f"{name}: outline's area": part.outline.area, f"{name}: outline's length": part.outline.perimeter}
        found |= dict(zip((f"{name}: outline's middle forward", f"{name}: outline's middle up"), part.outline.centroid))
    else:
        found |= {f"{name}: outside": part.outer, f"{name}: bore": part.inner, f"{name}: eccentricity": part.offset}
    for k, bore in enumerate(part.bores, 1):
        hole = f"{name}: hole {k}"
        found |= {f"{hole} forward": bore.centre[0], f"{hole} up": bore.centre[1], f"{hole} drill": bore.drill}
        found |= {f"{hole} slot": bore.slot, f"{hole} sunk": bore.depth}
        if bore.slot:
            found[f"{hole} slot angle"] = math.degrees(math.atan2(bore.way[1], bore.way[0])) % 180.0
    for k, cutout in enumerate(part.cutouts, 1):
        found |= {f"{name}: cutout {k} area": cutout.area}
        found |= dict(zip((f"{name}: cutout {k} forward", f"{name}: cutout {k} up"), cutout.centroid))
    for k, pocket in enumerate(part.pockets, 1):
        found |= {f"{name}: milled {k}": pocket.depth * pocket.face, f"{name}: milled {k} area": pocket.outline.area}
        found |= {f"{name}: kept {k}.{n} area": edge.area for n, edge in enumerate(pocket.kept, 1)}
    for k, stud in enumerate(part.edge_bores, 1):
        edge_hole = f"{name}: hole {k} in the edge"
        found |= {f"{edge_hole} {way}": at for way, at in zip(("forward", "up", "outboard"), stud.at)}
        turn = math.degrees(math.atan2(stud.way[1], stud.way[0]))
        found |= {f"{edge_hole} drill": stud.drill, f"{edge_hole} depth": stud.depth, f"{edge_hole} angle": turn}
    if part.window is not None:
        found |= {f"{name}: window's area": part.window.area, f"{name}: window's length": part.window.perimeter}
    for k, bend in enumerate(part.bends, 1):
        found |= {f"{name}: bend {k} angle": bend.angle, f"{name}: bend {k} radius": bend.radius}
        found |= {f"{name}: bend {k} forward": bend.a[0], f"{name}: bend {k} up": bend.a[1]}
    found[f"{name}: chamfer"] = part.chamfer
    return {key: round(value, 4) + 0.0 for key, value in found.items() if math.isfinite(value)}


def next_letter(before: str) -> str:
    """Return the revision after ``before``: A first, AA after the last letter."""
    if not before:
        return LETTERS[0]
    head, last = before[:-1], LETTERS.find(before[-1])
    if last < 0:
        return before + LETTERS[0]
    return (
        head + LETTERS[last + 1]
        if last + 1 < len(LETTERS)
        else (next_letter(head) if head else LETTERS[0]) + LETTERS[0]
    )


def revision(job: Job, parts: Iterable[MadePart], date: str, of: str = "") -> Issued:
    """Return the revision of ``parts``: the last one given out where nothing changed since, else the next.

    ``of``: whose parts they are, where not the corner's that ``job`` is of.
    """
    sizes: dict[str, float] = {}
    made, whose = tuple(parts), of or job.corner
    for number, part in enumerate(made, 1):
        sizes |= made_sizes(part, number)
    material = ", ".join(dict.fromkeys(part.material for part in made))
    last = next((one for one in reversed(job.issued) if one.corner == whose), None)
    if last is None:
        return Issued(corner=whose, revision=LETTERS[0], date=date, material=material, sizes=sizes)
    text = changes(last, sizes, material, job.lengths)
    if not text:
        return last
    letter = next_letter(last.revision)
    return Issued(corner=whose, revision=letter, date=date, changed=text, material=material, sizes=sizes)


def changes(last: Issued, sizes: Mapping[str, float], material: str, lengths: LengthFormat) -> str:
    """Say what differs from the ``last`` that was given out; empty where nothing does; ``sizes`` as in it [mm, mm2]."""
    text = (
        [] if material == last.material else [f"material {last.material or 'not stated'} to {material or 'not stated'}"]
    )
    for key in dict.fromkeys((*last.sizes, *sizes)):
        one, two = last.sizes.get(key), sizes.get(key)
        if one is None or two is None:
            text.append(f"{key} {'new' if one is None else 'gone'}")
        elif abs(one - two) > SAME_MM:
            text.append(f"{key} {_shown(key, one, lengths)} to {_shown(key, two, lengths)}")
    left = len(text) - MOST_LISTED
    return "; ".join([*text[:MOST_LISTED], *([f"and {left} more"] if left > 0 else [])])


def _shown(key: str, value: float, lengths: LengthFormat) -> str:
    if key.endswith("count"):
        return f"{value:g}"
    if key.endswith("area"):
        return f"{value:.0f} mm²" if lengths.units == "mm" else f"{value / 25.4**2:.3f} in²"
    return f"{value:g}°" if key.endswith("angle") else lengths.size(value)


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
BORROWED = "this corner's own measurements (it is borrowed)"
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
    """Return the mark of what is made for ``solution``: a stop forbids metal; what is unknown, guessed or borrowed leaves a
    trial piece.

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
    lent = (BORROWED,) if any(finding.id == "corner-borrowed" for finding in counted) else ()
    unknown = (*unplaced, *lent, *_titles(counted, Verdict.UNKNOWN), *guessed)
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
