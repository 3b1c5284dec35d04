"""Typed work on every screen: taken by any action, dropped with its job, one rule for Enter, nothing written by a look."""

from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QLineEdit, QScrollArea, QWidget
from pytestqt.qtbot import QtBot

from bicentra.app import dialogs, workers
from bicentra.app.bench_list import BENCHES
from bicentra.app.panels.section import SHEETS
from bicentra.app.papers import PrintDialog
from bicentra.app.widgets.typed import ASKING, NotesField, Typed, TypedLine, is_wrong
from bicentra.core.base.records import replace
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.corners import vehicle_of
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import CORNERS, Job
from bicentra.study.document import recovery, store
from bicentra.study.document.photos import carry, folder_of
from bicentra.study.document.starting import demo_vehicle
from bicentra.study.document.study import Study
from bicentra.study.gauges.gauge import GaugeEvent, GaugeSettings, LineGauge
from bicentra.study.papers.papers import PAPERS, paper_name
from tests.app.conftest import Opener


def editors_of(root: QWidget) -> list[Typed]:
    """Every field below ``root`` that something can be typed into and that belongs to the job."""
    found: list[Typed] = [*root.findChildren(QLineEdit), *root.findChildren(NotesField)]
    return [f for f in found if f.window() is root.window() and f.isEnabled() and f.property(ASKING) is None]


def type_into(field: Typed, text: str) -> None:
    """Type ``text`` over what stands in a field, without leaving it."""
    if isinstance(field, NotesField):
        field.setPlainText(text)
        field.setModified(True)
    else:
        field.setText(text)
        field.setModified(True)


TYPED_IN = ("cover", "survey", "trialfit", "pedal", *(f"sheet {name}" for name in SHEETS if name != "knuckle"))
"""Where there are fields from the start."""


@pytest.mark.parametrize("place", [bench.name for bench in BENCHES] + [f"sheet {name}" for name in SHEETS])
def test_whatever_is_typed_is_taken_by_any_action(open_window: Opener, place: str) -> None:
    """Every field of every bench and sheet: after an action nothing typed is left that was neither taken nor refused aloud."""
    window = open_window()
    if place.startswith("sheet"):
        window.show_panel(place.split()[1])
    else:
        window.show_bench(place)
    fields = editors_of(window)
    assert fields or place not in TYPED_IN
    for field in fields:
        type_into(field, "12")
    window.actions_by_name["fit"].trigger()
    left = [f.accessibleName() for f in editors_of(window) if f.isModified() and not is_wrong(f)]
    assert left == []


def test_notes_are_saved_recovered_and_stay_with_their_job(
    open_window: Opener, demo: Job, tmp_path: Path, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Notes were lost by Ctrl+S, not asked about, not in the recovery copy; typed in job A they overwrote those of job B."""
    first, second = tmp_path / "a.bicentra.json", tmp_path / "b.bicentra.json"
    store.save(vehicle_of(replace(demo, notes="of A")), first)
    store.save(vehicle_of(replace(demo, notes="of B")), second)
    window = open_window(store.load(first), first)
    window.show_bench("cover")
    notes = window.front.notes
    notes.setFocus()
    qtbot.keyClicks(notes, "typed ")
    window.actions_by_name["save"].trigger()
    assert store.load(first).notes == "typed of A"
    qtbot.keyClicks(notes, "more ")
    qtbot.waitUntil(lambda: window.study.modified, timeout=5000)  # after a pause, so that a copy is kept
    current_ask: list[str] = []
    monkeypatch.setattr(dialogs, "ask_unsaved", lambda _p, title: current_ask.append(title) or dialogs.DISCARD)
    notes.setFocus()
    qtbot.keyClicks(notes, "yet more ")
    monkeypatch.setattr(dialogs, "ask_open", lambda *_: second)
    window.actions_by_name["open"].trigger()
    assert current_ask and notes.toPlainText() == "of B"
    window.actions_by_name["save"].trigger()
    assert store.load(second).notes == "of B"


def test_a_field_typed_into_is_not_handed_to_the_next_job(open_window: Opener, demo: Job, qtbot: QtBot) -> None:
    """A refused number stood in the field when another job came in, one Enter from being that job's."""
    window = open_window(demo)
    window.show_panel("rotor")
    field = window.panels["rotor"].boxes["rotor.diameter_mm"].editor
    field.setFocus()
    field.selectAll()
    qtbot.keyClicks(field, "25o")
    qtbot.keyClick(field, Qt.Key.Key_Return)
    assert is_wrong(field) and field.selectedText() == "25o"
    window.take(Study(with_edits(demo, (("rotor.mass_kg", 5.0),))))
    window.show_panel("rotor") if not window.sheets.open else None
    assert field.text() == "256 mm" and not is_wrong(field)


def test_enter_takes_a_value_and_goes_on_in_sight(open_window: Opener, qtbot: QtBot) -> None:
    """258 Enter 20 Enter gave 258 mm20: each Enter goes to the next field, which is seen, its text selected."""
    window = open_window()
    window.activateWindow()
    window.show_panel("rotor")
    panel = window.panels["rotor"]
    field = panel.boxes["rotor.diameter_mm"].editor
    field.setFocus()
    field.selectAll()
    for text in ("258", "21"):
        qtbot.keyClicks(QApplication.focusWidget(), text)
        qtbot.keyClick(QApplication.focusWidget(), Qt.Key.Key_Return)
    assert (window.study.job.rotor.diameter_mm, window.study.job.rotor.thickness_mm) == (258.0, 21.0)
    for _ in range(12):
        now = QApplication.focusWidget()
        assert isinstance(now, TypedLine) and now.hasSelectedText() == bool(now.text())
        qtbot.wait(5)
        assert in_sight(now, panel)
        qtbot.keyClick(now, Qt.Key.Key_Return)


def in_sight(field: QWidget, area: QScrollArea) -> bool:
    """Whether a field lies inside what is seen of its page."""
    place = area.viewport().rect()
    return place.contains(field.mapTo(area.viewport(), field.rect().center()))


def test_what_to_measure_next_keeps_its_field_in_sight(open_window: Opener, demo: Job, qtbot: QtBot) -> None:
    """The keys went to fields that were scrolled out of sight; and a lug's hole or thread was never asked for."""
    paths = ("rotor.hole_mm", "rotor.bolt_circle_mm", "rotor.hat_thickness_mm", "caliper.slot_width_mm", "hub.stud_length_mm",
             "caliper.bridge_to_pad_top_mm", "knuckle.lugs[0].hole_mm", "knuckle.lugs[0].thread", "rotor.thickness_mm")  # fmt: skip
    window = open_window(with_edits(demo, tuple((path, None) for path in paths)))
    window.activateWindow()
    window.bench.ask_for_missing()
    pane = window.bench.missing
    qtbot.waitUntil(lambda: bool(pane.rows), timeout=20000)
    assert {"knuckle.lugs[0].hole_mm", "knuckle.lugs[0].thread"} <= set(pane.rows)
    qtbot.wait(30)
    for _ in range(len(pane.rows)):
        now = QApplication.focusWidget()
        assert in_sight(now, pane.area), now.accessibleName()
        qtbot.keyClick(now, Qt.Key.Key_Return) if isinstance(now, TypedLine) else qtbot.keyClick(now, Qt.Key.Key_Tab)
        qtbot.wait(5)


def test_the_survey_entry_is_empty_after_every_reading(open_window: Opener, qtbot: QtBot) -> None:
    """39.9 was taken, then 1 made it 39.91; the next suspect is asked for instead of the same reading for ever."""
    window = open_window()
    window.show_bench("survey")
    bench = window.front
    qtbot.waitUntil(lambda: bench.desk.current_ask is not None, timeout=20000)
    entry, current_ask = bench.entry.value, []
    for text in ("39.9", "41", "42"):
        current_ask.append(bench.desk.current_ask)
        entry.setFocus()
        qtbot.keyClicks(entry, text)
        qtbot.keyClick(entry, Qt.Key.Key_Return)
        assert entry.text() == ""
    assert current_ask[0].kind == "again" and current_ask[1] != current_ask[0]
    qtbot.keyClicks(entry, "x")
    qtbot.keyClick(entry, Qt.Key.Key_Return)
    assert entry.selectedText() == "x"


@pytest.mark.parametrize("way", ["reject", "accept", "close", "escape", "save", "deleted"])
def test_the_print_dialog_closes_while_its_paper_is_made(demo: Job, qtbot: QtBot, way: str) -> None:
    """All ways of closing it raised, since the preview came to a dialog that was gone."""
    parent = QWidget()
    qtbot.addWidget(parent)
    dialog = PrintDialog(parent, solve(demo), "A4")
    dialog.show()
    if way == "escape":
        qtbot.keyClick(dialog, Qt.Key.Key_Escape)
    elif way == "save":
        dialog._save()
    elif way == "deleted":
        dialog.deleteLater()
    else:
        getattr(dialog, way)()
    if way != "deleted":
        dialog.deleteLater()
    qtbot.wait(50)
    workers.wait_for_all(20000)
    qtbot.wait(50)  # an exception in a slot fails the test


def test_a_look_at_a_corner_writes_nothing(
    open_window: Opener, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Looking at the rear made both its corners ten sizes to go; the first edit asks what the axle gets."""
    path = tmp_path / "demo.bicentra.json"
    store.save(demo_vehicle(), path)
    window = open_window(None)
    window.take(Study(store.load_vehicle(path), path))
    study = window.study
    before = dict(study.vehicle.corners), dict(study.vehicle.axles)
    study.go_to("rear-right")
    assert (dict(study.vehicle.corners), dict(study.vehicle.axles)) == before and not study.modified
    assert dict(study.corners)["rear-right"] == "drum brake" and window.bench.desk.required_inputs == ()
    assert "keeps its drums" in window.footer.next_label.text()
    answers: list[str] = []
    monkeypatch.setattr(dialogs, "ask_brake", lambda _p, axle, _drums: answers.append(axle) or "drum")
    assert not window.change("Change the rotor", (("rotor.diameter_mm", 250.0),))
    assert answers == ["rear"] and (dict(study.vehicle.corners), dict(study.vehicle.axles)) == before
    monkeypatch.setattr(dialogs, "ask_brake", lambda *_: "disc")
    assert window.change("Change the rotor", (("rotor.diameter_mm", 250.0),))
    rear = study.vehicle.axles["rear"]
    assert rear.rotor.diameter_mm == 250.0 and rear.drum is None and rear.before.drum == before[1]["rear"].drum
    assert len(window.bench.desk.required_inputs) > 5
    study.undo()
    assert dict(study.vehicle.axles) == before[1]


def test_recovered_work_is_offered_to_one_window(demo: Job, tmp_path: Path) -> None:
    """A copy that was taken up was offered again to a second window: two windows on one job."""
    owner = recovery.Keeper(tmp_path)
    owner.keep(vehicle_of(demo), None)
    owner.close()
    found = recovery.find_recoveries(tmp_path)
    assert len(found) == 1
    first, second = recovery.Keeper(tmp_path), recovery.Keeper(tmp_path)
    assert first.take_up(found[0]) and recovery.find_recoveries(tmp_path) == () and not second.take_up(found[0])
    first.close()
    assert len(recovery.find_recoveries(tmp_path)) == 1
    assert second.take_up(found[0])
    second.saved()
    assert recovery.find_recoveries(tmp_path) == ()


def test_left_and_right_papers_have_names_of_their_own() -> None:
    """Both templates were called two-plate.pdf: the second was written over the first."""
    for kind, paper in PAPERS.items():
        names = {paper_name("two", kind, corner) for corner in CORNERS}
        assert len(names) == (2 if paper.whose == "both" else 4) and all("front" in n or "rear" in n for n in names)


def test_saving_over_another_job_keeps_each_picture_with_its_job(tmp_path: Path) -> None:
    """A's record showed B's picture: a photo of the same name was passed over; B's own is not lost either."""
    one, other = tmp_path / "a.bicentra.json", tmp_path / "b.bicentra.json"
    for path, data in ((one, b"A"), (other, b"B")):
        folder_of(path).mkdir()
        (folder_of(path) / "2026-01-01-01.jpg").write_bytes(data)
    carry(one, other, ("2026-01-01-01.jpg",))
    assert (folder_of(other) / "2026-01-01-01.jpg").read_bytes() == b"A"
    assert sorted(p.read_bytes() for p in folder_of(other).iterdir()) == [b"A", b"B"]


def test_a_reading_nobody_asked_for_is_told(open_window: Opener) -> None:
    """What became of it was written over at once by the line itself."""
    window = open_window()
    window.show_bench("trialfit")
    bench = window.front
    bench.gauge.box._gauge = LineGauge(GaugeSettings("socket://127.0.0.1:9"), lambda _: None)
    bench._gap_ask = lambda: None
    bench.gauge.box._heard(GaugeEvent("reading", "12.34 mm", 12.34))
    assert "no gap is asked for" in bench.gauge.state.text()
    bench.gauge.box._gauge = None
