"""Starting the window."""

import gc
import os
import sys
import traceback
from pathlib import Path
from types import TracebackType
from typing import TYPE_CHECKING

from PySide6.QtCore import QSettings, QTimer
from PySide6.QtGui import QIcon
from PySide6.QtWidgets import QApplication, QWidget

from bicentra.app.shell import Shell
from bicentra.app.theme import apply_look, load_fonts, look_of
from bicentra.core.base.errors import BicentraError
from bicentra.data import data_path

if TYPE_CHECKING:
    from bicentra.app.window import MainWindow
    from bicentra.core.parts.vehicle import Vehicle
    from bicentra.study.document.study import Study

PICTURE_DELAY_MS, READY_MS, SETTLED_MS = 1500, 1500, 1000


def run(job: str | None, demo: bool, picture: str | None = None, practice: tuple[int, int] | None = None) -> int:
    """Open the window on a job, on the demo, on a ``practice`` corner (number, level) or empty; returns the exit code.

    Raises ``JobFileError``.

    The frame is painted first; drawing, geometry and file libraries are loaded behind it.
    """
    gc.disable()  # nothing made while starting is garbage: see _settle
    path = Path(job).absolute() if job else None
    _check_display()
    if path is not None and _open_already(path):
        return 0
    opened = (
        _read(path) if practice is None else _practice(*practice)
    )  # before any window: a file that cannot be used ends with one line and exit code 2
    app = make_app()
    settings = QSettings("bicentra", "bicentra")
    _dress(app, settings)
    shell = Shell("the demo" if demo else path.name if path else "the last jobs", settings)
    shell.show()
    shell.furnish_with(lambda: _furniture(shell, opened, path, demo, settings, picture))
    return int(app.exec())


def _open_already(path: Path) -> bool:
    """Tell whether another window has the job at ``path`` open; that one comes to the front then."""
    from bicentra.app.single_instance import ring

    if not path.exists() or not ring(path):
        return False
    print(f"{path.name} is open in another window of Bicentra: it is brought to the front")
    return True


def _check_display() -> None:
    """Raise ``BicentraError`` where there is nothing to show a window on; Qt itself would abort."""
    if sys.platform == "linux" and not any(
        os.environ.get(n) for n in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")
    ):
        raise BicentraError(
            "there is no display to open a window on; use “make demo”, which starts a virtual one, or “bicentra check JOB”"
        )


def _practice(seed: int, level: int) -> "Vehicle":
    from bicentra.study.document.starting import practice_vehicle

    return practice_vehicle(seed, level)


def _read(path: Path | None) -> "Vehicle | None":
    if path is None:
        return None
    from bicentra.study.document.store import load_vehicle

    return load_vehicle(path)


def _furniture(
    shell: Shell, opened: "Vehicle | None", path: Path | None, demo: bool, settings: QSettings, picture: str | None
) -> QWidget:
    """Load and build the workshop on the job asked for."""
    from bicentra.study.document.starting import demo_vehicle, empty_vehicle
    from bicentra.study.document.study import Study

    window = make_window(Study(opened or (demo_vehicle() if demo else empty_vehicle()), path), settings)
    if opened is None and not demo:
        window.show_start()
    elif not demo:
        front = (
            "trialfit" if opened is not None and opened.practice_run is not None else settings.value("bench", "lineup")
        )
        window.show_bench(str(front))
    _catch_faults(window)
    QTimer.singleShot(READY_MS, lambda: make_ready(window))
    QTimer.singleShot(SETTLED_MS, _settle)
    if picture:
        QTimer.singleShot(PICTURE_DELAY_MS, lambda: _take_picture(shell, picture))
    elif not demo:
        QTimer.singleShot(300, lambda: window.files.offer_recovery(path))
    return window


def make_ready(window: "MainWindow") -> None:
    """Make ready, a little at a time, what will be asked for."""
    from bicentra.app.benches import load_ahead
    from bicentra.app.workers import Task, start

    start(Task("Loading", load_ahead))
    window.sheets.make_ready()


def _settle() -> None:
    """What start-up made stays: collections need not walk it; from now on there are some again."""
    gc.freeze()
    gc.enable()


def make_app() -> QApplication:
    """Return the application with its fonts and name, made once."""
    existing = QApplication.instance()
    if isinstance(existing, QApplication):
        return existing
    app = QApplication(sys.argv[:1])
    app.aboutToQuit.connect(_stop_work)
    app.setApplicationName("Bicentra")
    app.setStyle("Fusion")
    app.setDesktopFileName("bicentra")
    app.setWindowIcon(QIcon(str(data_path("icons", "bicentra-256.png"))))
    load_fonts()
    return app


def make_window(study: "Study", settings: QSettings) -> "MainWindow":
    """Return the workshop on ``study``, dressed in the look last used."""
    from bicentra.app.window import MainWindow

    _dress(make_app(), settings)
    return MainWindow(study, settings)


def _stop_work() -> None:
    """The program is closing: no thread goes on behind its back."""
    from bicentra.app import workers

    workers.stop_all()


def _dress(app: QApplication, settings: QSettings) -> None:
    apply_look(app, look_of(str(settings.value("look", "light")), str(settings.value("text", "1"))))


def _take_picture(window: QWidget, name: str) -> None:
    if window.grab().save(name):
        print(f"picture of the first view: {name}")
    else:
        print(f"the picture could not be written to {name}", file=sys.stderr)
    QApplication.quit()


def _catch_faults(window: "MainWindow") -> None:
    """Show an error inside the program in the window and keep the job: nothing typed is lost to a fault of ours."""

    def caught(kind: type[BaseException], error: BaseException, trace: TracebackType | None) -> None:
        traceback.print_exception(kind, error, trace)
        window.say(f"An error inside Bicentra: {error}. The job is intact; save it now.")

    sys.excepthook = caught
