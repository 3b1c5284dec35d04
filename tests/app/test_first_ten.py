"""From an empty job to a plate by keyboard alone: each measurement is asked where it is taken."""

from dataclasses import dataclass
from pathlib import Path

import pypdfium2
import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QWidget
from pytestqt.qtbot import QtBot

from bicentra.app import dialogs, workers
from bicentra.app.new_job import NewJobDialog
from bicentra.app.part_dialog import LibraryDialog
from bicentra.app.sheets import FieldFinder
from bicentra.core.base.records import replace
from bicentra.core.bracket.families.table import family_of
from bicentra.core.evaluation.solution import solve
from bicentra.core.inputs.required_inputs import wanted
from bicentra.core.parts.corners import job_of
from bicentra.core.parts.edits import get_value
from bicentra.core.parts.validate import validate
from bicentra.study.document.starting import HELD, Start, demo_job, empty_job, new_vehicle
from tests.app.conftest import Opener

TYPED = ("-62", "40", "-62", "-40", "256", "130", "20", "M12x1.5", "m10", "180")


def test_ten_entries_make_a_plate(open_window: Opener, qtbot: QtBot) -> None:
    """Enter takes a value and asks for the next; a wrong one stays open with a reason; the plate appears and is one undo a step."""
    window = open_window(empty_job())
    bench = window.bench
    assert (
        "10 measurements until the plate appears" in bench.summary.text()
        and "(1 of 10" in window.footer.next_label.text()
    )
    assert not bench.plan_button.isVisible() and "Dashed" in bench.face.note
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
    assert window.study.plain_solution.bracket.shape.outline is not None and bench.face.note == ""
    assert len(window.study.history) == 10 and window.study.job.bracket.caliper_bolt == "M10x1.5"
    qtbot.waitUntil(lambda: "unknown" in bench.summary.text())
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
    qtbot.waitUntil(lambda: len(pane.rows) == 3, timeout=20000)
    text = {path: row.note.text() for path, row in pane.rows.items()}
    assert "Tip gap" in text["caliper.bridge_to_pad_top_mm"] and "settles" in text["caliper.bridge_to_pad_top_mm"]
    order = list(pane.rows)
    assert len(pane.rows[order[0]].note.text()) and "3 sizes missing" in pane.state.text()
    row = pane.rows["caliper.bridge_to_pad_top_mm"]
    row.box.editor.setText("high")
    qtbot.keyClick(row.box.editor, Qt.Key.Key_Return)
    qtbot.waitUntil(row.box.wrong.isVisible)
    assert window.study.job.caliper.bridge_to_pad_top_mm is None
    row.box.editor.setText("4")
    qtbot.keyClick(row.box.editor, Qt.Key.Key_Return)
    assert window.study.job.caliper.bridge_to_pad_top_mm == 4.0
    qtbot.waitUntil(lambda: row.note.text() == "taken", timeout=20000)
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
    """Ctrl+F, a word, Enter: the sheet is open with the keys in the field; a sheet opens at the first thing unknown."""
    window = open_window(demo_job())
    window.actions_by_name["find_field"].trigger()
    finder = window.findChild(FieldFinder)
    qtbot.keyClicks(finder.words, "bore rotor")
    assert [finder.list.item(k).text() for k in range(finder.list.count())] == ["Rotor: Centre bore"]
    qtbot.keyClick(finder.words, Qt.Key.Key_Return)
    box = window.panels["rotor"].boxes["rotor.centre_bore_mm"]
    assert window.panels["rotor"].isVisible() and box.editor.hasFocus()
    window.show_panel("hub")
    wanted_first = next(path for path in window.panels["hub"].boxes if get_value(window.study.job, path) is None)
    assert window.panels["hub"].boxes[wanted_first].editor.hasFocus() and not window.panels["rotor"].isVisible()
    window.show_panel("bracket")  # what is left empty there is chosen: nothing is wanted
    assert next(iter(window.panels["bracket"].boxes.values())).editor.hasFocus()


@dataclass
class Counted:
    """What a person has to do: entries typed, and clicks."""

    entries: int = 0
    clicks: int = 0


@pytest.mark.parametrize("shelf", [True, False])
def test_from_a_new_job_to_a_template(
    open_window: Opener, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path, shelf: bool
) -> None:
    """A two-lug hub: at most 25 entries and 15 clicks with rotor and caliper from the library, at most 45 entries with nothing."""
    window, done, paper = open_window(demo_job()), Counted(), tmp_path / "first.pdf"

    def answer(parent: QWidget, units: str = "mm") -> Start:
        dialog = NewJobDialog(parent, units)
        qtbot.addWidget(dialog)
        dialog.show()
        qtbot.keyClicks(dialog.title, "Market float No. 7")
        done.entries += 1
        qtbot.mouseClick(dialog.corner.buttons["rear-left"], Qt.MouseButton.LeftButton)
        qtbot.mouseClick(dialog.parts.buttons["library" if shelf else "measured"], Qt.MouseButton.LeftButton)
        qtbot.mouseClick(dialog.begin, Qt.MouseButton.LeftButton)
        done.clicks += 3
        assert dialog.result()
        return dialog.start

    def pick(dialog: LibraryDialog) -> int:
        qtbot.keyClicks(dialog.search, "256" if "rotor" in dialog.windowTitle() else "slot 24")
        qtbot.mouseClick(dialog.use, Qt.MouseButton.LeftButton)
        done.entries, done.clicks = done.entries + 1, done.clicks + 1
        return int(dialog.result())

    monkeypatch.setattr(dialogs, "ask_new", answer)
    monkeypatch.setattr(LibraryDialog, "exec", pick)
    monkeypatch.setattr(dialogs, "ask_save", lambda *_: paper)
    window.files.new()
    done.clicks += 2  # Job, New job
    job = window.study.job
    assert (job.title, job.corner, job.display_units) == ("Market float No. 7", "rear-left", "mm")
    typed = {blank.path: text for blank, text in zip(wanted(job), TYPED)}
    while window.bench.desk.required_inputs:
        qtbot.waitUntil(lambda: window.bench._field.editor is not None)
        path = window.bench.desk.required_inputs[0].path
        qtbot.keyClicks(window.bench._field.editor, typed[path])
        qtbot.keyClick(window.bench._field.editor, Qt.Key.Key_Return)
        done.entries += 1
        qtbot.waitUntil(lambda path=path: get_value(window.study.job, path) is not None)
    window.actions_by_name["paper-pdf"].trigger()
    done.clicks += 2  # Take away, the template
    qtbot.waitUntil(paper.exists, timeout=30000)
    assert done.entries <= (25 if shelf else 45) and done.clicks <= 15, done
    assert done == (Counted(10, 9) if shelf else Counted(11, 7))
    workers.wait_for_all()


@pytest.mark.parametrize("held", HELD)
@pytest.mark.parametrize("units", ["mm", "in"])
def test_what_holds_the_bracket_says_which_is_drawn(held: str, units: str) -> None:
    """Every answer makes a vehicle that can be: the kind of bracket goes with what holds it, at the corner that was named."""
    vehicle = new_vehicle(Start("Float", "front-left", units, held))
    job = job_of(vehicle)
    assert (job.title, job.corner, job.display_units) == ("Float", "front-left", units)
    validate(job)
    assert family_of(job).holds_on(job.knuckle.mounting) or held == "direct"
    assert "unsupported" not in {f.id for f in solve(job).findings} or held == "direct"


ON_AXLE = {
    "tube": ("3", "10", "0.79", "1 3/4", "1/4", "5 1/8", "0.8", "-0.55", "3/8-24", "180"),
    "flange": (
        "4 1/2",
        "4",
        "45",
        "3/8-24",
        "-1.9",
        "10",
        "0.79",
        "1 3/4",
        "1/4",
        "5 1/8",
        "0.8",
        "-0.55",
        "3/8-24",
        "180",
    ),
}
"""What somebody types who reads inches, in the order in which it is asked for."""


@pytest.mark.parametrize("held", list(ON_AXLE))
def test_an_axle_in_inches_by_keyboard_alone(
    open_window: Opener, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path, held: str
) -> None:
    """A beam axle that carries the bracket itself, no mouse at all: the sheet of a new job, every size, the template; nothing is written
    of what is dotted, and the tube of three inches is that."""
    window, entries, paper = open_window(demo_job()), 0, tmp_path / "axle.pdf"

    def answer(parent: QWidget, units: str = "mm") -> Start:
        dialog = NewJobDialog(parent, units)
        qtbot.addWidget(dialog)
        dialog.show()
        qtbot.keyClicks(dialog.title, "Yard trailer")
        for choice, key in ((dialog.units, "in"), (dialog.held, held)):
            choice.buttons[key].setFocus()
            qtbot.keyClick(choice.buttons[key], Qt.Key.Key_Space)
        qtbot.keyClick(dialog.title, Qt.Key.Key_Return)
        assert dialog.result()
        return dialog.start

    monkeypatch.setattr(dialogs, "ask_new", answer)
    monkeypatch.setattr(dialogs, "ask_save", lambda *_: paper)
    window.actions_by_name["new"].trigger()
    job = window.study.job
    assert window.settings.value("units") == "in" and NewJobDialog(window, "in").units.answer == "in"
    assert job.display_units == "in" and job.bracket.shelf == "inch" and len(wanted(job)) == len(ON_AXLE[held])
    typed = {blank.path: text for blank, text in zip(wanted(job), ON_AXLE[held])}
    while window.bench.desk.required_inputs:
        qtbot.waitUntil(lambda: window.bench._field.editor is not None)
        path = window.bench.desk.required_inputs[0].path
        qtbot.keyClicks(window.bench._field.editor, typed[path])
        qtbot.keyClick(window.bench._field.editor, Qt.Key.Key_Return)
        entries += 1
        qtbot.waitUntil(lambda path=path: get_value(window.study.job, path) is not None)
    assert window.study.plain_solution.part is not None and entries == len(ON_AXLE[held]) <= 25
    if held == "tube":
        assert window.study.job.hub.tube_diameter_mm == pytest.approx(76.2)
    window.actions_by_name["paper-pdf"].trigger()
    qtbot.waitUntil(paper.exists, timeout=30000)
    said = "".join(page.get_textpage().get_text_range() for page in pypdfium2.PdfDocument(paper))
    assert "TRIAL ONLY" in said and " mm" not in said.replace("100 mm between", "")
    workers.wait_for_all()
