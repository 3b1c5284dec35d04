"""Starting the window."""

import gc
import sys
import traceback
from pathlib import Path
from types import TracebackType

from PySide6.QtCore import QSettings, QTimer
from PySide6.QtWidgets import QApplication

from bicentra.app import workers
from bicentra.app.theme import LOOKS, apply_look, load_fonts
from bicentra.app.window import MainWindow
from bicentra.study.starting import demo_job, empty_job
from bicentra.study.store import load
from bicentra.study.study import Study

PICTURE_DELAY_MS = 1500


def run(job: str | None, demo: bool, picture: str | None = None) -> int:
    """Open the window on a job, on the demo or empty; returns the exit code. Raises ``JobFileError``."""
    path = Path(job) if job else None
    study = Study(demo_job()) if demo else Study(load(path), path) if path else Study(empty_job())
    app = make_app()
    settings = QSettings("bicentra", "bicentra")
    window = make_window(study, settings)
    window.show()
    _catch_faults(window)
    QTimer.singleShot(2000, gc.freeze)  # what start-up made stays: later collections need not walk it
    if picture:
        QTimer.singleShot(PICTURE_DELAY_MS, lambda: _take_picture(window, picture, app))
    elif not demo and path is None:
        QTimer.singleShot(300, window.files.offer_recovery)
    return int(app.exec())


def make_app() -> QApplication:
    """Return the application with its fonts and name, made once."""
    existing = QApplication.instance()
    if isinstance(existing, QApplication):
        return existing
    app = QApplication(sys.argv[:1])
    app.aboutToQuit.connect(workers.stop_all)
    app.setApplicationName("Bicentra")
    app.setStyle("Fusion")
    load_fonts()
    return app


def make_window(study: Study, settings: QSettings) -> MainWindow:
    """Return the main window on ``study``, dressed in the look last used."""
    app = make_app()
    apply_look(app, LOOKS.get(str(settings.value("look", "light")), LOOKS["light"]))
    return MainWindow(study, settings)


def _take_picture(window: MainWindow, name: str, app: QApplication) -> None:
    if window.grab().save(name):
        print(f"picture of the first view: {name}")
    else:
        print(f"the picture could not be written to {name}", file=sys.stderr)
    app.quit()


def _catch_faults(window: MainWindow) -> None:
    """Show an error inside the program in the window and keep the job: nothing typed is lost to a fault of ours."""

    def caught(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        traceback.print_exception(kind, error, trace)
        window.say(f"An error inside Bicentra: {error}. The job is intact; save it now.")

    sys.excepthook = caught
