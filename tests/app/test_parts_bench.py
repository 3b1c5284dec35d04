"""The parts bench and the planner, driven as a person would: lay out, search, pick on the map, take, undo, preview."""

from itertools import product
from pathlib import Path

import pytest
from PySide6.QtCore import QPointF, Qt
from PySide6.QtWidgets import QDialog, QLabel, QPushButton
from pytestqt.qtbot import QtBot

from bicentra.app import dialogs, part_dialog
from bicentra.app.main import make_window
from bicentra.app.parts.bench import PartsBench
from bicentra.app.parts.table_dialog import TableDialog
from bicentra.app.window import MainWindow
from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.heat.effects import nothing_stops
from bicentra.core.parts.attachments import OriginalBrake
from bicentra.core.parts.job import Job
from bicentra.core.parts.library import Part
from bicentra.study.desks.search import Criteria, space_for
from bicentra.study.document.starting import demo_vehicle
from bicentra.study.document.study import Study
from bicentra.study.library.library import load_library, own_folder, whole_library
from tests.app.conftest import Opener


@pytest.fixture
def bench(window: MainWindow) -> PartsBench:
    """The parts bench on the demo, in front."""
    window.show_bench("parts")
    return window.benches.named("parts")


def few(bench: PartsBench) -> None:
    """Search among a few parts only."""
    library = whole_library()
    names = {p.name for kind, count in (("rotor", 6), ("caliper", 5)) for p in fits(kind)[:count]}
    small = replace(
        library, parts=tuple(row for row in library.parts if row[0].kind == "wheel" or row[0].name in names)
    )
    bench.desk.read_anew(small)
    bench.finder.show_desk(bench.desk)


def fits(kind: str) -> list[Part]:
    """Parts of the demo's pattern, or axial calipers."""
    parts = whole_library().of_kind(kind)
    if kind == "rotor":
        return [
            p
            for p in parts
            if p.rotor.bolt_circle_mm == 100.0 and p.rotor.hole_count == 4 and p.rotor.diameter_mm < 270
        ]
    return [p for p in parts if p.caliper.mount == "axial"]


def test_parts_are_laid_out_compared_and_used(
    window: MainWindow, bench: PartsBench, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """A rotor from the library lies below the job's own, its differences and weights are told; Use is one step."""
    part = fits("rotor")[0]
    monkeypatch.setattr(part_dialog, "ask_part", lambda *_: part)
    assert not bench.compare.use.isEnabled()
    qtbot.mouseClick(
        next(b for b in bench.compare.findChildren(QPushButton) if b.text() == "Rotor…"), Qt.MouseButton.LeftButton
    )
    assert window.study.job.rotor != part.item and bench.desk.proposal.rotor == part.item
    text = bench.compare.table.text()
    assert "Rotor to spin up" in text and "In the library: " in text and ("stop" in text or "met" in text)
    rings = [s for s in bench.compare.view.drawing.shapes if s.ink == "rotor" and len(s.loops) == 2]
    assert len(rings) == 2
    qtbot.mouseClick(bench.compare.over, Qt.MouseButton.LeftButton)
    assert any(s.ink == "example" for s in bench.compare.view.drawing.shapes)
    qtbot.mouseClick(bench.compare.use, Qt.MouseButton.LeftButton)
    assert window.study.job.rotor == part.item and window.study.history == ("Use the rotor from the bench",)
    window.study.undo()
    assert (not window.study.modified and "rotor" in bench.next_sentence()) or bench.next_sentence()


def test_what_came_off_is_noted_and_weighed(window: MainWindow, bench: PartsBench, qtbot: QtBot) -> None:
    """The Job panel notes what came off; the bench weighs it against the new corner."""
    window.study.edit("none", (("before", None),))
    bench.compare.above.setCurrentText("came off the vehicle")
    assert "Nothing is noted" in bench.compare.table.text()
    window.show_panel("job")
    panel = window.panels["job"]
    qtbot.mouseClick(
        next(b for b in panel.findChildren(QPushButton) if b.text() == "Note what came off"), Qt.MouseButton.LeftButton
    )
    assert window.study.job.before == OriginalBrake()
    box = panel.boxes["before.other_mass_kg"]
    box.editor.setText("11 kg")
    box.editor.editingFinished.emit()
    assert window.study.job.before.other_mass_kg == 11.0 and "11.00 kg" in bench.compare.table.text()
    keep = next(b for b in panel.findChildren(QPushButton) if b.text() == "The parts in the job came off")
    qtbot.mouseClick(keep, Qt.MouseButton.LeftButton)
    assert window.study.job.before.rotor == window.study.job.rotor and window.study.job.before.other_mass_kg == 11.0


def test_a_set_is_found_understood_and_taken(window: MainWindow, bench: PartsBench, qtbot: QtBot) -> None:
    """Sets come in, the best is chosen and told; another is picked on the map; its line-up opens with the same verdict."""
    few(bench)
    window.do_next()
    assert bench.finding and "Set the filters" in bench.next_sentence()
    window.do_next()
    assert bench.finder.running and bench.finder.go.text() == "Stop here"
    qtbot.waitUntil(lambda: not bench.finder.running, timeout=60000)
    finder = bench.finder
    assert finder.model.sets and finder.chosen is finder.model.sets[0] and "score" in finder.why.text()
    other = next(s for s in finder.desk.sets if s.feasible and s is not finder.chosen)
    finder.map.resize(600, 400)
    spot = finder.map.place(other)
    qtbot.mouseClick(finder.map, Qt.MouseButton.LeftButton, pos=spot.toPoint())
    picked = finder.chosen
    assert (finder.map.place(picked) - finder.map.place(other)).manhattanLength() < 20
    assert finder.list.currentIndex().row() == finder.model.row_of(picked)
    finder.grab()
    qtbot.mouseClick(finder.bench, Qt.MouseButton.LeftButton)
    assert not bench.finding and bench.desk.proposal == picked.job
    bench.show_page("find")
    qtbot.mouseClick(finder.open, Qt.MouseButton.LeftButton)
    assert window.benches.front == "lineup" and window.study.job.rotor == picked.job.rotor
    plain = window.study.plain_solution
    assert min(plain.verdicts, key=lambda v: v.rank) is picked.verdict or picked.verdict is Verdict.CAUTION
    assert len(window.study.history) == 1
    window.study.undo()
    assert not window.study.modified


def test_why_not_this_one(bench: PartsBench, qtbot: QtBot) -> None:
    """Words narrow the sets to one that is stopped; it says by what; words nobody is called find nothing, and say so."""
    few(bench)
    bench.show_page("find")
    bench.finder.start()
    qtbot.waitUntil(lambda: not bench.finder.running, timeout=60000)
    finder = bench.finder
    stopped = next(s for s in finder.desk.sets if not s.feasible)
    qtbot.keyClicks(finder.filter, stopped.job.rotor.name)
    assert all(stopped.job.rotor.name in s.name for s in finder.model.sets)
    finder.choose(stopped)
    assert "Stopped at every clock angle" in finder.why.text() and "<b>" in finder.why.text()
    finder.filter.setText("no such part")
    assert finder.model.rowCount() == 0 and "Looking" in finder.map.empty
    qtbot.waitUntil(lambda: "No set" in finder.map.empty, timeout=30000)
    assert finder.model.rowCount() == 0
    space = space_for(finder.desk.library, Criteria())
    kept = {(s.job.rotor.name, s.job.caliper.name) for s in finder.desk.sets}
    rotor, caliper = next(
        pair for pair in product((r.name for r in space.rotors), (c.name for c in space.calipers)) if pair not in kept
    )
    finder.filter.setText(f"{rotor} {caliper}")  # stopped with many alike, so that it is not in the list by itself
    qtbot.waitUntil(lambda: finder.model.rowCount() > 0, timeout=30000)
    assert finder.model.sets[0].job.caliper.name == caliper
    finder.grab()


def test_what_stops_most_is_told_in_bars(window: MainWindow, bench: PartsBench, qtbot: QtBot) -> None:
    """The counts of all reasons are the sets that are stopped; one clicked leaves sets of that reason, clicked again all; no axes before."""
    page = bench.finder
    bench.show_page("find")
    assert page.stops.isHidden() and not page.map.grab().toImage().isNull()
    page.start()
    qtbot.waitUntil(lambda: not page.running, timeout=120000)
    text, bars = bench.desk._text, page.stops.bars
    assert sum(text.reasons.values()) == text.counts[Verdict.STOP] and 1 <= len(bars) <= 5
    assert [bar.count for bar in bars] == sorted((bar.count for bar in bars), reverse=True) and bars[0].share == 1.0
    everything = len(page.model.sets)
    qtbot.mouseClick(bars[0], Qt.MouseButton.LeftButton)
    assert page.model.sets and {found.decides for found in page.model.sets} == {bars[0].reason}
    assert all(not found.feasible for found in page.model.sets) and bars[0].title in page.model.row_at(0).second
    qtbot.mouseClick(bars[0], Qt.MouseButton.LeftButton)
    assert len(page.model.sets) == everything
    del window


def test_sets_that_suit_the_vehicle(open_window: Opener, qtbot: QtBot, tmp_path: Path) -> None:
    """What a set does to the vehicle stands beside it; nothing nothing_stops while the rear leads and the master is small; mended, some do."""
    window = make_window(Study(demo_vehicle()), open_window().settings)
    qtbot.addWidget(window)
    window.show()
    window.show_bench("parts")
    bench: PartsBench = window.benches.named("parts")
    bench.show_page("find")
    page, found = bench.finder, list[int]()
    mended = (("valve.kind", "adjustable"), ("valve.knee_bar", 8.0), ("valve.slope", 0.3), ("master.bore_mm", 20.64))
    for edits in ((), tuple((f"vehicle.{path}", value) for path, value in mended)):
        window.study.edit_vehicle("Mend the pedal", edits)
        few(bench)
        page.start()
        qtbot.waitUntil(lambda: not page.running, timeout=60000)
        page.choose(next(one for one in page.desk.sets if one.feasible))
        assert (
            "On this vehicle" in page.why.text()
            and "pads of friction 0.38" in page.why.text()
            and "of the force in front" in page.why.text()
        )
        qtbot.mouseClick(page.fits, Qt.MouseButton.LeftButton)
        qtbot.waitUntil(lambda: "Looking" not in page.fits.text(), timeout=60000)
        found.append(len(page.model.sets))
        assert all(nothing_stops(page.desk.effects(one)) for one in page.model.sets)
        window.study.edit_vehicle("Lighter", (("vehicle.mass_kg", 810.0 + len(found)),))
        assert not page.fits.isChecked() and page.fits.text().endswith("heat")  # what suited another vehicle is let go
    assert found[0] == 0 < found[1]
    window.study.save(tmp_path / "x.bicentra.json")


def test_a_search_is_stopped_and_a_wrong_wish_refused(window: MainWindow, bench: PartsBench, qtbot: QtBot) -> None:
    """Stop keeps what has come in; plates that cannot be read are refused in words and nothing is begun."""
    bench.show_page("find")
    bench.finder.criteria_met.plates.setText("thick")
    bench.finder.start()
    assert not bench.finder.running and "thick" in window.footer.message.text()
    bench.finder.criteria_met.plates.setText("0; 1/8 in")
    bench.finder.criteria_met.wheel.setCurrentIndex(2)
    criteria = bench.finder.criteria_met.criteria("mm")
    assert criteria.plates == (0.0, 3.175) and criteria.wheel is not None and criteria.sides == ("outboard", "inboard")
    bench.finder.start()
    qtbot.waitUntil(lambda: bool(bench.finder.desk.sets), timeout=30000)
    window.do_next()
    qtbot.waitUntil(lambda: not bench.finder.running, timeout=30000)
    assert bench.finder.desk.sets and "stopped at" in bench.finder.state.text()


def test_a_table_is_taken_in_by_hand(
    window: MainWindow, bench: PartsBench, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    """A column is told, a differing part is settled, the library grows; what is no table is refused."""
    path = tmp_path / "shop.csv"
    path.write_text("name,Outside,overall_height_mm\nShop rotor,250,44\nMine,260,45\n")
    monkeypatch.setattr(dialogs, "ask_file", lambda *_: path)
    shown: list[str] = []

    def person(dialog: TableDialog) -> int:
        dialog.show()
        means = dialog.grid.cellWidget(1, 2)
        means.setCurrentIndex(means.findData("diameter_mm"))
        means.activated.emit(means.currentIndex())
        shown.append(dialog.take.text())
        for box in dialog.choices.values():
            box.setCurrentText("take theirs")
        dialog.grab()
        qtbot.mouseClick(dialog.take, Qt.MouseButton.LeftButton)
        return int(dialog.result())

    monkeypatch.setattr(QDialog, "exec", person)
    bench.take_table()
    path.write_text("name,Outside,overall_height_mm\nShop rotor,250,44\nMine,261,45\n")
    bench.take_table()
    assert shown == ["Import 2 new", "Import 0 new, settle 1"] and "1 parts" in window.footer.message.text()
    rotors = {p.name: p.rotor.diameter_mm for p in load_library(own_folder()).of_kind("rotor")}
    assert rotors == {"Shop rotor": 250.0, "Mine": 261.0}
    path.write_text("name\n")
    bench.take_table()
    assert "heading row" in window.footer.message.text()
    monkeypatch.setattr(dialogs, "ask_save", lambda *_: tmp_path / "out.csv")
    bench.write_table("rotor")
    assert "Shop rotor" in (tmp_path / "out.csv").read_text()


def test_a_plan_is_previewed_then_taken(window: MainWindow, qtbot: QtBot) -> None:
    """Plans are found; looking at one changes the drawings and not the job; Accept is one step; undo takes it back."""
    lineup = window.bench
    qtbot.mouseClick(lineup.plan_button, Qt.MouseButton.LeftButton)
    window.study.assess()
    qtbot.waitUntil(lambda: bool(lineup.planner.cards), timeout=30000)
    told = [label.text() for label in lineup.planner.cards[0].findChildren(QLabel)]
    assert any(text.startswith("Remaining: ") and "caution" in text for text in told)  # what is doubted stays doubted
    before, drawn = window.study.job, lineup.section.drawing
    card = lineup.planner.cards[0]
    qtbot.mouseClick(card.look, Qt.MouseButton.LeftButton)
    assert window.study.job is before and lineup.desk.preview is card.plan and lineup.section.drawing != drawn
    assert lineup.face.note == "Preview, not accepted yet"
    assert lineup.desk.solution.finding("tip-gap").verdict is Verdict.CAUTION  # play counts while it is looked at too
    lineup.grab()
    qtbot.mouseClick(card.look, Qt.MouseButton.LeftButton)
    assert lineup.desk.preview is None and lineup.section.drawing == drawn and lineup.face.note == ""
    accept = next(b for b in card.findChildren(QPushButton) if b.text() == "Accept")
    qtbot.mouseClick(accept, Qt.MouseButton.LeftButton)
    assert window.study.job == card.plan.solution.job and len(window.study.history) == 1
    assert Verdict.STOP not in window.study.plain_solution.verdicts
    window.study.undo()
    assert window.study.job == before


def test_plans_for_what_cannot_be_cleared(open_window: Opener, good: Job, qtbot: QtBot) -> None:
    """With nothing to clear the pane says so; leaving it brings the findings back; a change while previewing ends it."""
    window = open_window(good)
    lineup = window.bench
    lineup.plan_remedies()
    qtbot.waitUntil(lambda: "Nothing to fix" in lineup.planner.state.text(), timeout=30000)
    lineup.planner.close_it()
    assert lineup.list.isVisible()
    window.study.edit("deeper", (("fit.pad_inset_mm", 1.6),))
    lineup.plan_remedies()
    qtbot.mouseClick(lineup.planner.everything, Qt.MouseButton.LeftButton, pos=QPointF(8, 8).toPoint())
    lineup.planner.everything.setChecked(True)
    qtbot.waitUntil(lambda: bool(lineup.planner.cards), timeout=30000)
    lineup.planner.cards[0].look.click()
    assert lineup.desk.preview is not None
    window.study.edit("back", (("fit.pad_inset_mm", 1.0),))
    assert lineup.desk.preview is None


def test_traced_points_and_wheels_in_the_panels(
    window: MainWindow, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Points are typed with slashes, three for a port; wrong ones are refused at the field; a wheel comes off and back."""
    window.show_panel("caliper")
    box = window.panels["caliper"].boxes["caliper.hose_port_mm"]
    box.editor.setText("20 / 10")
    box.editor.editingFinished.emit()
    assert box.wrong.text() and window.study.job.caliper.hose_port_mm == ()
    box.editor.setText("20 / 10 / -40")
    box.editor.editingFinished.emit()
    assert window.study.job.caliper.hose_port_mm == ((20.0, 10.0, -40.0),)
    window.show_panel("hub")
    panel = window.panels["hub"]

    def press(text: str) -> None:
        qtbot.mouseClick(
            next(b for b in panel.findChildren(QPushButton) if b.text() == text), Qt.MouseButton.LeftButton
        )

    height = panel.boxes["wheel.weights[0].height_mm"]
    height.editor.setText("5.5")
    height.editor.editingFinished.emit()
    press("Add balance weights")
    assert window.study.job.wheel.weights[0].height_mm == 5.5  # what was typed since the panel was made stays
    assert len(window.study.job.wheel.weights) == 2 and "wheel.weights[1].height_mm" in panel.boxes
    press("Take the wheel off the job")
    assert window.study.job.wheel is None
    monkeypatch.setattr(part_dialog, "ask_part", lambda *_: whole_library().of_kind("wheel")[0])
    press("Wheel from the library…")
    assert window.study.job.wheel.name == whole_library().of_kind("wheel")[0].name


def test_the_jobs_own_parts_lie_there_once(bench: PartsBench) -> None:
    """Until a part is laid below, one set is shown and it is said how to lay another; then both, with what differs."""
    page = bench.compare
    bench.show_page("compare")
    page.refresh()
    drawing = page.view.drawing
    assert drawing is not None and len(drawing.texts) == 1 and "library" in page.table.text()
    rotor = next(part.item for part in bench.desk.library.of_kind("rotor"))
    page.lay(replace(bench.desk.study.job, rotor=rotor))
    assert len(page.view.drawing.texts) == 2 and "Weights" in page.table.text()
