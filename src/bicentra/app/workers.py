"""Long work off the interface thread, with progress, cancel and errors that come back; the survey's assessment among it."""

import threading
import traceback
from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QObject, QRunnable, QThreadPool, QTimer, Signal
from shiboken6 import isValid

from bicentra.core.base.errors import BicentraError
from bicentra.study.document.starting import load_first_adjustment
from bicentra.study.document.study import Study

if TYPE_CHECKING:
    from bicentra.core.inputs.missing import Missing
    from bicentra.core.parts.job import Job

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


DELAY_MS = 60


def load_solvers(_running: Task) -> None:
    """Load in a thread what the first adjustment will need, so that the first reading does not wait for it."""
    load_first_adjustment()


class MissingFinder(QObject):
    """Finds what to measure next beside the window, once the job rests; ``found`` is called when it is known."""

    def __init__(self, parent: QObject, found: Callable[[], None]) -> None:
        super().__init__(parent)
        self._found, self._busy = found, False

    def look(self, study: Study) -> None:
        """Look at ``study`` as it stands, unless that is being done."""
        if self._busy:
            return
        self._busy = True
        job, work = study.job, study.finding_missing()
        task = Task("What to measure", lambda _running: work())
        task.signals.finished.connect(lambda found: self._take(study, job, found))
        task.signals.failed.connect(self._failed)
        start(task)

    def _take(self, study: Study, job: "Job", found: "tuple[Missing, ...]") -> None:
        study.take_missing(job, found)
        if isValid(self):  # the window may be gone by now
            self._busy = False
            self._found()

    def _failed(self, message: str) -> None:
        """Without it the sentence at the foot stays a general one; the pane of what is missing reports the fault."""
        del message
        self._busy = False


class Assessor(QObject):
    """Keeps the assessment of the open study up to date; a job that changes meanwhile is looked at again.

    While ``busy`` (something is being pulled) nothing is begun: a thread that computes takes the interpreter from the
    one that paints.
    """

    def __init__(self, parent: QObject, busy: Callable[[], bool]) -> None:
        super().__init__(parent)
        self._busy = busy
        self._study: Study | None = None
        self._task: Task | None = None
        self._timer = QTimer(self)
        self._timer.setSingleShot(True)
        self._timer.setInterval(DELAY_MS)
        self._timer.timeout.connect(self._start)

    def show_study(self, study: Study) -> None:
        """Work on ``study`` from now on."""
        self._study = study
        self.changed()

    def changed(self) -> None:
        """The job may have changed: look at it before long."""
        if self._study is not None and self._study.assessment is None and not self._busy():
            self._timer.start()

    def _start(self) -> None:
        study = self._study
        if study is None or study.assessment is not None or self._busy():
            return
        work = study.assessing()
        task = Task("Survey", lambda _running: work())
        task.signals.finished.connect(self._finished)
        self._task = task
        start(task)

    def _finished(self, made: object) -> None:
        from bicentra.core.uncertainty.assess import Assessment

        study = self._study
        if study is not None and isinstance(made, Assessment) and not study.take_assessment(made):
            self.changed()
