"""What a paper says of itself today: date, names, revision."""

import os
from datetime import UTC, date, datetime
from pathlib import Path

from bicentra.core.base.records import replace
from bicentra.core.drawing.imprint import Imprint, cut_mark
from bicentra.core.drawing.revision import revision
from bicentra.core.parts.issued import Issued
from bicentra.core.solution import Solution
from bicentra.study.document.store import load_vehicle, save, stamp_of

DRAFT = "draft"
"""What stands for the revision while the parts must not be cut."""


def today() -> str:
    """Return the date papers carry (ISO 8601): that of ``SOURCE_DATE_EPOCH`` where it is set, so that a run can be repeated."""
    asked = os.environ.get("SOURCE_DATE_EPOCH", "")
    if asked.isdigit() and len(asked) < 12:
        return datetime.fromtimestamp(int(asked), UTC).date().isoformat()
    return date.today().isoformat()


def imprint_of(solution: Solution, day: str) -> tuple[Imprint, Issued | None]:
    """Return what papers of ``solution`` made on ``day`` say, and the revision that is new with them; ``None`` where none is.

    While something forbids cutting, papers are drafts and no revision rises.
    """
    job = solution.job
    if cut_mark(solution).word or not solution.parts:
        return Imprint(day, job.drawn_by, job.checked_by, DRAFT), None
    found = revision(solution, day)
    new = None if found in job.issued else found
    return Imprint(day, job.drawn_by, job.checked_by, found.revision, found.changed), new


def kept_in(path: Path, new: Issued) -> None:
    """Add a revision to the vehicle file at ``path``. Raises ``JobFileError`` or ``StoreError``."""
    known = stamp_of(path)
    vehicle = load_vehicle(path)
    save(replace(vehicle, issued=(*vehicle.issued, new)), path, known)
