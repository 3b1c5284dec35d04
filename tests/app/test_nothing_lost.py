"""Work that can be lost at the window: typing that is not taken yet, files changed by others, papers under way."""

from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QMessageBox, QPushButton
from pytestqt.qtbot import QtBot

from bicentra.app import dialogs, workers
from bicentra.app.survey import commands
from bicentra.app.window import MainWindow
from bicentra.core.base.records import replace
from bicentra.core.parts.corners import vehicle_of
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.parts.survey import SIMULATED
from bicentra.core.survey.use import Takeover
from bicentra.study.desks.readings_text import PLAYED
from bicentra.study.document import recovery, store
from tests.app.conftest import Opener, drag
from tests.app.test_lineup_bench import handle_px
from tests.app.test_window import field


@pytest.fixture
def active(open_window: Opener, demo: Job, tmp_path: Path, qtbot: QtBot) -> MainWindow:
    """A window with the keyboard, on a job that has a file."""
    path = tmp_path / "a.bicentra.json"
    store.save(vehicle_of(demo), path)
    window = open_window(demo, path)
    window.activateWindow()
    qtbot.waitUntil(lambda: QApplication.activeWindow() is window.window(), timeout=5000)
    return window


def half_typed(window: MainWindow, qtbot: QtBot, text: str) -> None:
    """Type into the rotor's diameter and press nothing more."""
    editor = field(window, "rotor", "rotor.diameter_mm")
    editor.setFocus()
    editor.selectAll()
    qtbot.keyClicks(editor, text)


def test_saving_takes_what_is_being_typed(active: MainWindow, qtbot: QtBot) -> None:
    """Ctrl+S wrote 256 mm while 258 stood in the field; Ctrl+Z there undoes typing, not the job."""
    half_typed(active, qtbot, "258")
    active.actions_by_name["save"].trigger()
    assert store.load(active.study.path).rotor.diameter_mm == 258.0 and not active.study.modified
    half_typed(active, qtbot, "259")
    editor = field(active, "rotor", "rotor.diameter_mm")
    qtbot.keyClick(editor, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert active.study.job.rotor.diameter_mm == 258.0 and "259" not in editor.text()


def test_closing_takes_what_is_being_typed(active: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    """Ctrl+Q left without a question while a number stood in its field; so it does no more, and staying keeps it."""
    half_typed(active, qtbot, "258")
    current_ask: list[str] = []
    monkeypatch.setattr(dialogs, "ask_unsaved", lambda _p, title: current_ask.append(title) or dialogs.STAY)
    active.actions_by_name["quit"].trigger()
    assert current_ask and active.isVisible() and active.study.job.rotor.diameter_mm == 258.0


def test_undo_leaves_the_survey_entry_alone(active: MainWindow, qtbot: QtBot) -> None:
    """Ctrl+Z brought an old reading back into the entry, one Enter from being written down a second time."""
    qtbot.waitUntil(lambda: active.study.assessment is not None, timeout=10000)
    active.show_bench("survey")
    entry = active.benches.named("survey").entry.value
    entry.setFocus()
    qtbot.keyClicks(entry, "38.97")
    qtbot.keyClick(entry, Qt.Key.Key_Return)
    assert entry.text() == "" and len(active.study.history) == 1
    qtbot.keyClick(entry, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert entry.text() == ""


def test_a_drag_that_comes_back_leaves_no_step_and_keeps_redo(window: MainWindow, qtbot: QtBot) -> None:
    """Both left a step behind, and what could be done again was gone."""
    window.do_next()
    window.study.undo()
    start = handle_px(window, "face", "fit.clock_deg")
    drag(window.bench.face, start, start + (start - start), release=True)
    assert window.study.history == () and window.study.redo_label
    drag(window.bench.face, start, start + type(start)(0, 60), release=False)
    qtbot.keyClick(window.bench.face, Qt.Key.Key_Escape)
    assert window.study.history == () and window.study.redo_label


@pytest.mark.parametrize("answer", [dialogs.STAY, dialogs.OVER, dialogs.OTHER_NAME])
def test_a_file_changed_by_somebody_else_is_asked_about(
    active: MainWindow, demo: Job, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, answer: str
) -> None:
    """Save wrote over another's work without a word."""
    path, other = active.study.path, tmp_path / "mine.bicentra.json"
    store.save(vehicle_of(replace(demo, title="somebody else's work")), path)
    active.do_next()
    monkeypatch.setattr(dialogs, "ask_changed", lambda *_: answer)
    monkeypatch.setattr(dialogs, "ask_save", lambda *_: other)
    assert active.files.save() is (answer != dialogs.STAY)
    assert (store.load(path).title == demo.title) is (answer == dialogs.OVER)
    assert other.exists() is (answer == dialogs.OTHER_NAME) and active.study.modified is (answer == dialogs.STAY)


def test_a_name_that_gets_an_ending_is_asked_about_again(
    window: MainWindow, demo: Job, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """“job” became job.bicentra.json, which nobody had been asked about."""
    there = tmp_path / "job.bicentra.json"
    store.save(vehicle_of(replace(demo, title="kept")), there)
    monkeypatch.setattr(dialogs, "ask_save", lambda *_: tmp_path / "job")
    monkeypatch.setattr(dialogs, "ask_over", lambda *_: False)
    assert not window.files.save_as() and store.load(there).title == "kept"


def test_two_papers_at_once_tell_their_own_names(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    """The second name was told twice, and the bar went with the first; what is under way is stopped by closing."""
    told: list[str] = []
    say = window.say
    window.say = lambda text, wrong=True: (told.append(text), say(text, wrong))[1]
    for name in ("one.dxf", "two.dxf"):
        window.papers.write("dxf", tmp_path / name)
    qtbot.waitUntil(lambda: len(told) == 2, timeout=30000)
    assert "one.dxf" in " ".join(told) and "two.dxf" in " ".join(told)
    qtbot.waitUntil(lambda: not window.footer.progress.isVisible(), timeout=10000)
    task = window.papers.write("pdf", tmp_path / "late.pdf")
    assert window.close()
    workers.wait_for_all()
    assert task.cancelled and not (tmp_path / "late.pdf").exists()


def test_what_the_simulated_gauge_plays_is_used_in_no_real_job(
    open_window: Opener, demo: Job, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Its inventions went into real jobs unmarked: they are named in the row, and *Use in the job* refuses them."""
    window = open_window(with_edits(demo, (("practice", False),)))
    qtbot.waitUntil(lambda: window.study.assessment is not None, timeout=10000)
    window.show_bench("survey")
    bench = window.benches.named("survey")
    bench.gauge.box.simulate(bench.current_ask, seed=1, every=0.3)
    qtbot.waitUntil(lambda: bench.desk.survey.distances[2].by == SIMULATED, timeout=20000)
    bench.let_go()
    assert any(PLAYED in row.second for row in bench.readings.model.rows)
    plans: list[Takeover] = []
    monkeypatch.setattr(commands, "ask_takeover", lambda _p, plan, _w: bool(plans.append(plan)))
    qtbot.mouseClick(bench.use_button, Qt.MouseButton.LeftButton)
    assert not plans[0].changes and not plans[0].edits and "invented" in plans[0].cautions[0]


def test_practice_and_exact_numbers_are_declared_in_words(window: MainWindow) -> None:
    """The Job panel showed “exact: ()” and “practice: True”, to be typed over."""
    window.study.edit("own numbers", (("exact", ("hub.pilot_diameter_mm",)),))
    window.show_panel("job")
    panel = window.panels["job"]
    assert not {"exact", "practice"} & set(panel.boxes)
    for text in ("Make it a real job", "No longer exact: 1 number"):
        next(b for b in panel.findChildren(QPushButton) if b.text() == text and b.isVisible()).click()
    assert window.study.job.exact == () and not window.study.job.practice
    assert any(b.text() == "Make it a practice job" for b in panel.findChildren(QPushButton))


@pytest.mark.parametrize(
    ("wanted", "answer"), [("Later", dialogs.LATER), ("Discard them", dialogs.DISCARD), ("", dialogs.LATER)]
)
def test_a_question_answers_by_its_button(
    window: MainWindow, monkeypatch: pytest.MonkeyPatch, wanted: str, answer: str
) -> None:
    """The button that is pressed is the answer; Escape is the one that changes nothing."""
    monkeypatch.undo()

    def pressed(box: QMessageBox) -> int:
        button = next((b for b in box.buttons() if b.text() == wanted), box.escapeButton())
        box.show()
        button.click()
        return 0

    monkeypatch.setattr(QMessageBox, "exec", pressed)
    found = recovery.Recovery(window.files._folder() / "copy", window.study.vehicle, None, "today")
    assert dialogs.ask_recover(window, found) == answer
