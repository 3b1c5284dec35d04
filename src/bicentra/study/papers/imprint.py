"""What a paper says of itself today: date, names, revision."""

import os
from datetime import UTC, date, datetime
from pathlib import Path

from bicentra.core.base.records import replace
from bicentra.core.drawing.imprint import Imprint, cut_mark
from bicentra.core.drawing.revision import revision
from bicentra.core.parts.corners import axle_of
from bicentra.core.parts.issued import Issued
from bicentra.core.solution import Solution
from bicentra.study.document.store import load_vehicle, save, stamp_of
from bicentra.study.papers.papers import PAPERS
from bicentra.study.papers.solids import both_mark, both_parts

DRAFT = "draft"
"""What stands for the revision while the parts must not be cut."""


def today() -> str:
    """Return the date papers carry (ISO 8601): that of ``SOURCE_DATE_EPOCH`` where it is set, so that a run can be repeated."""
    asked = os.environ.get("SOURCE_DATE_EPOCH", "")
    if asked.isdigit() and len(asked) < 12:
        return datetime.fromtimestamp(int(asked), UTC).date().isoformat()
    return date.today().isoformat()


def imprint_of(solution: Solution, day: str, both: bool = False) -> tuple[Imprint, Issued | None]:
    """Return what papers of ``solution`` made on ``day`` say, and the revision that is new with them; ``None`` where none is.

    While something forbids cutting, papers are drafts and no revision rises. ``both``: of the parts of both corners, which have
    revisions of their own. ``solution`` has been looked at with its survey: what that stops is not cut either.
    """
    job = solution.job
    mark = both_mark(solution) if both and solution.parts else cut_mark(solution)
    if mark.word or not solution.parts:
        return Imprint(day, job.drawn_by, job.checked_by, DRAFT), None
    axle = axle_of(job.corner)
    found = revision(job, both_parts(job), day, f"{axle} axle") if both else revision(job, solution.parts, day)
    new = None if found in job.issued else found
    return Imprint(day, job.drawn_by, job.checked_by, found.revision, found.changed), new


def paper_imprint(kind: str, solution: Solution, day: str, give_out: bool = True) -> tuple[Imprint, Issued | None]:
    """Return what the paper of ``kind`` says, and the revision that is given out with it: only by papers that metal is cut by.

    A revision that is new and not given out says so.
    """
    paper = PAPERS[kind]
    imprint, new = imprint_of(solution, day, paper.both)
    given = new if paper.cuts and give_out else None
    if new is not None and given is None:
        imprint = replace(imprint, revision=f"{imprint.revision}, not given out")
    return imprint, given


def kept_in(path: Path, new: Issued) -> None:
    """Add a revision to the vehicle file at ``path``. Raises ``JobFileError`` or ``StoreError``."""
    known = stamp_of(path)
    vehicle = load_vehicle(path)
    save(replace(vehicle, issued=(*vehicle.issued, new)), path, known)
