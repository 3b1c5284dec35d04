"""Solids from worker processes that are kept for the next order: STEP, STL and 3MF of the chosen family's parts."""

import atexit
import contextlib
import os
import pickle
import select
import signal
import subprocess
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

from bicentra.core.base.errors import ExportError
from bicentra.core.base.numbers import is_known
from bicentra.core.base.records import replace
from bicentra.core.bracket.cutouts import unplaced
from bicentra.core.bracket.families.table import family_of
from bicentra.core.bracket.model import MadePart
from bicentra.core.bracket.on_hub import hub_parts
from bicentra.core.drawing.sheets.imprint import BLANK, CLEAR, CutMark, Imprint, cut_mark, worse
from bicentra.core.drawing.sheets.plate import Datum, datum_of
from bicentra.core.evaluation.own_bracket import own_bracket
from bicentra.core.evaluation.parking_adapter import parking_evaluation
from bicentra.core.evaluation.solution import Solution, solve
from bicentra.core.lineup.redrill import drilling, patterns_differ, redrilled
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.uncertainty.assess import assess
from bicentra.core.uncertainty.both_sides import both_sides, parts_of_both
from bicentra.formats.solid_worker import Order

Report = Callable[[float, str], bool]
MAKING, LOOK_S, MOST_S = "Making the solid", 0.1, 120.0
"""What is said meanwhile; how often a running worker is looked at, and when it is given up [s]."""


class GoneError(Exception):
    """A worker ended without an answer."""


class Worker:
    """One process that holds the kernel, asked one order at a time. ``used``: it has answered one; ``free``: it owes no
    answer.
    """

    def __init__(self) -> None:
        words = [sys.executable, "-m", "bicentra.formats.solid_worker"]
        # A session of its own, so that it can be ended with the copy that carries an order out, and Ctrl+C is ours alone.
        self._process = subprocess.Popen(
            words, stdin=subprocess.PIPE, stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, start_new_session=True
        )
        self.used, self.free = False, True

    def ask(self, order: Order, report: Report) -> bool:
        """Carry ``order`` out; false when cancelled, and then it is gone. Raises ``ExportError`` and ``GoneError``."""
        assert self._process.stdin is not None and self._process.stdout is not None
        self.free = False
        try:
            self._process.stdin.write(pickle.dumps(order))
            self._process.stdin.flush()
        except OSError:
            raise GoneError from None
        spent = 0.0
        while not select.select([self._process.stdout], [], [], LOOK_S)[0]:
            spent += LOOK_S
            if not report(min(0.1 + spent / 5.0, 0.9), MAKING):
                return False
            if spent > MOST_S:
                raise ExportError("the solid worker did not answer; try again")
        text = self._process.stdout.readline().decode(errors="replace")
        if not text:
            raise GoneError
        self.used = self.free = True
        if text.strip():
            raise ExportError(text.strip())
        return True

    def end(self) -> None:
        """End it at once, with whatever it is at."""
        with self._process:
            with contextlib.suppress(ProcessLookupError):
                os.killpg(self._process.pid, signal.SIGKILL)
            for pipe in (self._process.stdin, self._process.stdout):
                assert pipe is not None
                with contextlib.suppress(OSError):  # an order that nobody read any more
                    pipe.close()


_waiting: list[Worker] = []
"""Workers that nobody asks just now; each is taken out by who asks it."""


def carried_out(order: Order, report: Report) -> bytes:
    """Return the file of ``order``, made in a folder of its own; nothing when cancelled. Raises ``ExportError``."""
    if not report(0.1, MAKING):
        return b""
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / f"solid.{order.kind}"
        placed = replace(order, path=str(path))
        while True:
            worker = _taken()
            again = worker.used
            try:
                if not worker.ask(placed, report):
                    return b""
                return path.read_bytes()
            except GoneError:
                if not again:  # one that waited too long has gone home; a new one has not
                    raise ExportError("the solid worker ended without an answer; try again") from None
            finally:
                if worker.free:  # else its late answer would be taken for that of the next order
                    _waiting.append(worker)
                else:
                    worker.end()


def _taken() -> Worker:
    try:
        return _waiting.pop()
    except IndexError:
        return Worker()


@atexit.register
def end_all() -> None:
    """End every worker that waits; the next order starts a new one."""
    while _waiting:
        _waiting.pop().end()


def parts_to_make(job: Job) -> tuple[MadePart, ...]:
    """Return everything that is made for ``job``. Raises ``ExportError`` when there is nothing to make, or a part is
    not whole.
    """
    own = own_bracket(job)
    if not own.bracket.parts:
        raise ExportError(f"{own.title}: there is no part to draw or to make. {own.bracket.why}")
    missing = unplaced(job)
    if missing:
        raise ExportError(
            f"{', '.join(missing)}: not placed yet. Give place and size, or remove it, before metal is cut"
        )
    more = parking_evaluation(job, job.lengths)
    parts = (*own.bracket.parts, *(more.bracket.parts if more is not None else ()))
    open_parts = [part.name for part in parts if not is_known(part.thickness, part.volume) or _shapeless(part)]
    if open_parts:
        raise ExportError(
            f"{', '.join(open_parts)}: a size is still unknown; measure what the findings name, then export again"
        )
    return parts


def _shapeless(part: MadePart) -> bool:
    """Tell whether a plate has no outline yet."""
    return part.shape == "plate" and part.outline is None


def solid_file(job: Job, kind: str, report: Report, mark: CutMark = CLEAR) -> bytes:
    """Return the file of ``kind`` (step, stl, 3mf) with the parts of the job's bracket family; nothing when cancelled.

    Raises ``ExportError`` when the family has no parts for this job, or the worker fails.
    """
    return carried_out(Order(kind, parts_to_make(job), job.is_left, "", mark=mark.line), report)


def trial_file(job: Job, report: Report, thickness: float = 1.0, mark: CutMark = CLEAR) -> bytes:
    """Return the parts as a 3MF trial piece with words raised on it, ``thickness`` times as thick. Raises ``ExportError``."""
    return carried_out(Order("trial", parts_to_make(job), job.is_left, "", thickness, mark.line), report)


def step_of_both(job: Job, report: Report, mark: CutMark = CLEAR) -> bytes:
    """Return the STEP file with the parts of both corners of the axle, each under its side's name. Raises ``ExportError``."""
    return carried_out(Order("step", both_parts(job), False, "", mark=mark.line), report)


def both_parts(job: Job) -> tuple[MadePart, ...]:
    """Return the parts of both corners of the axle. Raises ``ExportError`` where this one has none."""
    parts_to_make(job)
    return parts_of_both(job)


def both_mark(solution: Solution) -> CutMark:
    """Return what forbids cutting parts of both corners: what is asked of this one, and of the other with its own bracket."""
    return worse(cut_mark(solution, both=True), cut_mark(_assessed(both_sides(solution.job).other), both=True))


def _assessed(job: Job) -> Solution:
    """Return what ``job`` comes to with its survey: what its readings say may stop it."""
    return assess(solve(job)).solution


def hub_made(job: Job) -> tuple[MadePart, ...]:
    """Return what is made for hub and rotor of ``job``. Raises ``ExportError`` where that is nothing, or still unknown."""
    plan = drilling(job)
    found = hub_parts(job, plan if plan is not None and plan.old != plan.new else None, job.lengths)
    if found.open:
        raise ExportError(f"not to be drawn yet. {'; '.join(found.open)}")
    if not found.parts:
        raise ExportError(
            "nothing is made for hub or rotor: no rotor spacer, no hub-centric ring, no other bolt pattern"
        )
    return found.parts


def hub_mark(solution: Solution) -> CutMark:
    """Return the mark of what is made for the rotor's side: a pattern that is still to be drilled does not forbid its own jig."""

    job = solution.job
    remedies = redrilled(job, job.lengths) if job.rotor.old_bolt_circle_mm is None and patterns_differ(job) else ()
    if not remedies:
        return cut_mark(solution)
    on_hub = solve(with_edits(job, remedies[0].edits)).finding("rotor-on-hub")
    return cut_mark(solution.with_findings(on_hub if f.id == on_hub.id else f for f in solution.findings))


def hub_file(job: Job, kind: str, report: Report, mark: CutMark = CLEAR) -> bytes:
    """Return what is made for hub and rotor as ``kind`` (step, 3mf); nothing when cancelled. Raises ``ExportError``."""
    return carried_out(Order(kind, hub_made(job), False, "", mark=mark.line), report)


def hub_drawings(job: Job, report: Report, mark: CutMark = CLEAR, imprint: Imprint = BLANK) -> bytes:
    """Return the drawings of what is made for hub and rotor as PDF; nothing when cancelled. Raises ``ExportError``."""
    parts = hub_made(job)
    return _drawings(job, parts, (None,) * len(parts), False, "Hub and rotor", (mark, imprint), report)


def workshop_file(
    job: Job, report: Report, both: bool = False, mark: CutMark = CLEAR, imprint: Imprint = BLANK
) -> bytes:
    """Return the workshop drawings of the job's bracket family, or of ``both`` corners', as PDF; nothing when cancelled.

    Raises ``ExportError``.
    """
    own = parts_to_make(job)
    parts = both_parts(job) if both else own
    left = job.is_left and not both
    datums = tuple(datum_of(part, job.bracket.datum, left) for part in parts)
    return _drawings(job, parts, datums, left, family_of(job).title, (mark, imprint), report, both)


def _drawings(
    job: Job,
    parts: tuple[MadePart, ...],
    datums: tuple[Datum | None, ...],
    left: bool,
    title: str,
    said: tuple[CutMark, Imprint],
    report: Report,
    both: bool = False,
) -> bytes:
    from bicentra.formats.pdf_workshop import Heading, workshop_pdf

    turns = tuple(datum.seen if datum is not None else None for datum in datums)
    found = carried_out(Order("views", parts, left, "", turns=turns), report)
    if not found:
        return b""
    views = pickle.loads(found)
    corner = f"both corners, {job.corner.split('-')[0]}" if both else job.corner.replace("-", " ")
    heading = Heading(job.title or "Untitled job", corner, title, job.bracket.finish, *said)
    return workshop_pdf(parts, views, datums, heading, job.lengths)
