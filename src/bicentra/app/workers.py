"""Long work off the interface thread, with progress, cancel, and errors that come back as words."""

import threading
import traceback
from collections.abc import Callable

from PySide6.QtCore import QObject, QRunnable, QThreadPool, Signal

from bicentra.core.base.errors import BicentraError

Work = Callable[["Task"], object]


class _Signals(QObject):
    progressed = Signal(float, str)
    finished = Signal(object)
    failed = Signal(str)
    stopped = Signal()


class Task(QRunnable):
    """One piece of work in a thread of the pool. ``work`` gets the task, to report progress and to see a cancel."""

    def __init__(self, label: str, work: Work) -> None:
        super().__init__()
        self.setAutoDelete(False)
        self.label, self._work = label, work
        self.signals = _Signals()
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
            self.signals.progressed.emit(part, text)
        return not self.cancelled

    def run(self) -> None:
        """Do the work; every error ends as a message, never as a dead thread."""
        try:
            result = self._work(self)
        except BicentraError as error:
            self.signals.failed.emit(str(error))
        except Exception as error:  # a fault of ours: the job is safe, the report goes to the log
            traceback.print_exc()
            self.signals.failed.emit(f"{self.label}: an error inside Bicentra ({error}). The job is intact.")
        else:
            if self.cancelled:
                self.signals.stopped.emit()
            else:
                self.signals.finished.emit(result)


def start(task: Task) -> None:
    """Run ``task`` in the shared pool."""
    QThreadPool.globalInstance().start(task)


def wait_for_all(milliseconds: int = 5000) -> bool:
    """Wait until nothing runs any more; used on closing and in tests."""
    return QThreadPool.globalInstance().waitForDone(milliseconds)
