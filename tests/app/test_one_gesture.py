"""Enter, Escape, double click, right click, wheel and drag do the same on the drawing of every bench."""

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtWidgets import QApplication
from pytestqt.qtbot import QtBot

from bicentra.app.drawing import context_menu
from bicentra.app.drawing.view import DrawingView
from bicentra.app.window import MainWindow
from bicentra.core.parts.job import Job
from bicentra.study.document.starting import demo_vehicle, empty_job
from tests.app.conftest import Opener

DRAWN = {"lineup": "face", "survey": "sheet", "bracket": "view", "trialfit": "view", "pedal": "machine"}


def drawing_of(window: MainWindow, name: str) -> DrawingView:
    """Return the drawing of the bench called ``name``, in front."""
    window.show_bench(name)
    if name == "bracket":
        window.front.show_page("part")
    view: DrawingView = getattr(window.front, DRAWN[name])
    return view


def paper_of(view: DrawingView) -> QPoint:
    """Return a place of the sheet where nothing is drawn."""
    spots = (QPoint(x, y) for y in range(34, view.height() - 30, 12) for x in range(8, view.width() - 8, 12))
    return next(
        spot
        for spot in spots
        if not view.feature_at(QPointF(spot))
        and view.handle_at(QPointF(spot)) is None
        and view.label_at(QPointF(spot)) is None
    )


@pytest.mark.parametrize("name", DRAWN)
def test_the_same_everywhere(name: str, open_window: Opener, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    """The wheel zooms, paper is dragged, a double click on it shows everything, the right button offers, Enter types over."""
    window = open_window(demo_vehicle())
    view = drawing_of(window, name)
    qtbot.wait(20)
    view.grab()
    fitted, spot = view.view_state.scale, paper_of(view)
    turn = QWheelEvent(
        QPointF(spot), QPointF(view.mapToGlobal(spot)), QPoint(), QPoint(0, 120), Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier, Qt.ScrollPhase.NoScrollPhase, False,
    )  # fmt: skip
    QApplication.sendEvent(view, turn)
    assert view.view_state.scale > fitted
    before, spot = view.origin(), paper_of(view)
    qtbot.mousePress(view, Qt.MouseButton.RightButton, pos=spot)
    qtbot.mouseMove(view, spot + QPoint(40, 20))
    qtbot.mouseRelease(view, Qt.MouseButton.RightButton, pos=spot + QPoint(40, 20))
    assert view.origin() != before
    qtbot.mouseDClick(view, Qt.MouseButton.LeftButton, pos=paper_of(view))
    assert view.view_state.scale == pytest.approx(fitted) and view.view_state.fitted
    offered: list[DrawingView] = []
    monkeypatch.setattr(context_menu, "offer", lambda asked, _at: offered.append(asked))
    spot = paper_of(view)
    qtbot.mousePress(view, Qt.MouseButton.RightButton, pos=spot)
    qtbot.mouseRelease(view, Qt.MouseButton.RightButton, pos=spot)
    assert offered == [view]
    typed: list[str] = []
    view.typed_over.connect(lambda path, _rect: typed.append(path))
    view.grab()
    for _ in range(60):
        if view.keyboard.label(view.labels) is not None:
            break
        qtbot.keyClick(view, Qt.Key.Key_N)
    label = view.keyboard.label(view.labels)
    if label is not None:
        qtbot.keyClick(view, Qt.Key.Key_Return)
        assert typed == [label.edits]


def test_a_dashed_part_opens_its_sheet(open_window: Opener, qtbot: QtBot) -> None:
    """A double click on the example of a rotor opens the rotor's sheet; Escape goes back to the bench."""
    window = open_window(empty_job())
    view = window.bench.face
    qtbot.wait(20)
    view.grab()
    spots = (QPoint(x, y) for y in range(40, view.height() - 30, 6) for x in range(8, view.width() - 8, 6))
    spot = next(s for s in spots if view.feature_at(QPointF(s)) == "rotor" and view.label_at(QPointF(s)) is None)
    qtbot.mouseDClick(view, Qt.MouseButton.LeftButton, pos=spot)
    assert window.sheets.open == "rotor"
    qtbot.keyClick(window, Qt.Key.Key_Escape)
    assert not window.sheets.open


def test_enter_in_the_list_goes_to_what_can_be_done(demo: Job, open_window: Opener, qtbot: QtBot) -> None:
    """Enter on a finding puts the keys on its first remedy; Escape closes the pane of what is missing."""
    window = open_window(demo)
    bench = window.bench
    bench.choose(next(f.id for f in bench.model.findings if any(r.edits for r in f.remedies)))
    qtbot.keyClick(bench.list, Qt.Key.Key_Return)
    assert bench.detail.buttons()[0].hasFocus() or not window.isActiveWindow()
    bench.ask_for_missing()
    qtbot.keyClick(window, Qt.Key.Key_Escape)
    assert bench._side.currentWidget() is bench.column
