"""The real window, offscreen, on the demo job."""

import os
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import pytest
from PySide6.QtCore import QEvent, QPointF, QSettings, Qt
from PySide6.QtGui import QMouseEvent
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from bicentra.app import dialogs, workers
from bicentra.app.drawing.view import DrawingView
from bicentra.app.main import make_window
from bicentra.app.window import MainWindow
from bicentra.core.parts.job import Job
from bicentra.study.document.starting import demo_job
from bicentra.study.document.study import Study

Opener = Callable[..., MainWindow]
PATIENCE_MS = 90_000
"""How long a wait lasts at least before it fails: a machine with a load of eight needs ten times what a quiet one does. A wait
ends as soon as what it waits for is there, so only a test that fails anyway takes this long."""


class PatientBot(QtBot):
    """A bot whose waits are never shorter than ``PATIENCE_MS``, whatever a test asks for."""

    def waitUntil(self, callback: Callable[[], object], *, timeout: int = PATIENCE_MS) -> None:
        """Wait until ``callback`` is true or asserts nothing any more."""
        super().waitUntil(callback, timeout=max(timeout, PATIENCE_MS))

    def waitSignal(self, signal: Any, *, timeout: int = PATIENCE_MS, **words: Any) -> Any:
        """Wait for ``signal``."""
        return super().waitSignal(signal, timeout=max(timeout, PATIENCE_MS), **words)


@pytest.fixture
def qtbot(qapp: QApplication, request: pytest.FixtureRequest) -> QtBot:
    """The bot of every test here, patient."""
    del qapp
    return PatientBot(request)


@pytest.fixture
def open_window(qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[Opener]:
    """Opens windows; they close without asking, and a dialog nobody expects fails the test instead of hanging it."""
    monkeypatch.setattr(dialogs, "ask_unsaved", lambda *_: dialogs.DISCARD)
    for name in (
        "ask_new",
        "ask_open",
        "ask_save",
        "warn",
        "tell",
        "ask_recover",
        "ask_over",
        "ask_changed",
        "ask_brake",
        "ask_wide_gap",
        "ask_inspection",
        "ask_give_up",
        "show_answer",
    ):
        monkeypatch.setattr(dialogs, name, _unexpected(name))

    def opened(job: Job | None = None, path: Path | None = None) -> MainWindow:
        settings = QSettings(str(tmp_path / "settings.ini"), QSettings.Format.IniFormat)
        window = make_window(Study(job or demo_job(), path), settings)
        qtbot.addWidget(window)
        window.show()
        qtbot.waitUntil(lambda: window.bench.desk.ring is not None, timeout=10000)
        return window

    yield opened
    workers.wait_for_all()


def _unexpected(name: str) -> Callable[..., None]:
    def fail(*words: object) -> None:
        raise AssertionError(f"{name} was asked: {words[1:]}")

    return fail


@pytest.fixture
def window(open_window: Opener) -> MainWindow:
    """The window on a fresh demo job, its clock search done."""
    return open_window()


def pointer(view: DrawingView, kind: QEvent.Type, at: QPointF, shift: bool = False) -> None:
    """Send one pointer event to a view."""
    left = Qt.MouseButton.LeftButton
    keys = Qt.KeyboardModifier.ShiftModifier if shift else Qt.KeyboardModifier.NoModifier
    QApplication.sendEvent(view, QMouseEvent(kind, at, QPointF(view.mapToGlobal(at)), left, left, keys))


def drag(
    view: DrawingView, start: QPointF, end: QPointF, steps: int = 6, release: bool = True, shift: bool = False
) -> None:
    """Press, move in steps, release."""
    pointer(view, QEvent.Type.MouseButtonPress, start)
    for k in range(1, steps + 1):
        pointer(view, QEvent.Type.MouseMove, start + (end - start) * (k / steps), shift)
    if release:
        pointer(view, QEvent.Type.MouseButtonRelease, end)
