"""What hands do on drawings: menus on parts and numbers, moving the sheet by keys, taking a picture along, going back, bars."""

import math
import xml.etree.ElementTree as ElementTree

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtWidgets import QMenu
from pytestqt.qtbot import QtBot

from bicentra.app.drawing.context_menu import copy_picture, copy_svg, offer
from bicentra.app.drawing.view import DrawingView
from bicentra.app.widgets.findings import room_of
from bicentra.app.window import MainWindow
from bicentra.core.base.finding import Finding, Verdict
from bicentra.core.drawing.views.face import face_view
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.job import Job
from bicentra.formats.svg import ROOM_MM, drawing_svg
from tests.app.conftest import Opener


@pytest.fixture
def window(open_window: Opener) -> MainWindow:
    """The demo, shown."""
    made = open_window()
    made.show()
    return made


def spot_of(view: DrawingView, tag: str) -> QPointF:
    """A place of ``view`` that lies on the part called ``tag``, with no number over it."""
    for x in range(10, view.width(), 5):
        for y in range(40, view.height(), 5):
            at = QPointF(x, y)
            if view.feature_at(at) == tag and view.label_at(at) is None:
                return at
    raise AssertionError(f"{tag} is not in sight")


def texts(menu: QMenu) -> list[str]:
    """What a menu offers."""
    return [action.text() for action in menu.actions() if action.text()]


def test_a_right_click_offers_what_can_be_done_there(window: MainWindow) -> None:
    """On a part its sheet and what is asked of it, on a number to type over it, on paper the sheet alone."""
    view = window.bench.section
    menu = offer(view, spot_of(view, "rotor"))
    assert any("Sheet of this part" in text for text in texts(menu)) and "Copy the picture" in texts(menu)
    next(action for action in menu.actions() if "Sheet" in action.text()).trigger()
    assert window.sheets.open == "rotor"
    window.sheets.fold()
    label = next(label for label in view.labels if label.edits == "rotor.thickness_mm")
    middle = QPointF(view.origin().x() + label.box.middle[0], view.origin().y() - label.box.middle[1])
    menu = offer(view, middle)
    assert texts(menu)[0].startswith("Type over")
    menu.actions()[0].trigger()
    assert window.bench._field.editor is not None
    assert texts(offer(view, QPointF(3, view.height() - 3)))[0] == "Show everything"


def test_the_right_button_pulled_moves_and_clicked_offers(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """A click opens the menu once; a pull moves the sheet and opens none."""
    view, opened = window.bench.face, list[QPointF]()
    monkeypatch.setattr(view, "offer_at", opened.append)
    qtbot.mouseClick(view, Qt.MouseButton.RightButton, pos=QPoint(60, 60))
    assert len(opened) == 1
    before = view.origin()
    qtbot.mousePress(view, Qt.MouseButton.RightButton, pos=QPoint(60, 60))
    qtbot.mouseMove(view, QPoint(110, 90))
    qtbot.mouseRelease(view, Qt.MouseButton.RightButton, pos=QPoint(110, 90))
    assert len(opened) == 1 and view.origin() != before


def test_keys_move_and_enlarge_the_sheet(window: MainWindow, qtbot: QtBot) -> None:
    """Ctrl with an arrow brings what lies there into sight and turns nothing; Ctrl+0 shows everything again."""
    view, clock = window.bench.face, window.study.job.fit.clock_deg
    window.fit()
    before, scale = view.origin(), view.view_state.scale
    qtbot.keyClick(view, Qt.Key.Key_Right, Qt.KeyboardModifier.ControlModifier)
    assert view.origin().x() < before.x() and window.study.job.fit.clock_deg == clock
    window.actions_by_name["zoom_in"].trigger()
    assert view.view_state.scale > scale
    window.actions_by_name["fit_key"].trigger()
    assert view.origin() == before and view.view_state.scale == pytest.approx(scale)


def test_a_drawing_is_taken_along(window: MainWindow, demo: Job) -> None:
    """As a picture and as SVG; the SVG's unit is one millimetre: its box is the drawing's and the room round it."""
    view = window.bench.face
    copy_picture(view)
    assert QGuiApplication.clipboard().image().width() >= view.width()
    copy_svg(view)
    told = bytes(QGuiApplication.clipboard().mimeData().data("image/svg+xml").data())
    assert ElementTree.fromstring(told).tag.endswith("svg")
    drawing = face_view(solve(demo))
    root = ElementTree.fromstring(drawing_svg(drawing, "A & B <c>"))
    x0, y0, x1, y1 = drawing.bounds
    box = [float(v) for v in root.attrib["viewBox"].split()]
    assert box == pytest.approx([x0 - ROOM_MM, -y1 - ROOM_MM, x1 - x0 + 2 * ROOM_MM, y1 - y0 + 2 * ROOM_MM], abs=1e-3)
    assert float(root.attrib["width"][:-2]) == pytest.approx(box[2], abs=1e-3)
    said = [path.attrib["aria-label"] for path in root.iter() if "aria-label" in path.attrib]
    assert any("rotor" in text for text in said) and root[0].text == "A & B <c>"


def test_going_back_in_the_list_of_steps(window: MainWindow) -> None:
    """The step that is clicked is the last one again; redo does the others one by one."""
    first = window.study.job
    for clock in (185.0, 186.0, 187.0):
        window.change(f"Turn to {clock}", (("fit.clock_deg", clock),))
    window.actions_by_name["history"].trigger()
    menu = window.findChildren(QMenu)[-1]
    assert texts(menu)[0] == "Turn to 187.0   (the last)" and texts(menu)[2] == "Turn to 185.0"
    menu.actions()[2].trigger()
    assert window.study.job.fit.clock_deg == 185.0 and window.study.redo_label == "Turn to 186.0"
    window.study.go_back(0)
    assert window.study.job.fit.clock_deg == 185.0
    window.study.go_back(99)
    assert window.study.job == first
    for _ in range(3):
        window.study.redo()
    assert window.study.job.fit.clock_deg == 187.0


def test_bars_show_room_against_limits(window: MainWindow) -> None:
    """Right of the tick where there is room, left where some is missing, nothing where it is unknown; words come back."""
    model = window.bench.model
    window.bench.ladder_button.setChecked(True)
    for row, finding in enumerate(model.findings):
        bar = model.row_at(row).bar
        assert bar is not None
        if finding.verdict is Verdict.STOP and math.isfinite(bar):
            assert bar < 0
        if finding.verdict is Verdict.OK and math.isfinite(bar):
            assert bar >= 0 or finding.limit == 0, finding.id
    assert not window.bench.list.grab().toImage().isNull()
    window.bench.ladder_button.setChecked(False)
    assert model.row_at(0).bar is None
    least = Finding("tip-gap", Verdict.OK, 3.0, 2.0, "mm", "")
    most = Finding("axial-offset", Verdict.OK, -0.1, 0.25, "mm", "", at_least=False)
    assert room_of(least) == 0.5 and room_of(most) == pytest.approx(0.15)
    assert math.isnan(room_of(Finding("tip-gap", Verdict.UNKNOWN, math.nan, 2.0, "mm", "")))
