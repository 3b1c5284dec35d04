"""From an empty job to a plate by keyboard alone: each measurement is asked where it is taken."""

from dataclasses import replace

from PySide6.QtCore import Qt
from pytestqt.qtbot import QtBot

from bicentra.app.field_finder import FieldFinder
from bicentra.core.blanks import wanted
from bicentra.core.parts.edits import get_value
from bicentra.study.document.starting import demo_job, empty_job
from tests.app.conftest import Opener

TYPED = ("-62", "40", "-62", "-40", "256", "130", "20", "M12x1.5", "m10", "180")


def test_ten_entries_make_a_plate(open_window: Opener, qtbot: QtBot) -> None:
    """Enter takes a value and asks for the next; a wrong one stays open with a reason; the plate appears and is one undo a step."""
    window = open_window(empty_job())
    bench = window.bench
    assert "10 measurements until the plate appears" in bench.summary.text() and "(9 more" in window.next_label.text()
    assert not bench.plan_button.isVisible() and "Dotted" in bench.face.told
    window.do_next()
    for number, (blank, text) in enumerate(zip(wanted(window.study.job), TYPED)):
        qtbot.waitUntil(lambda: bench._field.editor is not None)
        editor = bench._field.editor
        if number == 4:
            qtbot.keyClicks(editor, "wide")
            qtbot.keyClick(editor, Qt.Key.Key_Return)
            assert bench._field.editor is editor and get_value(window.study.job, blank.path) is None
            editor.clear()
        qtbot.keyClicks(editor, text)
        qtbot.keyClick(editor, Qt.Key.Key_Return)
        qtbot.waitUntil(lambda path=blank.path: get_value(window.study.job, path) is not None)
    qtbot.waitUntil(lambda: bench._field.editor is None)
    assert window.study.plain_solution.bracket.shape.outline is not None and bench.face.told == ""
    assert len(window.study.history) == 10 and window.study.job.bracket.caliper_bolt == "M10x1.5"
    qtbot.waitUntil(lambda: "not known" in bench.summary.text())
    window.study.undo()
    assert "1 measurement until" in bench.desk.counts()


def test_what_to_measure_is_asked_in_rows(open_window: Opener, qtbot: QtBot) -> None:
    """The size that settles most stands first with what it settles; Enter takes it and goes on; a wrong value says why below."""
    caliper = replace(demo_job().caliper, bridge_to_pad_top_mm=None, pad_height_mm=None, bleeders_deg=())
    job = replace(demo_job(), caliper=caliper)
    window = open_window(job)
    bench, pane = window.bench, window.bench.missing
    qtbot.waitUntil(bench.measure_button.isVisible)
    qtbot.mouseClick(bench.measure_button, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: len(pane.rows) == 3)
    told = {path: row.told.text() for path, row in pane.rows.items()}
    assert "Tip gap" in told["caliper.bridge_to_pad_top_mm"] and "settles" in told["caliper.bridge_to_pad_top_mm"]
    order = list(pane.rows)
    assert len(pane.rows[order[0]].told.text()) and "3 sizes missing" in pane.state.text()
    row = pane.rows["caliper.bridge_to_pad_top_mm"]
    row.box.editor.setText("high")
    qtbot.keyClick(row.box.editor, Qt.Key.Key_Return)
    assert row.box.wrong.isVisible() and window.study.job.caliper.bridge_to_pad_top_mm is None
    row.box.editor.setText("4")
    qtbot.keyClick(row.box.editor, Qt.Key.Key_Return)
    assert window.study.job.caliper.bridge_to_pad_top_mm == 4.0
    qtbot.waitUntil(lambda: row.told.text() == "taken")
    assert (
        "2 sizes missing" in pane.state.text() and window.study.plain_solution.finding("tip-gap").verdict.value == "ok"
    )
    pane.closed.emit()
    assert bench.list.isVisible()


def test_a_letter_in_a_choice_is_no_command(open_window: Opener, qtbot: QtBot) -> None:
    """F and B fit and turn while a drawing has the keys; in a choice and in a list they are letters: floating can be typed."""
    window = open_window(demo_job())
    window.show_panel("caliper")
    choice = window.panels["caliper"].boxes["caliper.action"].editor
    choice.setFocus()
    before = window.study.job
    calls: list[str] = []
    window.actions_by_name["fit"].triggered.connect(lambda: calls.append("fit"))
    window.actions_by_name["best_clock"].triggered.connect(lambda: calls.append("best"))
    for widget in (choice, window.bench.list):
        widget.setFocus()
        for key in (Qt.Key.Key_F, Qt.Key.Key_B):
            qtbot.keyClick(widget, key)
    assert calls == [] and window.study.job.fit == before.fit
    window.bench.face.setFocus()
    qtbot.keyClick(window.bench.face, Qt.Key.Key_F)
    assert calls == ["fit"]


def test_a_field_is_found_by_a_word(open_window: Opener, qtbot: QtBot) -> None:
    """Ctrl+F, a word, Enter: the sheet is open with the keys in the field; a sheet opens at the first thing not known."""
    window = open_window(demo_job())
    window.actions_by_name["find_field"].trigger()
    finder = window.findChild(FieldFinder)
    qtbot.keyClicks(finder.words, "bore rotor")
    assert [finder.list.item(k).text() for k in range(finder.list.count())] == ["Rotor: Centre bore"]
    qtbot.keyClick(finder.words, Qt.Key.Key_Return)
    box = window.panels["rotor"].boxes["rotor.centre_bore_mm"]
    assert window.panels["rotor"].isVisible() and box.editor.hasFocus()
    window.show_panel("hub")
    first = next(path for path in window.panels["hub"].boxes if get_value(window.study.job, path) is None)
    assert window.panels["hub"].boxes[first].editor.hasFocus() and not window.panels["rotor"].isVisible()
