"""Handles of the line-up, bracket and trial fit bench pulled, and the pedal pressed; every move is painted before the next."""

import os
import tempfile
import time
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from PySide6.QtCore import QEvent, QPointF, QSettings, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QApplication

from bicentra.app.drawing.view import DrawingView
from bicentra.app.main import make_app, make_window
from bicentra.app.pedal.bench import PedalBench
from bicentra.app.window import MainWindow
from bicentra.core.drawing.model import Handle
from bicentra.study.document.starting import demo_vehicle
from bicentra.study.document.study import Study
from measure import Timed, in_loops, line

MOVES, WARM = 160, 30
WANTED, WANTED_LATE, WANTED_SHAPED = 5.3, 8.5, 5.3
"""Frames of a pull [plain loops]: 10 ms and 16 ms where a plain loop takes 1.9 ms."""


def pulled(app: QApplication, view: DrawingView, handle: Handle) -> Timed:
    """Return what a frame takes while ``handle`` is pulled to and fro."""
    at = view.to_px(handle.at)
    along = (0.0, -1.0) if handle.turns else (handle.along[0], -handle.along[1])

    def send(kind: QEvent.Type, far: float) -> None:
        point = at + QPointF(along[0] * far, along[1] * far)
        left = Qt.MouseButton.LeftButton
        app.sendEvent(
            view, QMouseEvent(kind, point, view.mapToGlobal(point), left, left, Qt.KeyboardModifier.NoModifier)
        )

    def frame(k: int) -> None:
        send(QEvent.Type.MouseMove, abs(k % 60 - 30) * 0.8)
        app.processEvents()

    send(QEvent.Type.MouseButtonPress, 0.0)
    found = in_loops((lambda k=k: frame(k) for k in range(MOVES)), WARM)
    send(QEvent.Type.MouseButtonRelease, 0.0)
    settle(app, 0.3)
    return found


def pressed(app: QApplication, window: MainWindow) -> Timed:
    """Return what a frame takes while the pedal's slider is moved up and down."""
    window.show_bench("pedal")
    settle(app, 0.8)
    slider = window.benches.of(PedalBench).slider

    def frame(k: int) -> None:
        slider.setValue(300 + abs(k % 60 - 30) * 5)
        app.processEvents()

    return in_loops((lambda k=k: frame(k) for k in range(MOVES)), WARM)


def settle(app: QApplication, seconds: float) -> None:
    """Let what waits come to its end."""
    until = time.monotonic() + seconds
    while time.monotonic() < until:
        app.processEvents()
        time.sleep(0.01)


@contextmanager
def demo_window() -> Iterator[tuple[QApplication, MainWindow]]:
    """Open the window on the demo at 1280 × 800; the job is saved away at the end, so that nobody is asked."""
    app = make_app()
    with tempfile.TemporaryDirectory() as folder:
        os.environ["XDG_STATE_HOME"] = folder
        window = make_window(Study(demo_vehicle()), QSettings(f"{folder}/s.ini", QSettings.Format.IniFormat))
        window.resize(1280, 800)
        window.show()
        yield app, window
        window.study.save(Path(folder) / "x.bicentra.json")
        window.close()


def rows() -> Iterator[dict[str, object]]:
    """Yield a line for each handle, and one for painting both drawings of the line-up with nothing else."""
    with demo_window() as (app, window):
        for bench, wanted in (("lineup", WANTED), ("bracket", WANTED_SHAPED), ("trialfit", WANTED)):
            window.show_bench(bench)
            settle(app, 0.8)
            views = [v for v in window.benches.named(bench).findChildren(DrawingView) if v.isVisible() and v.drawing]
            bare = in_loops([lambda views=views: [view.repaint() for view in views]] * 40)
            print(f"{bench + ': its drawings painted alone':<52} {bare.median:9.2f} loops")
            for view in views:
                for handle in view.drawing.handles[::2] if bench == "bracket" else view.drawing.handles:
                    found = pulled(app, view, handle)
                    more = f"95th percentile {found.late:.1f} loops, {found.median / bare.median:.1f} × painting alone"
                    yield line(f"{bench}: frame of a pull, {handle.path}", found.median, "loops", wanted, more=more)
        found = pressed(app, window)
        more = f"95th percentile {found.late:.1f} loops"
        yield line("pedal: frame of a press", found.median, "loops", WANTED, more=more)
