"""Making a paper and writing it to disk, whole or not at all: its imprint, its pages, the note beside a mesh."""

import os
from datetime import UTC, date, datetime
from pathlib import Path

from bicentra.core.base.errors import ExportError
from bicentra.core.base.records import replace
from bicentra.core.bracket.model import MadePart
from bicentra.core.drawing.model import Drawing
from bicentra.core.drawing.sheets.imprint import BLANK, CutMark, Imprint, cut_mark, revision
from bicentra.core.drawing.sheets.plate import CAUTION
from bicentra.core.evaluation.solution import Solution
from bicentra.core.parts.attachments import Issued
from bicentra.core.parts.corners import axle_of
from bicentra.formats.pdf_pen import Page, page_count, page_picture
from bicentra.study.document.store import load_vehicle, save, shown, stamp_of, write_atomic
from bicentra.study.papers.makers import MAKERS, Report
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


FIRST = "Bicentra, about "


def note_beside(path: Path) -> Path:
    """Return where the note about the file at ``path`` stands."""
    return path.with_name(f"{path.name}.note.txt")


def write_note(path: Path, mark: CutMark) -> None:
    """Write the note about the mesh at ``path``; without a mark take away one that an earlier mesh left.

    A file of that name that is none of ours stays as it is. Raises ``StoreError``.
    """
    beside = note_beside(path)
    if beside.exists() and not _ours(beside):
        return
    if mark.line:
        text = f"{FIRST}{shown(path.name)}\n\n{mark.text(len(mark.reasons) + len(mark.limits))}\n\n{CAUTION}\n"
        write_atomic(beside, text.encode())
    elif beside.exists():
        beside.unlink()


def _ours(path: Path) -> bool:
    try:
        with path.open("rb") as file:
            return file.read(len(FIRST)).decode(errors="replace") == FIRST
    except OSError:
        return False


__all__ = ["PRINTED", "Page", "page_count", "page_picture", "paper_bytes"]
PRINTED = tuple(kind for kind, paper in PAPERS.items() if paper.ending.endswith(".pdf"))
"""Papers that can be printed, in the order of the menu."""


def paper_bytes(kind: str, solution: Solution, imprint: Imprint, report: Report) -> bytes:
    """Return the paper of ``kind`` as PDF; nothing when cancelled. Raises ``ExportError``."""
    return MAKERS[kind].make(solution, report, imprint)


def svg_of(drawing: Drawing, title: str) -> bytes:
    """Return ``drawing`` with its dimensions as SVG at true size."""
    from bicentra.formats.svg import drawing_svg

    return drawing_svg(drawing, title)


JOB_SUFFIX = ".bicentra.json"


def ready_problem(solution: Solution, kind: str) -> str:
    """Return why the paper of ``kind`` does not apply or cannot be made yet; empty when it can, as far as can be reported."""
    paper = PAPERS[kind]
    if paper.of_plate and solution.part is None:
        return f"There is no plate to draw: {solution.bracket.fault or solution.bracket.title}."
    try:
        ready = MAKERS[kind].ready
        if ready is not None:
            ready(solution)
    except ExportError as reason:
        return f"{paper.title}: {reason}."
    return ""


def go_on(part: float, text: str) -> bool:
    """Take note of nothing and go on: whoever waits for a paper without watching it."""
    del part, text
    return True


def write_paper(
    kind: str,
    solution: Solution,
    path: Path,
    report: Report = go_on,
    job_file: Path | None = None,
    imprint: Imprint = BLANK,
) -> bool:
    """Write the paper of ``kind`` to ``path``, whole or not at all; False when it was cancelled.

    Beside a mesh, which has no room for words, a note says what keeps metal from being cut. Raises ``ExportError`` when the job
    has no plate yet, or ``path`` is a job's own file, and ``StoreError`` when a file cannot be written.
    """
    _keep_off(path, job_file)
    if not report(0.05, ""):
        return False
    data = MAKERS[kind].make(solution, report, imprint)
    if not data or not report(0.95, ""):
        return False
    write_atomic(path, data)
    if kind == "stl":
        write_note(path, cut_mark(solution))
    report(1.0, "")
    return True


def write_sheet(path: Path, data: bytes, job_file: Path | None = None) -> None:
    """Write a sheet of the whole vehicle to ``path``, whole or not at all. Raises ``ExportError`` where that is a job's file."""
    _keep_off(path, job_file)
    write_atomic(path, data)


def _keep_off(path: Path, job_file: Path | None) -> None:
    """Raise ``ExportError`` where a paper would be written over a job."""
    if path.name.endswith(JOB_SUFFIX) or (job_file is not None and _same_file(path, job_file)):
        raise ExportError(f"{shown(path)}: that is a job's own file; choose another name for the paper")


def _same_file(one: Path, other: Path) -> bool:
    try:
        return one.exists() and other.exists() and one.samefile(other)
    except (OSError, ValueError):
        return False
