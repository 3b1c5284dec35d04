"""Working on the drawings: pulling, nudging, typing, findings, remedies."""

import math

import pytest
from PySide6.QtCore import QEvent, QPointF, Qt
from PySide6.QtWidgets import QLineEdit
from pytestqt.qtbot import QtBot

from bicentra.app.drawing.handles import Drag
from bicentra.app.paint import label_rect
from bicentra.app.window import MainWindow
from bicentra.core.base.records import replace
from bicentra.core.drawing.model import Handle
from bicentra.core.parts.edits import with_value
from bicentra.core.parts.job import Job
from bicentra.study.document.starting import empty_job
from tests.app.conftest import Opener, drag, pointer


def handle_px(window: MainWindow, view_name: str, path: str) -> QPointF:
    """Where the handle of ``path`` lies in the widget."""
    view = getattr(window.bench, view_name)
    return view.to_px(next(h.at for h in view.drawing.handles if h.path == path))


def test_both_views_share_one_scale(window: MainWindow) -> None:
    """100 mm are as many pixels in one drawing as in the other, and everything fits."""
    face, section = window.bench.face, window.bench.section
    for view in (face, section):
        a, b = view.to_px((0.0, 0.0)), view.to_px((100.0, 0.0))
        assert b.x() - a.x() == pytest.approx(100 * window.bench.view_state.scale)
        x0, y0, x1, y1 = view.drawing.bounds
        for corner in ((x0, y0), (x1, y1)):
            assert view.rect().contains(view.to_px(corner).toPoint())


def test_dragging_the_caliper_turns_it(window: MainWindow) -> None:
    """A quarter turn of the pointer about the axle is a quarter turn of the caliper: one step, re-solved all the way."""
    view, study = window.bench.face, window.study
    start = handle_px(window, "face", "fit.clock_deg")
    x, y = view.to_mm(start)
    turn = math.radians(10.0)
    end = view.to_px((x * math.cos(turn) - y * math.sin(turn), x * math.sin(turn) + y * math.cos(turn)))
    seen: list[float] = []
    study.changed.append(lambda: seen.append(study.solution.line.ears[0][0]))
    drag(view, start, end)
    assert study.job.fit.clock_deg == pytest.approx(194.0, abs=0.5)
    assert study.job.fit.clock_deg % 0.25 == 0
    assert len(set(seen)) > 3
    assert study.history == ("Turn the caliper",)


def test_escape_lets_go_without_a_change(window: MainWindow, qtbot: QtBot) -> None:
    """Escape in the middle of a pull puts everything back, history and all."""
    start = handle_px(window, "face", "fit.clock_deg")
    drag(window.bench.face, start, start + QPointF(0, 60), release=False)
    assert window.study.job.fit.clock_deg != 184.0
    qtbot.keyClick(window.bench.face, Qt.Key.Key_Escape)
    pointer(window.bench.face, QEvent.Type.MouseMove, start)
    assert window.study.job.fit.clock_deg == 184.0 and window.study.history == ()


def test_pulling_the_plate_behind_the_rotor(window: MainWindow) -> None:
    """To the right is outboard: 20 px are 20/scale mm more; below nothing is refused and the job stays whole."""
    start = handle_px(window, "section", "fit.rotor_spacer_mm")
    drag(window.bench.section, start, start + QPointF(20, 0))
    assert window.study.job.fit.rotor_spacer_mm == pytest.approx(20 / window.bench.view_state.scale, abs=0.06)
    now = handle_px(window, "section", "fit.rotor_spacer_mm")
    drag(window.bench.section, now, now + QPointF(-200, 0))
    assert window.study.job.fit.rotor_spacer_mm >= 0.0


def test_pulling_the_inset(window: MainWindow) -> None:
    """Upward moves the caliper outward: the inset falls, the tip gap grows."""
    start = handle_px(window, "section", "fit.pad_inset_mm")
    before = window.study.solution.line.tip_gap
    drag(window.bench.section, start, start + QPointF(0, -2))
    assert window.study.job.fit.pad_inset_mm < 1.0 and window.study.solution.line.tip_gap > before


def test_the_windows_follow_a_pull(window: MainWindow, qtbot: QtBot) -> None:
    """While the inset is pulled the ring stays, dashed; let go it is exact again once the circle has been looked at."""

    def lines() -> set[str]:
        return {shape.line for shape in window.bench.face.drawing.shapes if shape.ink == "window"}

    start = handle_px(window, "section", "fit.pad_inset_mm")
    assert lines() == {"solid"}
    drag(window.bench.section, start, start + QPointF(0, 9), steps=9, release=False)
    assert lines() == {"hidden"} and not window.bench.desk.looked_round
    pointer(window.bench.section, QEvent.Type.MouseButtonRelease, start + QPointF(0, 9))
    assert lines() == {"hidden"}
    qtbot.waitUntil(lambda: window.bench.desk.looked_round, timeout=10000)
    assert lines() == {"solid"}


def test_the_drawing_stands_still_while_parts_are_pulled(window: MainWindow) -> None:
    """The axle keeps its place on screen through a pull."""
    before = window.bench.face.to_px((0.0, 0.0))
    start = handle_px(window, "face", "fit.clock_deg")
    drag(window.bench.face, start, start + QPointF(0, 90))
    assert window.bench.face.to_px((0.0, 0.0)) == before


@pytest.mark.parametrize(
    ("view", "key", "shift", "path", "change"),
    [
        ("face", Qt.Key.Key_Right, False, "clock_deg", 0.25), ("face", Qt.Key.Key_Left, True, "clock_deg", -2.5),
        ("face", Qt.Key.Key_Up, False, "pad_inset_mm", -0.1), ("section", Qt.Key.Key_Right, False, "rotor_spacer_mm", 0.1),
        ("section", Qt.Key.Key_Down, True, "pad_inset_mm", 1.0),
    ],
)  # fmt: skip
def test_keys_nudge(
    window: MainWindow, qtbot: QtBot, view: str, key: Qt.Key, shift: bool, path: str, change: float
) -> None:
    """Arrows move by the small step, with Shift by ten of them; a row of presses is one step to undo."""
    before = getattr(window.study.job.fit, path)
    modifier = Qt.KeyboardModifier.ShiftModifier if shift else Qt.KeyboardModifier.NoModifier
    for _ in range(2):
        qtbot.keyClick(getattr(window.bench, view), key, modifier)
    assert getattr(window.study.job.fit, path) == pytest.approx(before + 2 * change)
    assert len(window.study.history) == 1


def test_a_dimension_is_typed_over(window: MainWindow, qtbot: QtBot) -> None:
    """Click the number, type inches, Enter: the job holds millimetres. Nonsense stays in the field, the job intact."""
    view = window.bench.section
    label = next(one for one in view.labels if one.edits == "fit.pad_inset_mm")
    pointer(view, QEvent.Type.MouseButtonPress, label_rect(label, view.origin()).center())
    (editor,) = view.findChildren(QLineEdit)
    editor.setText("two")
    qtbot.keyClick(editor, Qt.Key.Key_Return)
    assert editor.text() == "two" and window.study.job.fit.pad_inset_mm == 1.0
    assert "expected a length" in window.footer.message.text()
    editor.setText("1/16 in")
    qtbot.keyClick(editor, Qt.Key.Key_Return)
    assert window.study.job.fit.pad_inset_mm == pytest.approx(1.5875)
    assert not [e for e in view.findChildren(QLineEdit) if e.isVisible()]


def test_choosing_a_finding_lights_both_features(window: MainWindow) -> None:
    """The chosen finding's two features are lit in both drawings, and the reason is shown."""
    window.bench.choose("axial-offset")
    assert window.bench.view_state.lit == frozenset({"rotor", "caliper"})
    assert "too far outboard" in window.bench.detail._why.text()


def test_clicking_a_part_chooses_its_worst_finding(window: MainWindow) -> None:
    """The steering arm leads to the finding that speaks of it."""
    view = window.bench.face
    view.picked.emit("obstacle-0")
    assert window.bench.current().id == "caliper-to-obstacle"


def test_try_is_one_step_and_undo_takes_it_back(window: MainWindow, qtbot: QtBot) -> None:
    """Try the first remedy of each stop: all met; undo twice: as before."""
    for id in ("bolt-tip-to-rotor", "axial-offset"):
        window.bench.choose(id)
        qtbot.mouseClick(window.bench.detail.buttons()[0], Qt.MouseButton.LeftButton)
    assert {v.value for v in window.study.plain_solution.verdicts} == {"ok"}
    assert "19\u00a0met" in window.bench.summary.text() or not window.bench.summary.text().startswith("2 stop")
    window.actions_by_name["undo"].trigger()
    window.actions_by_name["undo"].trigger()
    assert sum(v.value == "stop" for v in window.study.solution.verdicts) == 2


def test_the_ring_follows_and_best_clock_goes_there(window: MainWindow, qtbot: QtBot) -> None:
    """The ring is drawn, is searched anew after a change, and the best angle is one key away."""
    assert any(s.ink == "window" for s in window.bench.face.drawing.shapes)
    window.bench.change("x", (("caliper.bleeders_deg", (-60.0, 60.0)),))
    assert not any(s.ink == "window" for s in window.bench.face.drawing.shapes)
    qtbot.waitUntil(lambda: any(s.ink == "window" for s in window.bench.face.drawing.shapes), timeout=10000)
    window.bench.to_best_clock()
    assert window.study.job.fit.clock_deg == window.bench.desk.ring.best.best


def test_no_feasible_angle_is_said(open_window: Opener) -> None:
    """Without any window the program says so instead of turning somewhere."""
    window = open_window(empty_job())
    window.bench.to_best_clock()
    assert "No clock angle" in window.footer.message.text()


def test_a_left_corner_turns_the_way_it_is_pulled(open_window: Opener, demo: Job) -> None:
    """On the mirrored sheet the caliper still follows the pointer."""
    window = open_window(replace(demo, corner="front-left"))
    start = handle_px(window, "face", "fit.clock_deg")
    drag(window.bench.face, start, start + QPointF(0, -40))
    after = handle_px(window, "face", "fit.clock_deg")
    assert after.y() < start.y() - 20


@pytest.mark.parametrize("corner", ["front-right", "rear-left"])
def test_labels_on_screen_never_overlap(open_window: Opener, demo: Job, corner: str) -> None:
    """All round the clock, with the window at its smallest too, no label covers another."""
    window = open_window(replace(demo, corner=corner))
    for size in ((1280, 800), (900, 560)):
        window.resize(*size)
        for clock in range(0, 360, 45):
            window.bench.change("x", (("fit.clock_deg", float(clock)),))
            window.bench.fit()
            for view in (window.bench.face, window.bench.section):
                view.grab()
                boxes = [one.box for one in view.labels]
                assert not any(a.meets(b, 0.0) for i, a in enumerate(boxes) for b in boxes[:i])


def test_drag_arithmetic() -> None:
    """Along its direction a handle follows the pointer; across it nothing happens; a turn wraps at 360."""
    slide = Drag(Handle("x", (0, 0), (1.0, 0.0), "p", 2.0, 0.5), (10.0, 0.0), 3.0)
    assert slide.value_at((11.1, 40.0)) == 5.0
    assert slide.value_at((11.1, 40.0), snap=False) == pytest.approx(5.2)
    turn = Drag(Handle("x", (0, 0), (0.0, 1.0), "p", 1.0, 0.25, turns=True), (10.0, 0.0), 350.0)
    assert turn.value_at((0.0, 10.0)) == pytest.approx(80.0)


def test_zoom_keeps_what_is_under_the_pointer(window: MainWindow) -> None:
    """Zooming does not move the place under the pointer by more than a pixel, and both scales stay one."""
    view = window.bench.face
    window.actions_by_name["zoom_in"].trigger()
    assert window.bench.view_state.scale == view.view_state.scale and not view.view_state.fitted
    window.actions_by_name["fit"].trigger()
    assert view.view_state.fitted


def test_unmeasured_handles_cannot_be_pulled(open_window: Opener, demo: Job) -> None:
    """Without a clock angle there is no handle to turn; pulling at the paper changes nothing."""
    window = open_window(with_value(demo, "fit.clock_deg", None))
    assert not any(h.turns for h in window.bench.face.drawing.handles)
    drag(window.bench.face, QPointF(200, 300), QPointF(260, 300))
    assert window.study.history == ()


def test_a_caution_by_play_shows_the_number_that_makes_it_so(window: MainWindow, qtbot: QtBot) -> None:
    """The demo's tip gap is on the right side of its limit but for play: its row and its heading say what play leaves."""
    bench = window.bench
    qtbot.waitUntil(lambda: window.study.assessment is not None)
    qtbot.waitUntil(lambda: any(finding.by_play for finding in bench.model.findings))
    played = next(finding for finding in bench.model.findings if finding.by_play)
    row = bench.model.row_at(bench.model.row_of(played.id))
    assert played.band is not None and f"{played.band[0]:.2f} mm with play" in row.second
    bench.choose(played.id)
    assert "with play in the holes" in bench.detail._title.text()
