"""Opening, saving, recent files, unsaved changes and recovery, for the window."""

import contextlib
from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import QMimeData, QThreadPool, QTimer
from PySide6.QtWidgets import QMenu

from bicentra.app import dialogs, workers
from bicentra.app.host import Host
from bicentra.app.single_instance import ring
from bicentra.app.widgets.plain import plain_menu
from bicentra.core.base.errors import BicentraError, ChangedOnDiskError, JobFileError
from bicentra.study.document import recovery, store
from bicentra.study.document.starting import EXAMPLES, demo_vehicle, empty_vehicle, example_vehicle, new_vehicle
from bicentra.study.document.study import Study

RECOVERY_MS = 3000
SUFFIX = ".bicentra.json"


class FileKeeper:
    """Keeps the window's job on disk. Nothing here changes the job."""

    def __init__(self, host: Host) -> None:
        self._host = host
        self._timer = QTimer(host.frame)
        self._timer.setSingleShot(True)
        self._timer.setInterval(RECOVERY_MS)
        self._timer.timeout.connect(self._keep_copy)
        self._pool = QThreadPool(host.frame)  # its own: a copy never waits behind other work
        self._pool.setMaxThreadCount(1)

    def changed(self) -> None:
        """The job has changed: keep a recovery copy before long, however many changes follow."""
        if not self._host.study.modified:
            self._timer.stop()
        elif not self._timer.isActive():
            self._timer.start()

    def _keep_copy(self) -> None:
        study = self._host.study
        vehicle, path = study.vehicle, study.path

        def keep(_task: workers.Task) -> None:
            if study.modified and study is self._host.study:  # not saved or left behind in the meantime
                study.keeper.keep(vehicle, path)

        task = workers.Task("Recovery copy", keep)
        task.signals.failed.connect(self._host.say)
        self._task = task
        workers.start(task, self._pool)

    def closing(self) -> None:
        """The window closes with everything saved or given up: its lock goes, and what it kept."""
        self._timer.stop()
        self._pool.waitForDone(2000)
        self._host.study.close(given_up=True)

    def may_leave(self) -> bool:
        """Ask about unsaved changes; True when the job may be left."""
        study = self._host.study
        if not study.modified:
            return True
        answer = dialogs.ask_unsaved(self._host.frame, study.job.title or "Untitled job")
        if answer == dialogs.SAVE:
            return self.save()
        return answer == dialogs.DISCARD

    def new(self) -> None:
        """Ask what is known of a new job and begin it."""
        if not self.may_leave():
            return
        start = dialogs.ask_new(self._host.frame, str(self._host.settings.value("units", "mm")))
        if start is not None:
            self._host.settings.setValue("units", start.units)
            self._leave_for(lambda: Study(new_vehicle(start)))
            self._host.begin(start.parts == "library")

    def demo(self) -> None:
        """Open a fresh copy of the demo job."""
        if self.may_leave():
            self._leave_for(lambda: Study(demo_vehicle()))

    def practise(self, level: int = 1) -> bool:
        """Ask for a practice corner and open it; whether one was opened. ``level``: the one that is proposed."""
        if not self.may_leave():
            return False
        chosen = dialogs.ask_practice(self._host.frame, level)
        if chosen is None:
            return False
        from bicentra.study.document.starting import practice_vehicle

        self._leave_for(lambda: Study(practice_vehicle(*chosen)))
        return True

    def example(self, name: str) -> None:
        """Open a fresh copy of the example called ``name``."""
        if self.may_leave():
            self._leave_for(lambda: Study(example_vehicle(name)))

    def fill_examples(self, menu: QMenu) -> None:
        """List the examples: one for each kind of job."""
        menu.clear()
        for name, text in EXAMPLES.items():
            menu.addAction(text).triggered.connect(lambda _checked=False, name=name: self.example(name))

    def open(self) -> None:
        """Ask for a job and open it."""
        if not self.may_leave():
            return
        path = dialogs.ask_open(self._host.frame, self._folder())
        if path is not None:
            self.open_path(path)

    def open_path(self, path: Path) -> bool:
        """Open the job at ``path``; a file that cannot be used leaves the present job as it is."""
        try:
            vehicle = store.load_vehicle(path)
        except JobFileError as error:
            dialogs.warn(self._host.frame, "This file cannot be used", str(error))
            return False
        store.remember_file(path)
        store.sweep_temporaries(path.parent)
        self._leave_for(lambda: Study(vehicle, path))
        if self._host.study.shared:
            ring(path)
            dialogs.warn(self._host.frame, "Open in another window", f"{store.shown(path)} is open in another window of Bicentra. "
                         "Save under another name here, or close it there first.")  # fmt: skip
        return True

    def _leave_for(self, make: Callable[[], Study]) -> None:
        """Leave the present job, saved or given up, for another, which may be the same file again."""
        self._timer.stop()
        self._pool.waitForDone(2000)
        self._host.study.close(given_up=True)
        self._host.take(make())

    def leave(self) -> None:
        """Leave the job, saved or given up, for nothing: an empty one that nobody has begun."""
        self._leave_for(lambda: Study(empty_vehicle()))

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
        study = self._host.study
        return self.save_as() if study.path is None else self._save_to(study.path)

    def save_as(self) -> bool:
        """Ask for a name and save there."""
        study = self._host.study
        name = "".join(c if c.isalnum() or c in " -_" else "-" for c in study.job.title)[:80].strip() or "job"
        suggestion = study.path or self._folder() / f"{name}{SUFFIX}"
        asked = dialogs.ask_save(self._host.frame, suggestion, "Save the job", dialogs.JOB_FILTER)
        if asked is None:
            return False
        path = asked if asked.suffix == ".json" else asked.with_name(asked.name + SUFFIX)
        if path != asked and path.exists() and not dialogs.ask_over(self._host.frame, path):
            return False
        return self._save_to(path)

    def _save_to(self, path: Path) -> bool:
        host, study = self._host, self._host.study
        old = study.path
        try:
            try:
                study.save(path)
            except ChangedOnDiskError as changed:
                answer = dialogs.ask_changed(host.frame, str(changed))
                if answer == dialogs.OTHER_NAME:
                    return self.save_as()
                if answer != dialogs.OVER:
                    return False
                study.save(path, over=True)
        except BicentraError as error:
            dialogs.warn(host.frame, "Not saved", f"{error}\n\nThe job is still here, unchanged.")
            return False
        from bicentra.study.document.photos import carry

        try:
            carry(old, path, tuple(photo.file for photo in study.job.photos))
        except BicentraError as error:
            dialogs.warn(host.frame, "Photos not copied", str(error))
        store.remember_file(path)
        host.bell.hang(path)
        host.say("")
        return True

    def _folder(self) -> Path:
        path = self._host.study.path
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
            answer = dialogs.ask_recover(self._host.frame, found)
            if answer == dialogs.TAKE:
                keeper = recovery.Keeper()
                if keeper.take_up(found):
                    self._leave_for(partial(recovered_study, found, keeper))
                    return
                dialogs.warn(
                    self._host.frame, "Already open", "Another window of Bicentra is working on these changes."
                )
            if answer == dialogs.DISCARD:
                recovery.give_up(found)


def dropped_job(data: QMimeData) -> Path | None:
    """Return the job's file that is dragged over the window; ``None`` for anything else, or more than one."""
    paths = [Path(url.toLocalFile()) for url in data.urls() if url.isLocalFile()]
    return paths[0] if len(paths) == 1 and paths[0].suffix == ".json" else None


def recovered_study(found: recovery.Recovery, keeper: recovery.Keeper) -> Study:
    """Return a study of work taken up by ``keeper`` that knows it is not saved: its saved state is the file, or nothing."""
    try:
        base = store.load_vehicle(found.path) if found.path else empty_vehicle()
    except JobFileError:
        base = empty_vehicle()
    study = Study(base, found.path)
    study.keeper = keeper
    study.restore(found.vehicle)
    return study
