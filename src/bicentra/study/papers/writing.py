"""Making a paper and writing it to disk, whole or not at all."""

from pathlib import Path

from bicentra.core.base.errors import ExportError
from bicentra.core.drawing.imprint import BLANK, Imprint, cut_mark
from bicentra.core.solution import Solution
from bicentra.study.document.store import shown, write_atomic
from bicentra.study.papers.makers import MAKERS, Report
from bicentra.study.papers.note import write_note
from bicentra.study.papers.papers import PAPERS

JOB_SUFFIX = ".bicentra.json"


def ready_problem(solution: Solution, kind: str) -> str:
    """Return why the paper of ``kind`` does not apply or cannot be made yet; empty when it can, as far as can be told."""
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
