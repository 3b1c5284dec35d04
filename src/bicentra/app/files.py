"""Opening, saving, recent files, unsaved changes and recovery, for the window."""

from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QMenu

from bicentra.app import dialogs, workers
from bicentra.core.base.errors import BicentraError, JobFileError
from bicentra.study import store
from bicentra.study.starting import demo_job, empty_job
from bicentra.study.study import Study

if TYPE_CHECKING:
    from bicentra.app.window import MainWindow

RECOVERY_MS = 3000
SUFFIX = ".bicentra.json"


class FileKeeper:
    """Keeps the window's job on disk. Nothing here changes the job."""

    def __init__(self, window: "MainWindow") -> None:
        self._window = window
        self._timer = QTimer(window)
        self._timer.setSingleShot(True)
        self._timer.setInterval(RECOVERY_MS)
        self._timer.timeout.connect(self._keep_copy)

    def changed(self) -> None:
        """The job has changed: keep a recovery copy before long."""
        if self._window.study.modified:
            self._timer.start()
        else:
            self._timer.stop()

    def _keep_copy(self) -> None:
        study = self._window.study
        job, path = study.job, study.path

        def keep(_task: workers.Task) -> None:
            if study.modified and study is self._window.study:  # not saved or left behind in the meantime
                store.keep_recovery(job, path)

        task = workers.Task("Recovery copy", keep)
        task.signals.failed.connect(self._window.say)
        self._task = task
        workers.start(task)

    def closing(self) -> None:
        """The window closes with everything saved or given up: forget the recovery copy."""
        self._timer.stop()
        workers.wait_for_all()
        store.drop_recovery(self._window.study.path)

    def may_leave(self) -> bool:
        """Ask about unsaved changes; True when the job may be left."""
        study = self._window.study
        if not study.modified:
            return True
        answer = dialogs.ask_unsaved(self._window, study.job.title or "Untitled job")
        if answer == dialogs.SAVE:
            return self.save()
        return answer == dialogs.DISCARD

    def new(self) -> None:
        """Start an empty job."""
        if self.may_leave():
            self._leave()
            self._window.take(Study(empty_job()))

    def demo(self) -> None:
        """Open a fresh copy of the demo job."""
        if self.may_leave():
            self._leave()
            self._window.take(Study(demo_job()))

    def open(self) -> None:
        """Ask for a job and open it."""
        if not self.may_leave():
            return
        path = dialogs.ask_open(self._window, self._folder())
        if path is not None:
            self.open_path(path)

    def open_path(self, path: Path) -> bool:
        """Open the job at ``path``; a file that cannot be used leaves the present job as it is."""
        try:
            study = Study(store.load(path), path)
        except JobFileError as error:
            dialogs.warn(self._window, "This file cannot be used", str(error))
            return False
        self._leave()
        store.remember_file(path)
        self._window.take(study)
        return True

    def _leave(self) -> None:
        self._timer.stop()
        store.drop_recovery(self._window.study.path)

    def fill_recent(self, menu: QMenu) -> None:
        """List the recent files."""
        menu.clear()
        paths = store.recent_files()
        for path in paths:
            action = menu.addAction(f"{path.name}   –   {path.parent}")
            action.triggered.connect(lambda _checked=False, path=path: self.may_leave() and self.open_path(path))
        if not paths:
            menu.addAction("None yet").setEnabled(False)

    def save(self) -> bool:
        """Save the job where it came from, or ask; True when it is saved."""
        study = self._window.study
        return self.save_as() if study.path is None else self._save_to(study.path)

    def save_as(self) -> bool:
        """Ask for a name and save there."""
        study = self._window.study
        name = "".join(c if c.isalnum() or c in " -_" else "-" for c in study.job.title).strip() or "job"
        suggestion = study.path or self._folder() / f"{name}{SUFFIX}"
        path = dialogs.ask_save(self._window, suggestion, "Save the job", dialogs.JOB_FILTER)
        if path is None:
            return False
        return self._save_to(path if path.suffix == ".json" else path.with_name(path.name + SUFFIX))

    def _save_to(self, path: Path) -> bool:
        try:
            self._window.study.save(path)
        except BicentraError as error:
            dialogs.warn(self._window, "Not saved", f"{error}\n\nThe job is still here, unchanged.")
            return False
        store.remember_file(path)
        self._window.say("")
        return True

    def _folder(self) -> Path:
        path = self._window.study.path
        return path.parent if path else Path.home()

    def offer_recovery(self, path: Path | None = None) -> None:
        """Offer unsaved work that an earlier run left behind, newest first; only that on ``path`` when one is named."""
        for found in store.find_recoveries():
            if path is not None and found.path != path:
                continue
            if dialogs.ask_recover(self._window, found.job.title):
                study = recovered_study(found)
                self._window.take(study)
                return
            store.drop_recovery(found.path)


def recovered_study(found: store.Recovery) -> Study:
    """Return a study of recovered work that knows it is not saved: its saved state is the file, or nothing."""
    try:
        base = store.load(found.path) if found.path else empty_job()
    except JobFileError:
        base = empty_job()
    study = Study(base, found.path)
    study.restore(found.job)
    return study
