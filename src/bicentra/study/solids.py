"""Solids from a worker process: STEP, STL and 3MF of the chosen family's parts."""

import pickle
import subprocess
import sys
import tempfile
from collections.abc import Callable
from pathlib import Path

from bicentra.core.base.errors import ExportError
from bicentra.core.bracket.families.propose import FAMILIES, find_family
from bicentra.core.parts.job import Job
from bicentra.formats.solid_worker import Order

Report = Callable[[float, str], bool]
LOOK_S, MOST_S = 0.1, 120.0
"""How often a running worker is looked at, and when it is given up [s]."""


def solid_file(job: Job, kind: str, report: Report) -> bytes:
    """Return the file of ``kind`` (step, stl, 3mf) with the parts of the job's bracket family; nothing when cancelled.

    Raises ``ExportError`` when the family has no parts for this job, or the worker fails.
    """
    family = job.bracket.family if job.bracket.family in FAMILIES else "flat-plate"
    candidate = find_family(job, family)
    if not candidate.parts:
        raise ExportError(f"{candidate.title}: there is no part to make a solid of. {candidate.why}")
    with tempfile.TemporaryDirectory() as folder:
        order = Order(kind, candidate.parts, job.is_left, str(Path(folder) / f"solid.{kind}"))
        return _worked(order, report)


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
