"""Solids from a worker process: STEP, STL and 3MF of the chosen family's parts."""

import pickle
import subprocess
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

from bicentra.core.base.errors import ExportError
from bicentra.core.base.numbers import is_known
from bicentra.core.beside import beside
from bicentra.core.bracket.cutouts import unplaced
from bicentra.core.bracket.families.table import family_of
from bicentra.core.bracket.model import MadePart
from bicentra.core.certainty.both_sides import parts_of_both
from bicentra.core.parts.job import Job
from bicentra.core.proposals import own_bracket
from bicentra.formats.solid_worker import Order

Report = Callable[[float, str], bool]
LOOK_S, MOST_S = 0.1, 120.0
"""How often a running worker is looked at, and when it is given up [s]."""


def parts_to_make(job: Job) -> tuple[MadePart, ...]:
    """Return everything that is made for ``job``. Raises ``ExportError`` when there is nothing to make, or a part is not whole."""
    own = own_bracket(job)
    if not own.bracket.parts:
        raise ExportError(f"{own.title}: there is no part to draw or to make. {own.why}")
    missing = unplaced(job)
    if missing:
        raise ExportError(
            f"{', '.join(missing)}: not placed yet. Give place and size, or remove it, before metal is cut"
        )
    open_parts = [part.name for part in own.bracket.parts if not is_known(part.thickness, part.volume)]
    if open_parts:
        raise ExportError(
            f"{', '.join(open_parts)}: a size is not known yet; measure what the findings name, then export again"
        )
    more = beside(job, job.lengths)
    return (*own.bracket.parts, *(more.bracket.parts if more is not None else ()))


def solid_file(job: Job, kind: str, report: Report) -> bytes:
    """Return the file of ``kind`` (step, stl, 3mf) with the parts of the job's bracket family; nothing when cancelled.

    Raises ``ExportError`` when the family has no parts for this job, or the worker fails.
    """
    return _asked(kind, parts_to_make(job), job.is_left, report)


def trial_file(job: Job, report: Report, thickness: float = 1.0) -> bytes:
    """Return the parts as a 3MF trial piece with words raised on it, ``thickness`` times as thick. Raises ``ExportError``."""
    return _asked("trial", parts_to_make(job), job.is_left, report, thickness)


def step_of_both(job: Job, report: Report) -> bytes:
    """Return the STEP file with the parts of both corners of the axle, each under its side's name. Raises ``ExportError``."""
    return _asked("step", both_parts(job), False, report)


def both_parts(job: Job) -> tuple[MadePart, ...]:
    """Return the parts of both corners of the axle. Raises ``ExportError`` where this one has none."""
    parts_to_make(job)
    return parts_of_both(job)


def workshop_file(job: Job, report: Report, both: bool = False) -> bytes:
    """Return the workshop drawings of the job's bracket family, or of ``both`` corners', as PDF; nothing when cancelled.

    Raises ``ExportError``.
    """
    from bicentra.formats.pdf_workshop import Heading, workshop_pdf

    own = parts_to_make(job)
    parts = both_parts(job) if both else own
    found = _asked("views", parts, job.is_left and not both, report)
    if not found:
        return b""
    views = pickle.loads(found)
    corner = f"both corners, {job.corner.split('-')[0]}" if both else job.corner.replace("-", " ")
    heading = Heading(job.title or "Untitled job", corner, family_of(job).title, "A")
    return workshop_pdf(parts, views, heading, job.lengths)


def _asked(kind: str, parts: tuple[MadePart, ...], mirrored: bool, report: Report, thickness: float = 1.0) -> bytes:
    with tempfile.TemporaryDirectory() as folder:
        return _worked(Order(kind, parts, mirrored, str(Path(folder) / f"solid.{kind}"), thickness), report)


def _worked(order: Order, report: Report) -> bytes:
    words = [sys.executable, "-m", "bicentra.formats.solid_worker"]
    with subprocess.Popen(words, stdin=subprocess.PIPE, stdout=subprocess.DEVNULL, stderr=subprocess.PIPE) as worker:
        try:
            sent: bytes | None = pickle.dumps(order)
            spent = 0.0
            while True:
                try:
                    _, errors = worker.communicate(sent, timeout=LOOK_S)
                    break
                except subprocess.TimeoutExpired:
                    sent, spent = None, spent + LOOK_S
                    if not report(min(0.1 + spent / 5.0, 0.9), "Making the solid"):
                        return b""
                    if spent > MOST_S:
                        raise ExportError("the solid worker did not answer; try again") from None
        finally:
            if worker.poll() is None:
                worker.kill()
    if worker.returncode != 0:
        told = errors.decode(errors="replace").strip().splitlines()
        raise ExportError(told[-1] if told else f"the solid worker ended with {worker.returncode}")
    return Path(order.path).read_bytes()
