"""Works out in a thread what the survey says about the job, a moment after each change."""

from collections.abc import Callable

from PySide6.QtCore import QObject, QTimer

from bicentra.app import workers
from bicentra.study.document.starting import load_first_adjustment
from bicentra.study.document.study import Study

DELAY_MS = 60


def load_solvers(_running: workers.Task) -> None:
    """Load in a thread what the first adjustment will need, so that the first reading does not wait for it."""
    load_first_adjustment()


class Assessor(QObject):
    """Keeps the assessment of the open study up to date; a job that changes meanwhile is looked at again.

    While ``busy`` (something is being pulled) nothing is begun: a thread that computes takes the interpreter from the
    one that paints.
    """

    def __init__(self, parent: QObject, busy: Callable[[], bool]) -> None:
        super().__init__(parent)
        self._busy = busy
        self._study: Study | None = None
        self._task: workers.Task | None = None
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
        task = workers.Task("Survey", lambda _running: work())
        task.signals.finished.connect(self._finished)
        self._task = task
        workers.start(task)

    def _finished(self, made: object) -> None:
        from bicentra.core.certainty.assess import Assessment

        study = self._study
        if study is not None and isinstance(made, Assessment) and not study.take_assessment(made):
            self.changed()
