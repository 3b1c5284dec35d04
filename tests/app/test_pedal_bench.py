"""The pedal bench in the real window: the baseline, the pedal pressed, a master chosen, a rear-biased vehicle settled."""

from pathlib import Path

import pytest
from PySide6.QtCore import QRectF, Qt
from PySide6.QtWidgets import QLabel, QPushButton
from pytestqt.qtbot import QtBot

from bicentra.app import dialogs
from bicentra.app.main import make_window
from bicentra.app.pedal.bench import PedalBench
from bicentra.app.pedal.numbers_page import NumbersPage
from bicentra.app.widgets.fields import ChoiceField, TextField
from bicentra.app.window import MainWindow
from bicentra.core.base.errors import BicentraError
from bicentra.core.base.records import replace
from bicentra.core.hydraulics.before import foot_after, single_change
from bicentra.core.hydraulics.chain import chain_of
from bicentra.core.hydraulics.missing import missing_of
from bicentra.core.parts.edits import with_value
from bicentra.core.parts.vehicle import Drum
from bicentra.study.document.starting import demo_vehicle, empty_job, empty_vehicle
from bicentra.study.document.study import Study
from tests.app.conftest import Opener


@pytest.fixture
def window(open_window: Opener, qtbot: QtBot) -> MainWindow:
    """The window on the whole demo vehicle, with both axles."""
    opened = make_window(Study(demo_vehicle()), open_window().settings)
    qtbot.addWidget(opened)
    opened.show()
    return opened


@pytest.fixture
def bench(window: MainWindow) -> PedalBench:
    """The bench in front, on the demo."""
    window.show_bench("pedal")
    bench: PedalBench = window.benches.named("pedal")
    return bench


def test_baseline_slider_and_master(window: MainWindow, bench: PedalBench, qtbot: QtBot) -> None:
    """The baseline is asked for first; pressing shows g and what locks; another master is fitted as one step and taken back."""
    assert "Note the pedal now" in bench.next_sentence()
    qtbot.waitUntil(lambda: window.bench_bar.buttons["pedal"].state.open == 4, timeout=5000)
    window.do_next()
    assert bench.side.baseline["travel_to_bite_mm"].isVisible()
    bench.side.baseline["force_n"].setText("220")
    bench.side.baseline["force_n"].editingFinished.emit()
    bench.side.baseline["locks_first"].setText("front")
    bench.side.baseline["locks_first"].editingFinished.emit()
    base = window.study.vehicle.vehicle.baseline
    assert (base.force_n, base.locks_first) == (220.0, "front") and "knee at 16 bar" in bench.next_sentence()
    bench.slider.setValue(100)
    assert bench.pressed.text().startswith("100 N: 0.52 g") and "locks" not in bench.pressed.text()
    bench.slider.setValue(400)
    assert "rear locks at grip 0.8" in bench.pressed.text()
    bench.slider.setValue(150)
    assert any("150 N" in note.text for note in bench.balance.drawing.notes)
    qtbot.mouseClick(bench.side.valve_button, Qt.MouseButton.LeftButton)
    assert "sinks" in bench.next_sentence() and window.study.vehicle.vehicle.valve.knee_bar == 16.0
    bench.show_page("masters")
    other = next(b for b in bench.side.findChildren(QPushButton) if b.text().endswith("Master 19.05 tandem no. 4"))
    qtbot.mouseClick(other, Qt.MouseButton.LeftButton)
    assert window.study.vehicle.vehicle.master.bore_mm == 19.05 and window.study.undo_label.startswith("Fit the Master")
    assert "front circuit gone" in bench.next_sentence()  # the rear alone brakes a little less than type approval asks
    window.study.undo()
    assert window.study.vehicle.vehicle.master.bore_mm == 15.87


def test_numbers_are_typed_over_the_machine(bench: PedalBench, qtbot: QtBot) -> None:
    """Ratio, foot, friction: typed where they stand; a number that cannot be is refused in words, and nothing changes."""
    desk = bench.desk
    assert desk is not None
    for path, text in (("vehicle.pedal.ratio", "5.2"), ("axles.front.pad.mu", "0.42"), ("foot", "250")):
        bench.machine.typed_over.emit(path, QRectF(10, 10, 40, 20))
        editor = bench._field.editor
        assert editor is not None
        editor.setText(text)
        qtbot.keyClick(editor, Qt.Key.Key_Return)
    assert desk.chain.ratio == 5.2 and desk.chain.ends[0].mu == 0.42 and bench.slider.value() == 250
    told: list[str] = []
    bench.refused.connect(lambda _path, why: told.append(why))
    assert not bench.attempt(lambda desk: desk.typed("vehicle.pedal.ratio", "-3"))
    assert not bench.attempt(lambda desk: desk.typed("foot", "9000")) and len(told) == 2
    bench.side.baseline["locks_first"].setText("both")
    bench.side.baseline["locks_first"].editingFinished.emit()
    assert len(told) == 3 and desk.chain.ratio == 5.2
    with pytest.raises(KeyError):
        desk.study.edit_vehicle("no such place", (("vehicle.pedal.nonsense", 1.0),))
    with pytest.raises(BicentraError):
        desk.study.edit_vehicle("absurd", (("vehicle.mass_kg", -5.0),))


def test_a_rear_that_leads_is_settled(open_window: Opener, qtbot: QtBot) -> None:
    """A larger drum makes the rear lock first: a stop, with a valve on offer; fitted, the front leads again."""
    open_window()
    vehicle = demo_vehicle()
    rear = replace(
        vehicle.axles["rear"], drum=Drum(cylinder_bore_mm=20.64, diameter_mm=230.0, factor=2.6, threshold_bar=0.7)
    )
    window = make_window(Study(replace(vehicle, axles={**vehicle.axles, "rear": rear})), open_window().settings)
    qtbot.addWidget(window)
    window.show()
    window.show_bench("pedal")
    bench = window.benches.named("pedal")
    assert isinstance(bench, PedalBench) and bench.desk is not None
    order = next(f for f in bench.desk.work.findings if f.id == "pedal-order")
    assert order.verdict == "stop" and "spins" in order.why and not bench.side.valve_button.isHidden()
    qtbot.mouseClick(bench.side.valve_button, Qt.MouseButton.LeftButton)
    assert window.study.vehicle.vehicle.valve.kind == "adjustable"
    after = next(f for f in bench.desk.work.findings if f.id == "pedal-order")
    assert "empty" not in after.why and bench.side.valve_button.isHidden()


def test_nothing_known_is_a_blank_machine(open_window: Opener) -> None:
    """An empty vehicle shows blanks, no verdict and no number."""
    window = open_window(empty_job())
    window.show_bench("pedal")
    bench = window.benches.named("pedal")
    assert isinstance(bench, PedalBench) and "unknown" in bench.pressed.text()
    assert any("____" in note.text for note in bench.machine.drawing.notes) and bench.balance.drawing.examples
    assert window.study.pedal_findings == () and window.bench_bar.buttons["pedal"].state.verdict is None
    bench.grab()


def test_the_heat_page(bench: PedalBench, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """A use is chosen, a number of its train typed, one that no train has refused; both sheets are written, never over a job."""
    desk = bench.desk
    assert desk is not None
    bench.show_drawn("heat")
    assert {f.id for f in bench.model.findings} == {
        *("heat-fluid", "heat-pads", "heat-locker", "heat-paint", "heat-rotor", "heat-drum")
    }
    cool = desk.hot.front.peaks[-1]
    qtbot.mouseClick(bench.heat.uses["track day"], Qt.MouseButton.LeftButton)
    assert bench.heat.fields["stops"].text() == "40" and desk.hot.front.peaks[-1] > cool
    told: list[str] = []
    bench.refused.connect(lambda _path, why: told.append(why))
    for name, text, taken in (
        ("stops", "12", True),
        ("stops", "2.5", False),
        ("end", "200", False),
        ("every", "0", False),
    ):
        bench.heat.fields[name].setText(text)
        bench.heat.fields[name].editingFinished.emit()
        assert (len(told) == 0) == taken or not taken
    assert len(told) == 3 and (desk.train.stops, desk.train.end) == (12, 70.0)
    assert bench.heat.fields["stops"].text() == "2.5"  # what was refused stays to be mended, marked
    for name in ("heat", "pedal"):
        bench.show_drawn(name)
        assert desk.sheet_path(bench.is_hot).name == f"job-{name}.pdf"
        monkeypatch.setattr(dialogs, "ask_save", lambda *_, name=name: tmp_path / name)
        qtbot.mouseClick(bench.sheet_button, Qt.MouseButton.LeftButton)
        assert (tmp_path / f"{name}.pdf").read_bytes().startswith(b"%PDF")
    monkeypatch.setattr(dialogs, "ask_save", lambda *_: tmp_path / "x.bicentra.json")
    bench.write_sheet()
    assert len(told) == 4 and not (tmp_path / "x.bicentra.json").exists()


def typed(page: NumbersPage, path: str, value: str) -> None:
    """Type into a field of the page of numbers, or choose there."""
    box = page.boxes[path]
    if isinstance(box, ChoiceField):
        box.editor.setCurrentIndex(box.editor.findData(value))
        box.editor.activated.emit(box.editor.currentIndex())
    elif isinstance(box, TextField):
        box.editor.setText(value)
        box.editor.editingFinished.emit()


def test_from_nothing_to_a_balance(open_window: Opener, qtbot: QtBot, tmp_path: Path) -> None:
    """An empty vehicle typed in on the page of numbers, field after field as it asks; a height by two scales; back by undo."""
    window = make_window(Study(empty_vehicle()), open_window().settings)
    qtbot.addWidget(window)
    window.show()
    window.show_bench("pedal")
    bench: PedalBench = window.benches.named("pedal")
    window.study.edit_vehicle("Before", (("vehicle.baseline.force_n", 200.0),))
    assert "mass, front axle load, wheelbase" in bench.next_sentence()
    bench.do_next()
    page = bench.numbers
    qtbot.mouseClick(page.kinds["rear"], Qt.MouseButton.LeftButton)
    assert window.study.vehicle.axles["rear"].drum is not None
    typed(page, "vehicle.mass_kg", "-5")
    assert window.study.vehicle.vehicle.mass_kg is None and not page.boxes["vehicle.mass_kg"].wrong.isHidden()
    values = {
        "vehicle.mass_kg": "820", "vehicle.front_axle_kg": "430", "vehicle.wheelbase_mm": "1810", "vehicle.cg_height_mm": "560",
        "axles.front.caliper.pistons_inboard_mm": "36; 36", "axles.front.pad.mu": "0.38", "axles.front.tyre_radius_mm": "265",
        "axles.rear.drum.cylinder_bore_mm": "19.05", "axles.rear.drum.diameter_mm": "8 in",
        "axles.rear.drum.layout": "leading-trailing", "axles.rear.tyre_radius_mm": "265", "vehicle.pedal.ratio": "4.6",
        "vehicle.master.bore_mm": "3/4 in", "vehicle.master.stroke_mm": "32",
    }  # fmt: skip
    order = [path for path, _ in missing_of(window.study.vehicle) if path in values]
    assert order == list(values)  # asked in measuring order, nothing else but what has a sheet of its own
    for path, value in values.items():
        typed(page, path, value)
    left = {path for path, _ in missing_of(window.study.vehicle)}
    assert left and all(".rotor." in path or ".caliper." in path or ".fit." in path for path in left)
    for name, value in (("lifted", "480 kg"), ("lift", "600 mm")):
        page.scales.fields[name].editor.setText(value)
        page.scales.fields[name].editor.editingFinished.emit()
    qtbot.mouseClick(page.scales.use, Qt.MouseButton.LeftButton)
    assert window.study.vehicle.vehicle.cg_height_mm == pytest.approx(579.1, abs=0.1)  # 265 + 1810·50/(820·tan 19.36°)
    page.go_to_next()
    assert window.sheets.open in ("rotor", "caliper", "bracket")
    window.study.undo()
    assert window.study.vehicle.vehicle.cg_height_mm == 560.0
    window.study.save(tmp_path / "x.bicentra.json")


def test_bores_levers_and_knee_are_pulled(window: MainWindow, bench: PedalBench, qtbot: QtBot) -> None:
    """While a bore is pulled all follows and the job does not change; let go it is one step; Escape gives it back; opposed pistons
    stay alike; a knee follows its own line."""
    qtbot.waitUntil(lambda: bool(bench.machine.drawing and bench.machine.drawing.handles))
    handles = {handle.path: handle for view in (bench.machine, bench.balance) for handle in view.drawing.handles}
    path = "axles.front.caliper.pistons_inboard_mm[0]"
    before, steps = bench.pressed.text(), len(window.study.history)
    bench.machine.dragged.emit(handles[path], 48.0)
    assert bench.is_pulled() and bench.pressed.text() != before and len(window.study.history) == steps
    bench.machine.cancelled.emit()
    assert not bench.is_pulled() and bench.pressed.text() == before and len(window.study.history) == steps
    bench.machine.dragged.emit(handles[path], 46.0)
    bench.machine.dragged.emit(handles[path], 48.0)
    bench.machine.released.emit()
    caliper = window.study.vehicle.axles["front"].caliper
    assert (
        caliper.pistons_inboard_mm == caliper.pistons_outboard_mm == (48.0, 36.0)
        and len(window.study.history) == steps + 1
    )
    bench.machine.dragged.emit(handles["vehicle.master.bore_mm"], -3.0)
    bench.machine.released.emit()
    assert window.study.vehicle.vehicle.master.bore_mm == 1.0
    window.study.undo()
    window.study.undo()
    bench.attempt(lambda desk: desk.fit_valve())
    knee = next(handle for handle in bench.balance.drawing.handles if handle.path.endswith("knee_bar"))
    far = (knee.at[0] + 10.0 * knee.along[0], knee.at[1] + 10.0 * knee.along[1])
    bench.balance.dragged.emit(knee, 16.0 + 10.0 * knee.gain)
    moved = next(handle for handle in bench.balance.drawing.handles if handle.path.endswith("knee_bar"))
    assert moved.at == pytest.approx(far, abs=0.05)  # the kink lies where the pointer is
    bench.balance.released.emit()


def test_the_master_page(window: MainWindow, bench: PedalBench, qtbot: QtBot) -> None:
    """A master fitted from the shelf keeps the one that came out; both are drawn cut open, and what is to be made is listed."""
    was = window.study.vehicle.vehicle.master
    bench.attempt(lambda desk: desk.fit_master("Master 19.05 tandem no. 4"))
    assert window.study.vehicle.vehicle.before.master == was
    bench.attempt(lambda desk: desk.fit_master("Master 20.64 tandem no. 5"))
    assert (
        window.study.vehicle.vehicle.before.master == was
    )  # the one that was there first, not the one tried in between
    bench.show_drawn("master")
    drawn = " ".join(text.text for text in bench.master.view.drawing.texts)
    assert "Before: 15.87 mm bore" in drawn and "Now: 20.64 mm bore" in drawn and "end not stated" in drawn
    bench.attempt(lambda desk: desk.set_number("vehicle.master.front_from", "by the rod"))
    drawn = " ".join(text.text for text in bench.master.view.drawing.texts)
    assert "by the rod: to the front" in drawn and "far from the rod: to the rear" in drawn
    labels = " ".join(label.text() for label in bench.master.findChildren(QLabel))
    assert "Still to do" in labels and "were for drums" in labels
    qtbot.keyClick(bench, Qt.Key.Key_Escape)


def test_what_the_change_did_is_told(window: MainWindow, bench: PedalBench) -> None:
    """From drums to discs: each lever with its factor. While the rear leads nobody is told to enlarge it; once it does not, what alone
    would bring the old share back is told, and does."""
    bench.show_page("before")
    text = bench.side.changed_text.text()
    assert "bore × " in text and "pad × " in text and "enlarge nothing there" in text and "Alone" not in text
    desk = bench.desk
    assert desk is not None and desk.earlier is not None
    desk.set_number("axles.rear.drum.factor", 0.8)
    bench.refresh()
    factor = single_change(desk.chain, desk.earlier)["rear bore area"]
    assert desk.work.leading is None and f"× {factor:.2f} would" in bench.side.changed_text.text()
    was, bore = desk.earlier.at(100.0).front_share, window.study.vehicle.axles["rear"].drum.cylinder_bore_mm
    there = with_value(window.study.vehicle, "axles.rear.drum.cylinder_bore_mm", bore * factor**0.5)
    assert chain_of(there).at(100.0).front_share == pytest.approx(was, abs=0.01)
    foot = foot_after(desk.chain, 1, factor, 0.6)
    assert (
        foot == pytest.approx(chain_of(there).foot_for(0.6))
        and f"{foot:.0f} N at 0.6 g" in bench.side.changed_text.text()
    )


def test_parts_from_the_shelf(window: MainWindow, bench: PedalBench, monkeypatch: pytest.MonkeyPatch) -> None:
    """Beside each heading the shelf offers its parts: taken as one step, kept under the name that is asked for."""
    bench.show_drawn("numbers")
    page = bench.numbers
    assert {"Fluid", "Booster", "Valve to the rear", "Front axle", "Pads, front", "Drums, rear"} <= set(page.shelves)
    menu = page.shelves["Pads, front"].menu()
    menu.aboutToShow.emit()
    actions = [action for action in menu.actions() if not action.isSeparator()]
    track = next(action for action in actions if action.text().startswith("Track pad"))
    assert "µ 0.48 warm" in track.text() and "Keep these numbers" in actions[-1].text()
    track.trigger()
    assert window.study.vehicle.axles["front"].pad.mu == 0.48
    box = page.boxes["axles.front.pad.mu"]
    assert isinstance(box, TextField) and box.editor.text() == "0.48"
    monkeypatch.setattr(dialogs, "ask_name", lambda *_: "Pads of the float")
    actions[-1].trigger()
    assert "Pads of the float" in [part.name for part in bench.desk.library.of_kind("pad")]  # type: ignore[union-attr]
    window.study.undo()
    assert window.study.vehicle.axles["front"].pad.mu == 0.38
