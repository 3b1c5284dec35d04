"""The bracket for the other side: the mirror image, unless both corners differ as surveyed or written down; then its own."""

import math

from bicentra.core.base.finding import Edit, Verdict
from bicentra.core.base.records import Record, replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.bracket.model import Bracket, MadePart
from bicentra.core.evaluation.own_bracket import CHOSEN, own_bracket
from bicentra.core.lineup.more_checks import distances, unlike
from bicentra.core.parts.corners import across
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.survey.findings import corner_mismatch
from bicentra.core.survey.use import takeover
from bicentra.core.uncertainty.assess import surveyed

SAME_MM = 0.01
DAMAGE = "Damage differs from side to side."


class BothSides(Record, frozen=True):
    """The job's own bracket and that of the other corner of its axle.

    ``differ``: what differs between the corners, in words; nothing when one is the other's mirror image. ``compared``: by
    ``survey`` of both, or by the ``numbers`` written down at both; empty where one of them is not measured.
    ``other``: the job of the other corner.
    """

    here: Bracket
    there: Bracket
    corner: str
    differ: tuple[str, ...]
    compared: str
    other: Job

    @property
    def turned_over(self) -> bool:
        """Whether one and the same plate serves both sides, turned over: no work from one face only, and no bend."""
        return not self.differ and all(
            part.outline is None
            or not (part.bends or part.pockets or part.edge_bores or any(b.sink for b in part.bores))
            for part in self.here.parts
        )


def both_sides(job: Job) -> BothSides:
    """Return the brackets of both corners of the job's axle, of the same family.

    The other one stands on that corner's own numbers where it has some, else on its survey where that differs.
    """
    here, corner = own_bracket(job).bracket, across(job.corner)
    twin, lengths = replace(job, corner=corner, opposite=None), job.lengths
    lent = "knuckle" in job.borrowed
    own, other = surveyed(job, job.corner), surveyed(job, corner)
    text: tuple[str, ...] = ()
    compared = "numbers" if job.opposite is not None and not lent else ""
    if own is not None and other is not None:
        found = corner_mismatch(job, own, other, lengths)
        text = tuple(check.text for check in found.checks if check.verdict in (Verdict.STOP, Verdict.CAUTION))
        compared = "survey"
    differ = (*text, *(() if lent else unlike(job, lengths)))
    anew: tuple[Edit, ...] = tuple((f"bracket.{name}", None) for name in CHOSEN)
    if job.opposite is not None and (differ or lent):
        theirs = job.opposite
        twin = replace(twin, hub=theirs.hub, knuckle=theirs.knuckle, exact=theirs.exact, borrowed=())
        twin = with_edits(twin, (*(anew if differ else ()), *theirs.overrides.items()))
    elif text and other is not None:
        twin = with_edits(twin, (*takeover(twin, other).edits, *anew))
    return BothSides(here, own_bracket(twin).bracket, corner, differ, compared, twin)


def parts_of_both(job: Job) -> tuple[MadePart, ...]:
    """Return the parts of either side under their side's name, those of the left one to be made as mirror images."""
    sides = both_sides(job)
    again = staggered(job)
    there = sides.here if again else sides.there
    named = ((sides.here, job.corner, job.corner), (there, sides.corner, job.corner if again else sides.corner))
    return tuple(
        replace(part, name=f"{part.name}, {corner.replace('-', ' ')}", mirrored=as_at.endswith("left"))
        for bracket, corner, as_at in named for part in bracket.parts
    )  # fmt: skip


def staggered(job: Job) -> bool:
    """Tell whether the other side takes the very same part, half a turn about the vertical: its caliper across the axle.

    Only where nothing but the axle itself holds the bracket: knuckles with lugs are mirror images of each other.
    """
    return job.fit.other_side == "staggered" and job.knuckle.mounting in ("axle-flange", "tube")


def text_of_both(job: Job) -> str:
    """Return in sentences what the other side gets, and why."""
    sides, lengths = both_sides(job), job.lengths
    name = sides.corner.replace("-", " ")
    if not sides.here.parts:
        return ""
    if staggered(job):
        return f"The other side is staggered: the same part again, one ahead, one behind the axle. Make two of this hand. {DAMAGE}"
    if "knuckle" in job.borrowed:
        return f"This corner is taken to be the mirror image of {name}; it is not measured yet. {DAMAGE}"
    if not sides.compared:
        return f"For {name} the mirror image is taken; that corner is not measured yet. {DAMAGE}"
    if not sides.differ:
        over = "one and the same plate, turned over" if sides.turned_over else "the mirror image"
        checks = distances(job, lengths)
        missing = [check.label for check in checks if check.verdict is Verdict.UNKNOWN]
        if missing and sides.compared == "numbers":
            return f"Whether it serves on {name} is unknown: measured at one corner only is {', '.join(missing[:4])}."
        worst = max((check.value for check in checks if check.verdict is not Verdict.UNKNOWN), default=0.0)
        agree = f"The numbers of {name} are those of this corner to {lengths.gap(worst)}"
        if sides.compared == "survey":
            agree = f"The survey of {name} agrees with this one"
        return f"{agree}: {over} serves there."
    own = _difference(sides, lengths)
    return f"The bracket for {name} is a part of its own ({'; '.join(sides.differ)}). {own}"


def _difference(sides: BothSides, lengths: LengthFormat) -> str:
    """Return how the two brackets differ: what there is of thickness, what lies under it, and the holes' places."""
    if not sides.there.parts:
        return f"None of this kind fits there: {sides.there.why}"
    text = []
    for title, one, two in (("thickness", sides.here.thickness, sides.there.thickness),):
        if abs(one - two) > SAME_MM:
            text.append(f"{title} {lengths.size(two)} instead of {lengths.size(one)}")
    for key, what in (("shims_mm", "shims"), ("step_mm", "step"), ("spacer_mm", "spacers"), ("jog_mm", "jog")):
        one, two = (side.solved.get(key, math.nan) for side in (sides.here, sides.there))
        if abs(one - two) > SAME_MM:
            text.append(f"{what} {lengths.gap(two)} instead of {lengths.gap(one)}")
    pairs = zip(*(side.plate.bores if side.plate is not None else () for side in (sides.here, sides.there)))
    moved = max((math.dist(a.centre, b.centre) for a, b in pairs), default=0.0)
    if moved > SAME_MM:
        text.append(f"a hole {lengths.gap(moved)} elsewhere")
    return f"There: {', '.join(text)}." if text else "The brackets come out alike all the same."
