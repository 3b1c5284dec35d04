"""From an empty job to a plate by keyboard alone: each measurement is asked where it is taken."""

from PySide6.QtCore import Qt
from pytestqt.qtbot import QtBot

from bicentra.core.blanks import wanted
from bicentra.core.parts.edits import get_value
from bicentra.study.document.starting import empty_job
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
