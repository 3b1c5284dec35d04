"""The survey bench, driven as a person would: pick, type, gauge, use, undo."""

from pathlib import Path

import pytest
from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtWidgets import QDialog, QInputDialog, QPushButton
from pytestqt.qtbot import QtBot

from bicentra.app import dialogs, workers
from bicentra.app.gauges.strip import GaugeDialog
from bicentra.app.paint import label_rect
from bicentra.app.survey import commands
from bicentra.app.survey.bench import SurveyBench
from bicentra.app.survey.commands import FeatureDialog, InstrumentsDialog, takeover_table
from bicentra.app.survey.entry import kind_of_ask
from bicentra.app.window import MainWindow
from bicentra.core.base.records import replace
from bicentra.core.drawing.boxes import Box
from bicentra.core.parts.job import Job
from bicentra.core.parts.survey import Distance, Feature
from bicentra.core.survey.words import blunder_of
from bicentra.study.desks.survey import ReadingAsk
from bicentra.study.document.starting import empty_job
from bicentra.study.gauges.gauge import GaugeSettings
from tests.app.conftest import Opener


@pytest.fixture
def bench(window: MainWindow, qtbot: QtBot) -> SurveyBench:
    """The survey bench on the demo, in front."""
    qtbot.waitUntil(lambda: window.study.assessment is not None, timeout=10000)
    window.show_bench("survey")
    return window.benches.named("survey")


def give(qtbot: QtBot, bench: SurveyBench, text: str) -> None:
    """Type a value and press Enter, as a hand or a keyboard gauge does."""
    qtbot.keyClicks(bench.entry.value, text)
    qtbot.keyClick(bench.entry.value, Qt.Key.Key_Return)


def click(qtbot: QtBot, bench: SurveyBench, name: str) -> None:
    """Click a feature on the sheet, a little off its middle."""
    at = bench.sheet.to_px(bench.sheet.places[name])
    qtbot.mouseClick(bench.sheet, Qt.MouseButton.LeftButton, pos=(at + QPointF(2, 3)).toPoint())


def test_the_wrong_reading_is_settled_and_the_survey_used(
    window: MainWindow, bench: SurveyBench, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Enter the reading again, see it agree, use it after before and after, see the findings carry ±, undo both."""
    assert "pilot to lower lug" in bench.entry.question.text() and "0.8" in bench.next_sentence()
    first = bench.readings.model.rows[0]
    assert first.verdict == "stop" and "measure it again" in first.second
    give(qtbot, bench, "38.97")
    assert not bench.desk.done.suspects and bench.readings.model.rows[0].verdict != "stop"
    assert bench.entry.value.hasFocus() or not window.isActiveWindow()
    tables: list[str] = []
    monkeypatch.setattr(
        commands, "ask_takeover", lambda _p, plan, lengths: bool(tables.append(takeover_table(plan, lengths))) or True
    )
    qtbot.mouseClick(bench.use_button, Qt.MouseButton.LeftButton)
    assert "before" in tables[0] and "upper lug, forward" in tables[0] and "±" in tables[0]
    window.show_bench("lineup")
    qtbot.waitUntil(lambda: window.study.assessment is not None, timeout=10000)
    axial = window.study.solution.finding("axial-offset")
    assert axial.sd > 0.01 and "(95 %)" in axial.statement
    window.bench.choose("tip-gap")
    qtbot.waitUntil(lambda: "chance of being OK" in window.bench.detail._more.text(), timeout=5000)
    assert [step[:3] for step in window.study.history] == ["Cor", "Use"]
    window.study.undo()
    window.study.undo()
    assert not window.study.modified


def test_picking_two_features_and_typing(bench: SurveyBench, qtbot: QtBot) -> None:
    """Two clicks ask, a sense is chosen, wrong text stays with its reason, right text becomes a dimension on the sheet."""
    click(qtbot, bench, "upper lug")
    click(qtbot, bench, "web bolt")
    assert bench.entry.question.text() == "Asked now: upper lug to web bolt, far edge to far edge"
    qtbot.mouseClick(bench.entry.senses["near-far"], Qt.MouseButton.LeftButton)
    give(qtbot, bench, "80 furlongs")
    assert "Not taken" in bench.entry.wrong.text() and bench.entry.value.text() == "80 furlongs"
    qtbot.keyClick(bench.entry.value, Qt.Key.Key_Escape)
    assert bench.entry.value.text() == ""
    give(qtbot, bench, "3.11 in")
    assert bench.desk.survey.distances[-1].value_mm == pytest.approx(78.994)
    assert any("78.99" in d.text for d in bench.sheet.drawing.dimensions)


def test_a_left_corner_is_picked_where_it_is_seen(bench: SurveyBench, qtbot: QtBot) -> None:
    """Seen from outboard a left corner is turned over: its lugs, behind the axle, lie to the right and are picked there."""
    bench.turn_to("front-left")
    assert bench.sheet.places["upper lug"][0] > 0 > bench.desk.done.place("upper lug")[0]
    click(qtbot, bench, "upper lug")
    assert bench.desk.picked == ("upper lug",)
    click(qtbot, bench, "pilot")
    assert bench.desk.current_ask.ends == ("upper lug", "pilot")


def test_keyboard_alone(bench: SurveyBench, qtbot: QtBot) -> None:
    """Arrows and space pick on the sheet; Escape goes back to what is asked."""
    bench.sheet.setFocus()
    for keys in (1, 2):
        for _ in range(keys):
            qtbot.keyClick(bench.sheet, Qt.Key.Key_Right)
        qtbot.keyClick(bench.sheet, Qt.Key.Key_Space)
        bench.sheet.setFocus()
    assert bench.desk.current_ask.kind == "distance" and set(bench.desk.current_ask.ends) == {"pilot", "lower lug"}
    qtbot.keyClick(bench.sheet, Qt.Key.Key_Escape)
    assert bench.desk.current_ask.kind == "again"


def test_ghosts_and_readings_on_the_sheet_can_be_clicked(bench: SurveyBench, qtbot: QtBot) -> None:
    """A ghost asks for its reading; a dimension chooses its row; an offer at the side does what it says."""
    bench.grab()
    example = next(label for label in bench.sheet.labels if label.edits.startswith("wanted:"))
    at = label_rect(example, bench.sheet.origin()).center().toPoint()
    qtbot.mouseClick(bench.sheet, Qt.MouseButton.LeftButton, pos=at)
    assert bench.desk.current_ask.kind in ("distance", "direction")
    bench.grab()
    text = next(label for label in bench.sheet.labels if label.edits == "reading:distances:7")
    qtbot.mouseClick(
        bench.sheet, Qt.MouseButton.LeftButton, pos=label_rect(text, bench.sheet.origin()).center().toPoint()
    )
    assert bench.readings.current().index == 7
    qtbot.mouseClick(bench._context_menu[0], Qt.MouseButton.LeftButton)
    assert bench.desk.current_ask.kind == "again"


def test_labels_keep_clear_of_each_other(open_window: Opener, demo: Job) -> None:
    """On the demo, a crowded survey, long names and a left corner no label covers another or leaves the sheet."""
    survey = demo.survey["front-right"]
    many = tuple(Feature(name=f"a hole with quite a long name {k}", diameter_mm=8.0) for k in range(9))
    far = tuple(
        Distance(from_=a, to=f.name, value_mm=40.0 + 9 * k) for k, f in enumerate(many) for a in ("pilot", "upper lug")
    )
    crowd = replace(survey, features=(*survey.features, *many), distances=(*survey.distances, *far))
    window = open_window(replace(demo, survey={"front-right": crowd, "front-left": demo.survey["front-left"]}))
    window.show_bench("survey")
    for corner in ("front-right", "front-left", "rear-left"):
        window.benches.named("survey").turn_to(corner)
        window.benches.named("survey").grab()
        boxes = [label.box for label in window.benches.named("survey").sheet.labels]
        assert not any(a.meets(b, 0.0) for k, a in enumerate(boxes) for b in boxes[:k])
        sheet = window.benches.named("survey").sheet
        origin = sheet.origin()
        frame = Box(-origin.x(), origin.y() - sheet.height(), sheet.width() - origin.x(), origin.y())
        assert all(box.inside(frame) for box in boxes)


def test_faces_sweeps_and_index(window: MainWindow, bench: SurveyBench, qtbot: QtBot) -> None:
    """Spots and sweeps are asked for from their sides, and an index is chosen by its button."""
    bench.show_side("faces")
    button = next(b for b in bench.faces.findChildren(QPushButton) if b.text() == "Read upper lug again")
    qtbot.mouseClick(button, Qt.MouseButton.LeftButton)
    assert bench.desk.current_ask.kind == "depth" and bench.entry.spot_at.isVisible()
    bench.entry.spot_at.setText("50")
    bench.entry.spot_at.editingFinished.emit()
    give(qtbot, bench, "83.2")
    assert bench.desk.survey.faces[0].spots[0].at_deg == 50.0
    window.study.undo()
    window.study.undo()
    bench.show_side("runout")
    button = next(b for b in bench.runout.findChildren(QPushButton) if b.text().startswith("2 studs"))
    qtbot.mouseClick(button, Qt.MouseButton.LeftButton)
    assert window.study.job.fit.rotor_turn_studs == 2
    button = next(b for b in bench.runout.findChildren(QPushButton) if b.text() == "Sweep the hub face")
    qtbot.mouseClick(button, Qt.MouseButton.LeftButton)
    give(qtbot, bench, "0.21")
    qtbot.mouseClick(bench.entry.skip, Qt.MouseButton.LeftButton)
    assert [r.value_mm for r in bench.desk.survey.sweeps[-1].readings] == [0.21, None]


def test_parts_are_worked_out_and_used(window: MainWindow, bench: SurveyBench, qtbot: QtBot) -> None:
    """The recipe shows formula and result; the number goes into the job; wrong text is refused; points are traced."""
    bench.show_side("parts")
    bench.parts.recipes.setCurrentIndex(bench.parts.recipes.findData("rotor-height"))
    bench.parts.recipes.activated.emit(bench.parts.recipes.currentIndex())
    assert bench.parts.result.text().startswith("44 mm ±") and bench.parts.use.text() == "The job has it"
    bench.parts.open("hat-thickness")
    assert bench.parts.result.text() == "still unknown" and not bench.parts.use.isEnabled()
    bench.parts.open("rotor-height")
    field = bench.parts.fields["top"]
    field.setText("79.52")
    field.editingFinished.emit()
    assert "45 mm" in bench.parts.result.text() and "top − straightedge − blocks" in bench.parts.formula.text()
    qtbot.mouseClick(bench.parts.use, Qt.MouseButton.LeftButton)
    assert window.study.job.rotor.overall_height_mm == 45.0 and bench.parts.use.text() == "The job has it"
    bench.parts.open("pad-width")
    points = bench.parts.fields["points"]
    points.setText("0 / 0; 96")
    points.editingFinished.emit()
    assert "Not taken" in bench.parts.wrong.text()
    points.setText("0 / 0; 96 / 0; 90 / 44")
    points.editingFinished.emit()
    assert "96 mm" in bench.parts.result.text() and "area traced" in bench.parts.formula.text()


def test_correct_and_set_aside(bench: SurveyBench, monkeypatch: pytest.MonkeyPatch) -> None:
    """A correction keeps the former value; a reading set aside is listed last and can be counted again."""
    monkeypatch.setattr(commands, "ask_value", lambda *_: "38.97 mm")
    bench.readings.correct_button.click()
    assert bench.desk.survey.distances[2].was[-1].why == "written down wrongly"
    monkeypatch.setattr(commands, "ask_value", lambda *_: "a lot")
    bench.readings.correct_button.click()
    assert "Not taken" in bench.entry.wrong.text()
    bench.readings.choose("distances", 4)
    bench.readings.aside_button.click()
    assert bench.desk.survey.distances[4].set_aside == "by hand" and bench.readings.model.rows[-1].aside
    bench.readings.choose("distances", 4)
    assert bench.readings.aside_button.text() == "Count again"
    bench.readings.aside_button.click()
    assert bench.desk.survey.distances[4].set_aside == ""


def test_the_simulated_gauge_answers_what_is_asked(window: MainWindow, bench: SurveyBench, qtbot: QtBot) -> None:
    """Started from the menu, its first line settles the doubtful reading; let go, nothing more comes; closing ends it."""
    bench.gauge.box.simulate(bench.current_ask, seed=1, every=0.3)
    qtbot.waitUntil(lambda: bool(bench.desk.survey.distances[2].was), timeout=8000)
    assert bench.desk.survey.distances[2].value_mm == pytest.approx(38.97, abs=0.15)
    qtbot.waitUntil(lambda: len(bench.desk.survey.distances) > 9, timeout=8000)
    adjusted = bench.desk.done.adjusted  # it answers what is asked: at most its own planted blunder is named
    assert all(abs(blunder_of(adjusted, k)) < 1.2 for k in adjusted.suspects)
    assert "simulated" in bench.gauge.state.text() and bench.gauge.button.text() == "Disconnect the gauge"
    qtbot.mouseClick(bench.gauge.button, Qt.MouseButton.LeftButton)
    count = len(window.study.history)
    qtbot.wait(700)
    assert len(window.study.history) == count and bench.gauge.state.text() == "no gauge"


def test_a_gauge_that_is_not_there_says_so(bench: SurveyBench, qtbot: QtBot) -> None:
    """A wrong port is told and looked for again; how its lines look is one of a few choices; nothing freezes."""
    bench.gauge.box.connect_to(GaugeSettings("/dev/no-such-gauge"), keep=False)
    qtbot.waitUntil(lambda: "no such port" in bench.gauge.state.text(), timeout=5000)
    bench.let_go()
    dialog = GaugeDialog(bench, GaugeSettings("/dev/no-such-gauge", style="label"))
    dialog._connect()
    assert dialog.settings is not None and dialog.settings.style == "label"
    assert dialog.settings is not None and dialog.settings.baud == 9600
    bench.with_desk(lambda desk: desk.as_angle())
    bench.desk.picked = ("pilot", "upper lug")
    bench.desk.as_angle()
    bench.gauged(12.0, "12.0", False)
    assert "an angle is asked for" in bench.gauge.state.text()


def test_tables_from_the_menu(bench: SurveyBench, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Readings written and taken in again through the menu; a bad table changes nothing and says where it is bad."""
    path = tmp_path / "r.csv"
    monkeypatch.setattr(dialogs, "ask_save", lambda *_: path)
    monkeypatch.setattr(dialogs, "ask_file", lambda *_: path)
    bench.commands.write_csv()
    count = len(bench.desk.survey.distances)
    bench.turn_to("rear-right")
    monkeypatch.setattr(dialogs, "ask_brake", lambda *_: "disc")
    bench.commands.take_csv()
    assert len(bench.desk.survey.distances) == count and bench.desk.corner == "rear-right"
    path.write_text("kind,from,to,value\ndistance,a,b,ten\n")
    before = bench.desk.survey
    bench.commands.take_csv()
    assert bench.desk.survey == before and "row 2, value" in bench.entry.wrong.text()


def test_an_empty_job_leads_to_its_first_reading(open_window: Opener, monkeypatch: pytest.MonkeyPatch) -> None:
    """Nothing measured: the bench says what to add, adds it, and asks for its diameter; a taken name is refused."""
    window = open_window(empty_job())
    window.show_bench("survey")
    bench = window.benches.named("survey")
    assert "centred on the axle" in bench.next_sentence() and bench.desk.current_ask is None
    dialog = FeatureDialog(bench, False, ["pilot"], "mm")
    dialog.diameter.setText("57 bananas")
    dialog._add()
    assert "bananas" in dialog.wrong.text() and dialog.feature is None
    dialog.diameter.setText("")
    dialog._add()
    monkeypatch.setattr(commands, "ask_feature", lambda *_: dialog.feature)
    window.do_next()
    assert bench.desk.current_ask.kind == "diameter" and bench.sheet.drawing.shapes
    bench.commands.add_feature()
    assert "Not taken" in bench.entry.wrong.text()
    monkeypatch.setattr(QDialog, "exec", lambda _self: 0)
    monkeypatch.setattr(QInputDialog, "getText", lambda *_, **__: ("", False))
    bench.commands.use()
    assert window.study.job.knuckle == empty_job().knuckle


def test_instruments_are_told_how_well_they_read(bench: SurveyBench, monkeypatch: pytest.MonkeyPatch) -> None:
    """A worn caliper is entered once and every reading with it weighs less; nonsense is refused in the dialog."""
    dialog = InstrumentsDialog(bench, bench.desk.survey)
    dialog.fields["digital-caliper"].setText("-1")
    dialog._use()
    assert "above 0" in dialog.wrong.text() and dialog.instruments is None
    dialog.fields["digital-caliper"].setText("0.2")
    dialog._use()
    monkeypatch.setattr(commands, "ask_instruments", lambda *_: dialog.instruments)
    bench.commands.set_instruments()
    assert bench.desk.survey.sd_of("digital-caliper") == 0.2
    assert not bench.desk.done.suspects  # 0.8 mm is no longer out of the ordinary for such an instrument


def test_only_instruments_that_fit_are_offered(window: MainWindow, bench: SurveyBench) -> None:
    """Lengths offer no angle gauge, angles nothing else; the best-clock key turns no caliper that nobody sees."""
    bench.desk.picked = ("pilot", "upper lug")
    names = [bench.entry.instruments.itemData(k) for k in range(bench.entry.instruments.count())]
    assert "steel-rule" in names and "angle-gauge" not in names
    bench.desk.as_angle()
    assert [bench.entry.instruments.itemData(k) for k in range(bench.entry.instruments.count())] == ["", "angle-gauge"]
    window.actions_by_name["best_clock"].trigger()
    assert not window.study.modified and "line-up bench" in window.footer.message.text()


def test_digits_go_to_the_entry_from_anywhere(bench: SurveyBench, qtbot: QtBot) -> None:
    """A gauge that types like a keyboard hits the field even when the list or the sheet is in front."""
    for widget in (bench.readings.list, bench.sheet):
        bench.entry.value.clear()
        qtbot.keyClick(widget, Qt.Key.Key_7)
        assert bench.entry.value.text() == "7"


def test_inch_dark_and_switching_benches(window: MainWindow, bench: SurveyBench, qtbot: QtBot) -> None:
    """Units, look, zoom, the plan of corners and the keys work on this bench; the line-up comes back as it was."""
    window.switch_units()
    window.switch_look()
    assert "in" in bench.readings.model.rows[0].value
    scale = bench.view_state.scale
    window.zoom(1.2)
    assert bench.view_state.scale == pytest.approx(scale * 1.2)
    window.fit()
    assert bench.view_state.scale == pytest.approx(scale, rel=0.02)
    window.corners.click()
    qtbot.mouseClick(window.corners.chassis.cards["front-left"], Qt.MouseButton.LeftButton)
    assert bench.desk.corner == "front-left" and not window.corners.sheet.isVisible()
    bench.grab()
    window.actions_by_name["face"].trigger()
    assert window.benches.front == "lineup" and window.benches.currentWidget() is window.bench
    workers.wait_for_all()


def test_what_is_measured_to_is_put_on_the_sheet(open_window: Opener, qtbot: QtBot) -> None:
    """One touch adds the pilot, the next lug, a hole; a pilot is offered once; no label lies under the buttons."""
    window = open_window(empty_job())
    window.show_bench("survey")
    bench = window.front
    adders = bench.sheet.adders
    for name in ("pilot", "lug", "lug", "lug", "hole", "hole"):
        qtbot.mouseClick(adders.buttons[name], Qt.MouseButton.LeftButton)
    lugs = tuple(lug.name for lug in window.study.job.knuckle.lugs)
    added = tuple(feature.name for feature in bench.desk.survey.features)
    assert added == ("pilot", *lugs, "lug 1", "hole 1", "hole 2") and bench.desk.survey.features[0].axis
    assert adders.buttons["pilot"].isHidden() and bench.desk.current_ask.kind == "diameter"
    bench.sheet.grab()
    places = [label_rect(label, bench.sheet.origin()) for label in bench.sheet.labels]
    assert places and not any(QRectF(adders.geometry()).intersects(place) for place in places)


def test_faces_and_runout_take_the_sheet(window: MainWindow, bench: SurveyBench, qtbot: QtBot) -> None:
    """Chosen beside the sheet, the relief and the traces fill it; the readings bring the hub face back."""
    for name, view in (("faces", bench.faces.view), ("runout", bench.runout.view), ("readings", bench.sheet)):
        bench.show_side(name)
        assert bench.shown.currentWidget() is view and view.isVisible() and view.width() > bench.width() // 2
    window.resize(900, 560)
    entry = bench.entry
    qtbot.waitUntil(lambda: entry.take.geometry().left() >= entry.value.geometry().right(), timeout=5000)
    assert entry.picture.isHidden()


def test_the_picture_shows_how_it_is_taken(window: MainWindow) -> None:
    """Every kind and sense of reading has its own picture and its words; a reading taken again has that of its kind."""
    window.show_bench("survey")
    picture = window.front.entry.picture
    asks = [ReadingAsk("distance", ("a", "b"), sense) for sense in ("near-near", "far-far", "near-far", "centres")]
    asks += [ReadingAsk(kind, ("a", "b")) for kind in ("diameter", "depth", "straightedge", "sweep", "direction")]
    seen, said = [], set()
    for ask in asks:
        picture.show_ask(ask)
        seen.append(picture.grab().toImage())
        said.add(picture.accessibleName())
    assert all(one != other for k, one in enumerate(seen) for other in seen[:k]) and len(said) == len(asks)
    for name, kind in (("features", "diameter"), ("directions", "direction"), ("distances", "distance")):
        assert kind_of_ask(ReadingAsk("again", ("a", "b"), list=name)) == kind
    window.front.entry.show_ask(None, "mm")
    assert picture.isHidden()
