"""Long work off the interface thread, with progress, cancel, and errors that come back as words."""

import threading
import traceback
from collections.abc import Callable

from PySide6.QtCore import QObject, QRunnable, QThreadPool, Signal
from shiboken6 import isValid

from bicentra.core.base.errors import BicentraError

Work = Callable[["Task"], object]


class _Signals(QObject):
    progressed = Signal(float, str)
    finished = Signal(object)
    failed = Signal(str)
    stopped = Signal()
    over = Signal()
    task: "Task | None" = None

    def let_go(self) -> None:
        """Runs in the interface thread when all other signals have been delivered: the task may now be freed."""
        _running.discard(self.task)
        self.task = None


_running: "set[Task | None]" = set()
"""Tasks on their way: kept here so that neither they nor their signals are freed while a thread still uses them."""


class Task(QRunnable):
    """One piece of work in a thread of the pool. ``work`` gets the task, to report progress and to see a cancel."""

    def __init__(self, label: str, work: Work) -> None:
        super().__init__()
        self.setAutoDelete(False)
        self.label, self._work = label, work
        self.signals = _Signals()
        self.signals.over.connect(self.signals.let_go)
        self.signals.task = self
        self._cancelled = threading.Event()

    @property
    def cancelled(self) -> bool:
        """Whether somebody asked to stop."""
        return self._cancelled.is_set()

    def cancel(self) -> None:
        """Ask the work to stop at its next report."""
        self._cancelled.set()

    def report(self, part: float, text: str = "") -> bool:
        """Tell how far the work is (0 to 1); returns False when it should stop."""
        if not self.cancelled:
            self._tell("progressed", part, text)
        return not self.cancelled

    def _tell(self, signal: str, *values: object) -> None:
        """Send a signal, unless the program is closing down and nobody is left to hear it."""
        if isValid(self.signals):
            getattr(self.signals, signal).emit(*values)

    def run(self) -> None:
        """Do the work; every error ends as a message, never as a dead thread."""
        try:
            result = self._work(self)
        except BicentraError as error:
            self._tell("failed", str(error))
        except Exception as error:  # a fault of ours: the job is safe, the report goes to the log
            traceback.print_exc()
            self._tell("failed", f"{self.label}: an error inside Bicentra ({error}). The job is intact.")
        else:
            if self.cancelled:
                self._tell("stopped")
            else:
                self._tell("finished", result)
        finally:
            self._tell("over")


def start(task: Task, pool: QThreadPool | None = None) -> None:
    """Run ``task`` in ``pool``, or in the shared one."""
    _running.add(task)
    (pool or QThreadPool.globalInstance()).start(task)


def stop_all(milliseconds: int = 5000) -> None:
    """Ask every task to stop and wait for them, not for ever: the program is closing."""
    for task in tuple(_running):
        if task is not None:
            task.cancel()
    wait_for_all(milliseconds)


def wait_for_all(milliseconds: int = 5000) -> bool:
    """Wait until nothing runs any more; used on closing and in tests."""
    return QThreadPool.globalInstance().waitForDone(milliseconds)
