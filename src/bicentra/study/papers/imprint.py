"""What a paper says of itself today: date, names, revision."""

import os
from datetime import UTC, date, datetime
from pathlib import Path

from bicentra.core.base.errors import ExportError
from bicentra.core.base.records import replace
from bicentra.core.bracket.model import MadePart
from bicentra.core.drawing.imprint import CutMark, Imprint, cut_mark
from bicentra.core.drawing.revision import revision
from bicentra.core.parts.corners import axle_of
from bicentra.core.parts.issued import Issued
from bicentra.core.solution import Solution
from bicentra.study.document.store import load_vehicle, save, stamp_of
from bicentra.study.papers.papers import PAPERS
from bicentra.study.papers.solids import both_mark, both_parts, hub_made, hub_mark

DRAFT = "draft"
"""What stands for the revision while the parts must not be cut."""


def today() -> str:
    """Return the date papers carry (ISO 8601): that of ``SOURCE_DATE_EPOCH`` where it is set, so that a run can be repeated."""
    asked = os.environ.get("SOURCE_DATE_EPOCH", "")
    if asked.isdigit() and len(asked) < 12:
        return datetime.fromtimestamp(int(asked), UTC).date().isoformat()
    return date.today().isoformat()


def imprint_of(solution: Solution, day: str, whose: str = "") -> tuple[Imprint, Issued | None]:
    """Return what papers of ``solution`` made on ``day`` say, and the revision that is new with them; ``None`` where none is.

    While something forbids cutting, papers are drafts and no revision rises. ``whose``: of which parts, as a paper has it: those
    have revisions of their own. ``solution`` has been looked at with its survey: what that stops is not cut either.
    """
    job = solution.job
    parts, mark, name = _subject(solution, whose)
    if mark.word or not parts:
        return Imprint(day, job.drawn_by, job.checked_by, DRAFT), None
    found = revision(job, parts, day, name)
    new = None if found in job.issued else found
    return Imprint(day, job.drawn_by, job.checked_by, found.revision, found.changed), new


def _subject(solution: Solution, whose: str) -> tuple[tuple[MadePart, ...], CutMark, str]:
    """Return the parts that have a revision together, what forbids cutting them, and what they are called."""
    job = solution.job
    if whose == "both" and solution.parts:
        return both_parts(job), both_mark(solution), f"{axle_of(job.corner)} axle"
    if whose == "hub":
        try:
            return hub_made(job), hub_mark(solution), f"hub and rotor {job.corner}"
        except ExportError:
            return (), hub_mark(solution), ""
    return solution.parts, cut_mark(solution), job.corner


def paper_imprint(kind: str, solution: Solution, day: str, give_out: bool = True) -> tuple[Imprint, Issued | None]:
    """Return what the paper of ``kind`` says, and the revision that is given out with it: only by papers that metal is cut by.

    A revision that is new and not given out says so.
    """
    paper = PAPERS[kind]
    imprint, new = imprint_of(solution, day, paper.whose)
    given = new if paper.cuts and give_out else None
    if new is not None and given is None:
        imprint = replace(imprint, revision=f"{imprint.revision}, not given out")
    return imprint, given


def kept_in(path: Path, new: Issued) -> None:
    """Add a revision to the vehicle file at ``path``. Raises ``JobFileError`` or ``StoreError``."""
    known = stamp_of(path)
    vehicle = load_vehicle(path)
    save(replace(vehicle, issued=(*vehicle.issued, new)), path, known)
