"""Opening, saving, recent files, unsaved changes and recovery, for the window."""

import contextlib
from collections.abc import Callable
from functools import partial
from pathlib import Path
from typing import TYPE_CHECKING

from PySide6.QtCore import QThreadPool, QTimer
from PySide6.QtWidgets import QMenu

from bicentra.app import dialogs, workers
from bicentra.app.widgets.plain import plain_menu
from bicentra.core.base.errors import BicentraError, ChangedOnDiskError, JobFileError
from bicentra.study.document import recovery, store
from bicentra.study.document.starting import demo_vehicle, empty_vehicle
from bicentra.study.document.study import Study

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
        self._pool = QThreadPool(window)  # its own: a copy never waits behind other work
        self._pool.setMaxThreadCount(1)

    def changed(self) -> None:
        """The job has changed: keep a recovery copy before long, however many changes follow."""
        if not self._window.study.modified:
            self._timer.stop()
        elif not self._timer.isActive():
            self._timer.start()

    def _keep_copy(self) -> None:
        study = self._window.study
        vehicle, path = study.vehicle, study.path

        def keep(_task: workers.Task) -> None:
            if study.modified and study is self._window.study:  # not saved or left behind in the meantime
                study.keeper.keep(vehicle, path)

        task = workers.Task("Recovery copy", keep)
        task.signals.failed.connect(self._window.say)
        self._task = task
        workers.start(task, self._pool)

    def closing(self) -> None:
        """The window closes with everything saved or given up: its lock goes, and what it kept."""
        self._timer.stop()
        self._pool.waitForDone(2000)
        self._window.study.close(given_up=True)

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
            self._leave_for(lambda: Study(empty_vehicle()))

    def demo(self) -> None:
        """Open a fresh copy of the demo job."""
        if self.may_leave():
            self._leave_for(lambda: Study(demo_vehicle()))

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
            vehicle = store.load_vehicle(path)
        except JobFileError as error:
            dialogs.warn(self._window, "This file cannot be used", str(error))
            return False
        store.remember_file(path)
        store.sweep_temporaries(path.parent)
        self._leave_for(lambda: Study(vehicle, path))
        if self._window.study.shared:
            dialogs.warn(self._window, "Open in another window", f"{store.shown(path)} is open in another window of Bicentra. "
                         "Save under another name here, or close it there first.")  # fmt: skip
        return True

    def _leave_for(self, make: Callable[[], Study]) -> None:
        """Leave the present job, saved or given up, for another, which may be the same file again."""
        self._timer.stop()
        self._pool.waitForDone(2000)
        self._window.study.close(given_up=True)
        self._window.take(make())

    def fill_recent(self, menu: QMenu) -> None:
        """List the recent files."""
        menu.clear()
        paths = store.recent_files()
        for path in paths:
            action = menu.addAction(plain_menu(f"{store.shown(path.name)}   –   {store.shown(path.parent)}"))
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
        name = "".join(c if c.isalnum() or c in " -_" else "-" for c in study.job.title)[:80].strip() or "job"
        suggestion = study.path or self._folder() / f"{name}{SUFFIX}"
        asked = dialogs.ask_save(self._window, suggestion, "Save the job", dialogs.JOB_FILTER)
        if asked is None:
            return False
        path = asked if asked.suffix == ".json" else asked.with_name(asked.name + SUFFIX)
        if path != asked and path.exists() and not dialogs.ask_over(self._window, path):
            return False
        return self._save_to(path)

    def _save_to(self, path: Path) -> bool:
        window, study = self._window, self._window.study
        try:
            try:
                study.save(path)
            except ChangedOnDiskError as changed:
                answer = dialogs.ask_changed(window, str(changed))
                if answer == dialogs.OTHER_NAME:
                    return self.save_as()
                if answer != dialogs.OVER:
                    return False
                study.save(path, over=True)
        except BicentraError as error:
            dialogs.warn(window, "Not saved", f"{error}\n\nThe job is still here, unchanged.")
            return False
        store.remember_file(path)
        window.say("")
        return True

    def _folder(self) -> Path:
        path = self._window.study.path
        return path.parent if path else Path.home()

    def offer_recovery(self, path: Path | None = None) -> None:
        """Offer unsaved work that an earlier run left behind, newest first; only that on ``path`` when one is named.

        What belongs to an open window is not offered; *later* leaves it where it is.
        """
        with contextlib.suppress(BicentraError):
            store.sweep_temporaries(store.state_folder())
        for found in recovery.find_recoveries():
            if path is not None and found.path != path:
                continue
            answer = dialogs.ask_recover(self._window, found)
            if answer == dialogs.TAKE:
                self._leave_for(partial(recovered_study, found))
                return
            if answer == dialogs.DISCARD:
                recovery.give_up(found)


def recovered_study(found: recovery.Recovery) -> Study:
    """Return a study of recovered work that knows it is not saved: its saved state is the file, or nothing."""
    try:
        base = store.load_vehicle(found.path) if found.path else empty_vehicle()
    except JobFileError:
        base = empty_vehicle()
    study = Study(base, found.path)
    study.keeper.take_up(found)
    study.restore(found.vehicle)
    return study
