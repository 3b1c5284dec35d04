"""The window: panels, files, papers, looks, keyboard, and that nothing is lost."""

import gc
import sys
from pathlib import Path

import ezdxf
import pytest
from PySide6.QtCore import QSettings, Qt
from PySide6.QtGui import QFont, QFontDatabase
from PySide6.QtWidgets import QAbstractButton, QComboBox, QLineEdit, QListView
from pytestqt.qtbot import QtBot

from bicentra.app import dialogs, workers
from bicentra.app.actions import ACTIONS, key_sheet
from bicentra.app.files import recovered_study
from bicentra.app.main import make_window
from bicentra.app.panels.section import SHEETS
from bicentra.app.shell import Shell
from bicentra.app.theme import FAMILY, load_fonts
from bicentra.app.window import MainWindow
from bicentra.core.base.records import replace
from bicentra.core.parts.corners import vehicle_of
from bicentra.core.parts.job import Job
from bicentra.study.document import recovery, store
from bicentra.study.document.starting import Start, demo_job
from bicentra.study.document.study import Study
from tests.app.conftest import Opener


def field(window: MainWindow, panel: str, path: str) -> QLineEdit:
    """The editor of one field, its panel opened."""
    if panel not in window.panels or not window.panels[panel].isVisible():
        window.show_panel(panel)
    return window.panels[panel].boxes[path].editor


def typed(qtbot: QtBot, editor: QLineEdit, text: str) -> None:
    """Type a text as a person would and press Enter."""
    editor.setFocus()
    editor.selectAll()
    qtbot.keyClicks(editor, text)
    qtbot.keyClick(editor, Qt.Key.Key_Return)


def test_the_whole_way_once(window: MainWindow, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Open the demo, do what it says, save, reopen, export: everything met and the plate in the file."""
    window.do_next()
    window.do_next()
    assert {v.value for v in window.study.plain_solution.verdicts} == {"ok"}
    path = tmp_path / "float.bicentra.json"
    monkeypatch.setattr(dialogs, "ask_save", lambda *_: path)
    assert window.files.save() and not window.study.modified
    saved = window.study.job
    assert window.files.open_path(path) and window.study.job == saved
    target = tmp_path / "plate.dxf"
    monkeypatch.setattr(dialogs, "ask_save", lambda *_: target)
    window.papers.make("dxf")
    qtbot.waitUntil(target.exists, timeout=20000)
    qtbot.waitUntil(lambda: "Written" in window.footer.message.text(), timeout=5000)
    assert len(ezdxf.readfile(target).modelspace().query("CIRCLE")) == 4


@pytest.mark.parametrize("panel", list(SHEETS))
def test_every_panel_opens_and_names_its_fields(window: MainWindow, panel: str) -> None:
    """Each panel shows fields, each with an accessible name, and folds away again."""
    window.show_panel(panel)
    opened = window.panels[panel]
    assert opened.isVisible() and opened.boxes
    for box in opened.boxes.values():
        assert box.editor.accessibleName()
    window.show_panel(panel)
    assert not opened.isVisible()


def test_a_field_takes_any_unit(window: MainWindow, qtbot: QtBot) -> None:
    """Inches typed into a millimetre job are millimetres in the job, and one step to undo."""
    editor = field(window, "rotor", "rotor.diameter_mm")
    typed(qtbot, editor, "10 1/4 in")
    assert window.study.job.rotor.diameter_mm == pytest.approx(260.35)
    assert editor.text() == "260.35 mm"
    window.study.undo()
    assert editor.text() == "256 mm"


@pytest.mark.parametrize(("text", "said"), [("wide", "expected a length"), ("150 mm", "less than"), ("-3", "above 0")])
def test_wrong_text_is_refused_in_place(window: MainWindow, qtbot: QtBot, text: str, said: str) -> None:
    """The field keeps what was typed, is marked, says why; the job is as it was; Escape puts the old value back."""
    editor = field(window, "rotor", "rotor.diameter_mm")
    typed(qtbot, editor, text)
    box = window.panels["rotor"].boxes["rotor.diameter_mm"]
    assert editor.text() == text and window.study.job == demo_job()
    if said != "less than":
        assert said in box.wrong.text() and editor.property("wrong") == "true"
    else:
        assert "swept" in window.footer.message.text()
    qtbot.keyClick(editor, Qt.Key.Key_Escape)
    assert editor.text() == "256 mm"


def test_an_empty_field_is_not_measured(window: MainWindow, qtbot: QtBot) -> None:
    """Clearing a measurement makes findings unknown, never met."""
    typed_editor = field(window, "caliper", "caliper.slot_width_mm")
    typed_editor.clear()
    qtbot.keyClick(typed_editor, Qt.Key.Key_Return)
    assert window.study.solution.finding("slot-gap").verdict.value == "unknown"


def test_lugs_and_obstacles_come_and_go(window: MainWindow) -> None:
    """Adding and taking out a lug changes the plate; the panel shows the new fields."""
    window.show_panel("knuckle")
    panel = window.panels["knuckle"]
    buttons = {b.text(): b for b in panel.findChildren(QAbstractButton)}
    buttons["Add a lug"].click()
    assert len(window.study.job.knuckle.lugs) == 3 and "knuckle.lugs[2].x_mm" in panel.boxes
    buttons = {b.text(): b for b in panel.findChildren(QAbstractButton)}
    buttons["Take out this lug"].click()
    assert len(window.study.job.knuckle.lugs) == 2
    window.study.undo()
    window.study.undo()
    assert window.study.job == demo_job()


def test_points_of_an_obstacle_are_edited(window: MainWindow, qtbot: QtBot) -> None:
    """An outline is typed as points; one that crosses itself is refused."""
    path = "knuckle.obstacles[0].outline_mm"
    editor = field(window, "knuckle", path)
    typed(qtbot, editor, "-90 / -90; -80 / -90; -80 / -100")
    assert window.study.job.knuckle.obstacles[0].outline_mm == ((-90.0, -90.0), (-80.0, -90.0), (-80.0, -100.0))
    typed(qtbot, editor, "0 / 0; 10 / 10; 10 / 0; 0 / 10")
    assert (
        "crosses itself" in window.footer.message.text() and len(window.study.job.knuckle.obstacles[0].outline_mm) == 3
    )


def test_units_and_looks_switch(window: MainWindow) -> None:
    """Inches and thou everywhere, nothing in the job but the units changes; the dark look is remembered."""
    window.switch_units()
    assert "thou" in " ".join(one.text for one in window.bench.section.drawing.dimensions)
    assert window.study.job.rotor == demo_job().rotor
    before = window.bench.face.grab().toImage().pixelColor(5, 300).lightness()
    window.switch_look()
    after = window.bench.face.grab().toImage().pixelColor(5, 300).lightness()
    assert after < 80 < before and window.settings.value("look") == "dark"


def test_a_bad_file_leaves_the_job(window: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Opening nonsense shows one clear message; the present job and its changes stay."""
    said: list[str] = []
    monkeypatch.setattr(dialogs, "warn", lambda _p, _t, text: said.append(text))
    window.do_next()
    job = window.study.job
    bad = tmp_path / "bad.bicentra.json"
    bad.write_text('{"format": "bicentra.job", "version": 9}')
    assert not window.files.open_path(bad)
    assert "version" in said[0] and window.study.job is job and window.study.modified


@pytest.mark.parametrize(("answer", "leaves"), [(dialogs.STAY, False), (dialogs.DISCARD, True), (dialogs.SAVE, True)])
def test_unsaved_changes_are_guarded(
    window: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, answer: str, leaves: bool
) -> None:
    """Leaving asks; staying keeps everything, saving saves first."""
    window.do_next()
    monkeypatch.setattr(dialogs, "ask_unsaved", lambda *_: answer)
    monkeypatch.setattr(dialogs, "ask_save", lambda *_: tmp_path / "kept.bicentra.json")
    monkeypatch.setattr(dialogs, "ask_new", lambda *_: Start())
    window.files.new()
    assert (window.study.job.title == "") is leaves
    assert (tmp_path / "kept.bicentra.json").exists() is (answer == dialogs.SAVE)


def test_a_save_that_fails_keeps_the_job(window: MainWindow, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """A folder that is gone: a message, and the changes are still there, still unsaved."""
    said: list[str] = []
    monkeypatch.setattr(dialogs, "warn", lambda _p, _t, text: said.append(text))
    monkeypatch.setattr(dialogs, "ask_save", lambda *_: tmp_path / "gone" / "x.bicentra.json")
    window.do_next()
    assert not window.files.save() and window.study.modified and "still here" in said[0]


def test_unsaved_work_survives_a_crash(window: MainWindow, qtbot: QtBot) -> None:
    """A recovery copy is kept while there are changes, and taken up as unsaved work."""
    window.do_next()
    window.files._timer.setInterval(10)
    window.files.changed()
    window.files._timer.stop()
    window.files.changed()
    copies = store.state_folder()
    qtbot.waitUntil(lambda: bool(list(copies.glob("recovery-*.json"))), timeout=5000)
    assert recovery.find_recoveries() == (), "this window is still open"
    window.study.keeper.close()
    (found,) = recovery.find_recoveries()
    keeper = recovery.Keeper()
    assert keeper.take_up(found)
    study = recovered_study(found, keeper)
    assert study.job == window.study.job and study.modified


def test_papers_need_a_plate(open_window: Opener, monkeypatch: pytest.MonkeyPatch) -> None:
    """An unmeasured job offers no file name, it says what is missing."""
    from bicentra.study.document.starting import empty_job

    said: list[str] = []
    monkeypatch.setattr(dialogs, "warn", lambda _p, _t, text: said.append(text))
    open_window(empty_job()).papers.make("pdf")
    assert "no plate" in said[0]


def test_a_long_paper_can_be_cancelled(window: MainWindow, qtbot: QtBot, tmp_path: Path) -> None:
    """Cancel before it is done: no file, no litter, the window goes on."""
    task = window.papers.write("pdf", tmp_path / "x.pdf")
    task.cancel()
    qtbot.waitUntil(lambda: not window.footer.progress.isVisible(), timeout=20000)
    assert list(tmp_path.glob("*.pdf")) == [] and list(tmp_path.glob(".*tmp")) == []


def test_a_fault_in_a_worker_is_said_not_thrown(window: MainWindow, qtbot: QtBot) -> None:
    """An error inside long work ends as a message; the job is intact."""

    def broken(_task: workers.Task) -> None:
        raise ZeroDivisionError("planted")

    window.watch(workers.Task("Planted", broken))
    qtbot.waitUntil(lambda: "planted" in window.footer.message.text(), timeout=5000)
    assert "intact" in window.footer.message.text() and window.study.job == demo_job()


def test_recent_jobs_are_listed(window: MainWindow, tmp_path: Path) -> None:
    """A saved job is in the menu of recent ones."""
    window.study.save(tmp_path / "recent.bicentra.json")
    store.remember_file(tmp_path / "recent.bicentra.json")
    window.files.fill_recent(window.header.recent)
    assert "recent.bicentra.json" in window.header.recent.actions()[0].text()


def test_everything_is_reached_by_keyboard(window: MainWindow) -> None:
    """Tab goes round all the views, lists and buttons; every action's key is on the sheet; every control has a name."""
    window.activateWindow()
    window.bench.face.setFocus()
    seen = set()
    for _ in range(60):
        widget = window.focusWidget()
        seen.add(widget)
        assert widget.accessibleName() or getattr(widget, "text", lambda: "")(), widget
        window.focusNextChild()
    assert {window.bench.face, window.bench.section, window.bench.list, window.footer.next_button} <= seen
    assert all(one.key in key_sheet() for one in ACTIONS if one.key)
    named = [w for kind in (QAbstractButton, QLineEdit, QComboBox, QListView) for w in window.bench.findChildren(kind)]
    assert all(w.accessibleName() or getattr(w, "text", lambda: "x")() for w in named if w.isVisible())


def test_twice_the_scale_still_fits(tmp_path: Path) -> None:
    """At 200 % in a picture of twice as many pixels the window paints sharp: its drawing layer is twice as fine."""
    import subprocess

    code = (
        "from PySide6.QtCore import QSettings; from bicentra.app.main import *; import sys, os;"
        "from bicentra.study.document.study import Study; from bicentra.study.document.starting import demo_job;"
        "app=make_app(); w=make_window(Study(demo_job()), QSettings(sys.argv[1], QSettings.Format.IniFormat)); w.show(); app.processEvents();"
        "p=w.grab(); assert p.devicePixelRatio()==2 and p.width()==2560, p.width();"
        "w.bench.face.grab(); assert w.bench.face._layer.picture.width()==2*w.bench.face.width(); print('fine', flush=True); os._exit(0)"
    )
    import os

    environment = {**os.environ, "QT_SCALE_FACTOR": "2", "QT_QPA_PLATFORM": "offscreen"}
    done = subprocess.run(
        [sys.executable, "-c", code, str(tmp_path / "s.ini")],
        env=environment,
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.stdout.strip() == "fine", done.stderr


def test_none_is_not_lost(window: MainWindow) -> None:
    """Hundreds of paints and edits: the reference count of None does not fall by one each (a fault of some Qt bindings)."""
    study, bench = window.study, window.bench

    def work(rounds: int) -> int:
        for k in range(rounds):
            study.edit("Turn", (("fit.clock_deg", 170.0 + (k % 80) / 4),), "many")
            bench.face.repaint()
            bench.section.repaint()
        gc.collect()
        return sys.getrefcount(None)

    before = work(20)
    assert work(60) > before - 20


def test_a_study_is_shown_by_a_second_window_too(open_window: Opener) -> None:
    """Two windows, two jobs: changes in one leave the other alone."""
    one, other = open_window(), open_window()
    one.do_next()
    assert other.study.job == demo_job() and isinstance(one.study, Study)


def test_the_frame_is_there_first_and_closes_only_when_it_may(
    qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """The shell paints, then is furnished; closing it asks about unsaved changes."""
    shell = Shell("a job", QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat))
    qtbot.addWidget(shell)
    settings = QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat)
    shell.furnish_with(lambda: make_window(Study(demo_job()), settings))
    shell.show()
    qtbot.waitUntil(lambda: shell.workshop is not None, timeout=10000)
    assert "Parcel float" in shell.windowTitle()
    shell.workshop.do_next()
    monkeypatch.setattr(dialogs, "ask_unsaved", lambda *_: dialogs.STAY)
    assert not shell.close() and shell.isVisible()
    monkeypatch.setattr(dialogs, "ask_unsaved", lambda *_: dialogs.DISCARD)
    shell.workshop.actions_by_name["quit"].trigger()
    assert not shell.isVisible()


def test_work_lost_on_a_file_is_offered_when_that_file_is_opened(
    open_window: Opener, demo: Job, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Opening the file that crashed offers its unsaved work; opening another one does not."""
    path = tmp_path / "a.bicentra.json"
    store.save(vehicle_of(demo), path)
    left = recovery.Keeper()
    left.keep(vehicle_of(replace(demo, title="not saved")), path)
    left.close()
    window = open_window(demo, path)
    window.files.offer_recovery(tmp_path / "other.bicentra.json")  # a question here would fail the test
    monkeypatch.setattr(dialogs, "ask_recover", lambda *_: dialogs.LATER)
    window.files.offer_recovery(path)
    assert window.study.job.title == demo.title and len(recovery.find_recoveries()) == 1
    monkeypatch.setattr(dialogs, "ask_recover", lambda *_: dialogs.TAKE)
    window.files.offer_recovery(path)
    assert window.study.job.title == "not saved" and window.study.modified and window.study.path == path


def test_a_parking_caliper_is_added_and_measured(window: MainWindow, qtbot: QtBot) -> None:
    """Added in the caliper's panel, its place typed; its adapter is told of and drawn beside; taken off it leaves nothing."""

    def press(text: str) -> None:
        buttons = window.panels["caliper"].findChildren(QAbstractButton)
        qtbot.mouseClick(next(b for b in buttons if b.text() == text), Qt.MouseButton.LeftButton)

    window.show_panel("caliper")
    press("Add a parking-brake caliper")
    assert window.study.job.parking is not None and "parking.caliper.ear_spacing_mm" in window.panels["caliper"].boxes
    typed(qtbot, field(window, "caliper", "parking.caliper.ear_spacing_mm"), "60")
    typed(qtbot, field(window, "caliper", "parking.clock_deg"), "20")
    parking = window.study.job.parking
    assert (parking.caliper.ear_spacing_mm, parking.clock_deg) == (60.0, 20.0)
    told = {f.id: f.verdict.value for f in window.study.plain_solution.findings if f.id.startswith("parking-")}
    assert "unknown" in told.values() and {id for id, told in told.items() if told == "ok"} == {"parking-pad-overhang"}
    window.grab()
    press("Take the parking-brake caliper off")
    assert window.study.job.parking is None


def test_every_weight_shown_has_its_own_face(window: MainWindow) -> None:
    """Plain, half bold and bold letters each come from a shipped face: none is smeared to look heavier."""
    load_fonts()
    assert window.isVisible()
    have = {QFontDatabase.weight(FAMILY, style) for style in QFontDatabase.styles(FAMILY)}
    assert {QFont.Weight.Normal, QFont.Weight.DemiBold, QFont.Weight.Bold} <= {QFont.Weight(weight) for weight in have}
