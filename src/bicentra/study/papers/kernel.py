"""The solid kernel in processes of its own, kept for the next order while they are not given up."""

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
from bicentra.core.base.records import replace
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
