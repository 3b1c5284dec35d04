"""The start sheet, the rail, the cover sheet, the sheets of the parts: driven in the real window."""

from pathlib import Path

import pytest
from PySide6.QtCore import QPoint, QPointF, QSettings, Qt
from pytestqt.qtbot import QtBot

from bicentra.app import dialogs
from bicentra.app.bench_list import BENCHES
from bicentra.app.cover.bench import CoverBench
from bicentra.app.main import make_window
from bicentra.app.panels.section import OutlineDialog
from bicentra.app.sheets import sheet_of
from bicentra.app.shell import Shell
from bicentra.app.start.bench import StartBench
from bicentra.app.widgets.fields import QuantityField
from bicentra.app.window import MainWindow
from bicentra.core.base.finding import Verdict
from bicentra.core.base.registry import KINDS
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.corners import job_of
from bicentra.core.parts.job import Job
from bicentra.study.document import store
from bicentra.study.document.cover import bench_of, bench_states, recent_job
from bicentra.study.document.starting import Start, demo_vehicle, empty_job, empty_vehicle, new_vehicle
from bicentra.study.document.study import Study
from tests.app.conftest import Opener

ORDER = [bench.name for bench in BENCHES]


@pytest.fixture
def recents(tmp_path: Path) -> tuple[Path, ...]:
    """A whole job, an empty one and a broken one, the broken one first in the list."""
    paths = tuple(tmp_path / f"{name}.bicentra.json" for name in ("whole", "empty", "broken"))
    store.save(demo_vehicle(), paths[0])
    store.save(empty_vehicle(), paths[1])
    paths[2].write_text("{")
    for path in paths:
        store.remember_file(path)
    return paths


def start_of(window: MainWindow) -> StartBench:
    """The start sheet in front."""
    window.show_start()
    sheet = window.front
    assert isinstance(sheet, StartBench)
    return sheet


def test_the_start_sheet_shows_the_last_jobs(qtbot: QtBot, open_window: Opener, recents: tuple[Path, ...]) -> None:
    """Each with its picture, verdict and next step; a broken file says why; nothing of a job stands round the sheet."""
    window = open_window(empty_job())
    sheet = start_of(window)
    assert [card.title for card in sheet.cards] == [
        "broken.bicentra.json",
        "empty.bicentra.json",
        "whole.bicentra.json",
    ]
    qtbot.waitUntil(lambda: sheet.cards[2].verdict is Verdict.STOP, timeout=20000)
    broken, empty, whole = sheet.cards
    assert "Cannot be used" in broken.accessibleName() and broken.drawing is None
    assert "10 sizes to go" in empty.lines[0] and whole.drawing is not None and "2 stop" in whole.lines[0]
    assert window.bench_bar.isHidden() and window.footer.isHidden() and not window.isHidden()
    qtbot.mouseClick(whole, Qt.MouseButton.LeftButton)
    assert window.study.path == recents[0] and window.benches.front == "lineup" and not window.bench_bar.isHidden()


def test_a_broken_recent_job_leaves_the_start_sheet(
    qtbot: QtBot, open_window: Opener, recents: tuple[Path, ...], monkeypatch: pytest.MonkeyPatch
) -> None:
    """What cannot be used is told, and the sheet stays."""
    told: list[str] = []
    monkeypatch.setattr(dialogs, "warn", lambda _parent, _title, text: told.append(text))
    window = open_window(empty_job())
    qtbot.mouseClick(start_of(window).cards[0], Qt.MouseButton.LeftButton)
    assert told and window.benches.front == "start" and recents[2].name in told[0]


def test_closing_a_job_goes_back_to_the_start(
    open_window: Opener, recents: tuple[Path, ...], monkeypatch: pytest.MonkeyPatch
) -> None:
    """Unsaved changes are asked about; staying stays; the last bench comes back with the next job."""
    window = open_window()
    window.show_bench("bracket")
    window.change("Turn", (("fit.clock_deg", 190.0),))
    monkeypatch.setattr(dialogs, "ask_unsaved", lambda *_: dialogs.STAY)
    window.close_job()
    assert window.benches.front == "bracket"
    monkeypatch.setattr(dialogs, "ask_unsaved", lambda *_: dialogs.DISCARD)
    window.close_job()
    assert window.benches.front == "start" and not window.study.modified
    window.refresh()  # what is still worked out behind it is not told there
    assert window.header.title.text() == "" and window.windowTitle() == "Bicentra"
    assert window.files.open_path(recents[0]) and window.benches.front == "bracket"


def test_no_recent_job_says_so(open_window: Opener) -> None:
    """Nothing yet: words instead of an empty list, the keys on the first way to begin."""
    sheet = start_of(open_window(empty_job()))
    assert not sheet.cards and not sheet.none.isHidden() and "plate" in sheet.none.text()
    assert sheet.ways["new"].hasFocus() or not sheet.isActiveWindow()


def test_a_recent_job_is_judged_with_its_survey(tmp_path: Path) -> None:
    """What is met on paper alone is not told as met where readings say otherwise."""
    path = tmp_path / "j.bicentra.json"
    store.save(demo_vehicle(), path)
    text = recent_job(path)
    assert text.corner is not None and "caution" in text.corner.text and text.date[:2] == "20"
    assert recent_job(tmp_path / "gone.bicentra.json").fault


def test_every_finding_stands_on_one_bench(demo: Job) -> None:
    """Each kind has a bench; the line-up counts what its list shows; nothing measured is no verdict."""
    assert {bench_of(kind) for kind in KINDS} <= set(ORDER) - {"cover"}
    solution = solve(demo)
    states = bench_states(demo, solution.findings)
    shown = [finding for finding in solution.findings if finding.verdict is not Verdict.OK]
    assert states["cover"].open == states["lineup"].open == len(shown)
    assert states["bracket"].verdict is Verdict.STOP and states["bracket"].text == "Stop, 2 open"
    assert bench_states(empty_job(), ())["survey"].text == "nothing measured here"


def test_the_rail_tells_by_shape_and_folds(open_window: Opener) -> None:
    """Names and states for who cannot see; marks alone in a low window; a click brings the bench."""
    window = open_window()
    assert list(window.bench_bar.buttons) == ORDER
    button = window.bench_bar.buttons["bracket"]
    assert button.accessibleName() == "Bench Bracket: Stop, 2 open" and not button.folded
    window.resize(900, 560)
    assert button.folded and button.sizeHint().width() < 80
    window.resize(1280, 800)
    button.click()
    assert (
        window.benches.front == "bracket" and button.isChecked() and not window.bench_bar.buttons["lineup"].isChecked()
    )


def test_the_cover_shows_every_corner_and_goes_there(qtbot: QtBot, open_window: Opener) -> None:
    """Both measured corners with picture and verdict, the others as nothing yet; a click works on that corner."""
    window = open_window()
    window.show_bench("cover")
    cover = window.front
    assert isinstance(cover, CoverBench)
    cards = cover.chassis.cards
    assert cards["front-right"].isChecked() and cards["front-right"].drawing is not None
    qtbot.waitUntil(lambda: cards["front-left"].verdict is not None, timeout=20000)
    assert cards["rear-left"].verdict is None and "Nothing yet" in cards["rear-left"].accessibleName()
    qtbot.mouseClick(cards["front-left"], Qt.MouseButton.LeftButton)
    assert window.study.job.corner == "front-left" and window.benches.front == "lineup"


def test_the_head_shows_the_vehicle_from_above(qtbot: QtBot, open_window: Opener) -> None:
    """The mark of every corner at the head of each bench, those of the others after a rest; the sheet below it goes there."""
    window = open_window()
    corners = window.corners
    assert corners.verdict_at("front-right") is not None and corners.verdict_at("rear-left") is None
    qtbot.waitUntil(lambda: corners.verdict_at("front-left") is not None, timeout=20000)
    for name in ("survey", "bracket", "parts"):
        window.show_bench(name)
        assert corners.isVisible() and corners.width() >= corners.sizeHint().width()
    corners.grab()
    corners.setFocus()
    qtbot.keyClick(corners, Qt.Key.Key_Space)
    assert corners.sheet.isVisible() and corners.chassis.cards["front-right"].isChecked()
    corners.sheet.grab()
    qtbot.keyClick(corners.chassis.cards["front-left"], Qt.Key.Key_Space)
    assert window.study.job.corner == "front-left" and window.benches.front == "parts" and not corners.sheet.isVisible()
    assert "Front left" in corners.accessibleName()


def test_the_cover_takes_names_and_notes(qtbot: QtBot, open_window: Opener) -> None:
    """Typing is taken by Enter, notes when the sheet is left; both are steps that undo takes back."""
    window = open_window()
    window.show_bench("cover")
    cover = window.front
    assert isinstance(cover, CoverBench)
    cover.fields["drawn_by"].setFocus()
    qtbot.keyClicks(cover.fields["drawn_by"], "A. Fitter f b")
    qtbot.keyClick(cover.fields["drawn_by"], Qt.Key.Key_Return)
    assert window.study.job.drawn_by == "A. Fitter f b"
    qtbot.keyClicks(cover.notes, "Bent lug.")
    window.show_bench("lineup")
    assert "Bent lug." in window.study.job.notes
    window.study.undo()
    window.study.undo()
    assert window.study.job.drawn_by == "" and "Bent lug." not in window.study.job.notes


def test_a_part_opens_its_sheet(qtbot: QtBot, open_window: Opener) -> None:
    """Double click on the rotor opens its sheet; the key folds it; a letter of the menu opens another."""
    window = open_window()
    window.show()
    for tag, name in (
        ("rotor", "rotor"),
        ("lug-1", "knuckle"),
        ("ear-bolt-0", "bracket"),
        ("pad", "caliper"),
        ("clock", ""),
    ):
        assert sheet_of(tag) == name
    view = window.bench.section
    spot = next(
        (x, y) for x in range(20, view.width(), 6) for y in range(60, view.height(), 6)
        if view.feature_at(QPointF(x, y)) == "rotor"
    )  # fmt: skip
    qtbot.mouseDClick(view, Qt.MouseButton.LeftButton, pos=QPoint(*spot))
    assert window.sheets.open == "rotor"
    window.actions_by_name["sheets"].trigger()
    assert window.sheets.open == ""


def test_place_and_bench_are_remembered(qtbot: QtBot, tmp_path: Path) -> None:
    """Size of the window and the bench in front come back with the next start."""
    settings = QSettings(str(tmp_path / "s.ini"), QSettings.Format.IniFormat)
    shell = Shell("a job", settings)
    qtbot.addWidget(shell)
    shell.furnish_with(lambda: make_window(Study(demo_vehicle()), settings))
    shell.show()
    qtbot.waitUntil(lambda: shell.workshop is not None, timeout=20000)
    window = shell.workshop
    assert isinstance(window, MainWindow)
    window.show_bench("survey")
    shell.resize(900, 640)
    assert shell.close()
    again = Shell("a job", settings)
    qtbot.addWidget(again)
    assert (again.width(), again.height()) == (900, 640) and settings.value("bench") == "survey"


def test_sizes_are_typed_on_the_part(qtbot: QtBot, open_window: Opener) -> None:
    """Enter takes a size and asks for the next that is missing; a field lights its dimension; what is wrong stays open and says why."""
    window = open_window(empty_job())
    window.show()
    window.sheets.show_sheet("rotor")
    page = window.sheets.page
    assert page.isVisible() and window.benches.isHidden() and page.missing[0] == "rotor.diameter_mm"
    page.view.ask("rotor.diameter_mm")
    for text, path in (("256", "rotor.diameter_mm"), ("20", "rotor.thickness_mm")):
        editor = page._field.editor
        assert editor is not None
        editor.setText(text)
        qtbot.keyClick(editor, Qt.Key.Key_Return)
        qtbot.waitUntil(lambda before=editor: page._field.editor not in (None, before), timeout=3000)
        assert path not in page.missing
    assert window.study.job.rotor.diameter_mm == 256.0 and window.study.job.rotor.thickness_mm == 20.0
    editor = page._field.editor
    assert editor is not None
    editor.setText("1-3/8")
    qtbot.keyClick(editor, Qt.Key.Key_Return)
    assert page._field.editor is editor and "two ways" in page.how.text()
    window.sheets.made["rotor"].go_to("rotor.centre_bore_mm")
    window.sheets._focused(None, window.sheets.made["rotor"].boxes["rotor.centre_bore_mm"].focusProxy())
    assert page.view_state.lit == {"rotor.centre_bore_mm"} and "Inside jaws" in page.how.text()
    window.show_bench("lineup")
    assert window.sheets.open == "" and not window.benches.isHidden()


def test_every_dimension_has_its_field(open_window: Opener) -> None:
    """Whatever may be typed on a part's drawing is a field of its sheet."""
    window = open_window()
    for name in ("rotor", "caliper", "hub", "knuckle"):
        window.sheets.show_sheet(name)
        drawing = window.sheets.page.view.drawing
        assert drawing is not None
        current_ask = {one.edits for one in drawing.dimensions} | {one.edits for one in drawing.notes}
        assert current_ask - {""} <= set(window.sheets.made[name].boxes)
    window.sheets.show_sheet("hub")
    window.sheets._focused(None, window.sheets.made["hub"].boxes["wheel.offset_mm"].focusProxy())
    assert "Wheel" in window.sheets.page.view.title


def test_an_obstacle_is_asked_for_before_it_is_added(open_window: Opener, monkeypatch: pytest.MonkeyPatch) -> None:
    """Nothing invented: less than three points or none at all add nothing; what is typed is what is there, and its field is gone to."""
    window = open_window()
    window.sheets.show_sheet("knuckle")
    panel, before = window.sheets.made["knuckle"], window.study.job.knuckle.obstacles
    tried: list[str] = []

    def answer(dialog: OutlineDialog) -> int:
        for text in ("", "1 / 2; 3 / 4", "1; 2", "-120 / 80; -100 / 80; -100 / 100"):
            dialog.points.editor.setText(text)
            dialog.add.click()
            tried.append(dialog.points.wrong.text())
        return int(dialog.obstacle is not None)

    monkeypatch.setattr(OutlineDialog, "exec", lambda _self: 0)
    panel._add_obstacle()
    assert window.study.job.knuckle.obstacles == before
    monkeypatch.setattr(OutlineDialog, "exec", answer)
    panel._add_obstacle()
    (new,) = window.study.job.knuckle.obstacles[len(before) :]
    assert new.outline_mm == ((-120.0, 80.0), (-100.0, 80.0), (-100.0, 100.0)) and new.z_min_mm is None
    assert "expected at least 3" in tried[0] and "expected at least 3" in tried[1] and "points such as" in tried[2]


def test_the_same_value_typed_again_gets_its_unit_back(qtbot: QtBot, open_window: Opener) -> None:
    """``20`` over ``20 mm`` is no step, and reads as before."""
    window = open_window()
    window.sheets.show_sheet("rotor")
    box = window.sheets.made["rotor"].boxes["rotor.thickness_mm"]
    assert isinstance(box, QuantityField) and box.editor.text() == "20 mm"
    steps = window.study.history
    box.editor.setFocus()
    box.editor.setText("20")
    qtbot.keyClick(box.editor, Qt.Key.Key_Return)
    assert box.editor.text() == "20 mm" and window.study.history == steps


def test_an_inch_job_begins_with_inch_plate() -> None:
    """The shelf goes with the units; in millimetres it stays metric."""
    assert new_vehicle(Start(units="in")).axles["front"].bracket.shelf == "inch"
    assert job_of(new_vehicle(Start())).bracket.shelf == "metric"


def test_sheets_are_made_ahead(qtbot: QtBot, open_window: Opener) -> None:
    """One after the other while nothing is done; none of them opens by that."""
    window = open_window()
    window.sheets.make_ready()
    qtbot.waitUntil(lambda: len(window.sheets.made) == 6, timeout=20000)
    assert window.sheets.open == "" and window.sheets.isHidden()


def test_a_field_says_what_it_is_needed_for(qtbot: QtBot, open_window: Opener) -> None:
    """After a rest the sheet says what waits for the size in hand; the bolts are drawn while one of their fields has the keys."""
    window = open_window()
    window.show_panel("caliper")
    page, sheet = window.sheets.page, window.sheets.made["caliper"]
    sheet.go_to("caliper.ear_line_to_pad_top_mm")
    window.sheets._focused(None, sheet.boxes["caliper.ear_line_to_pad_top_mm"].focusProxy())
    qtbot.waitUntil(lambda: "Needed for: the bracket to appear" in page.how.text(), timeout=20000)
    assert "trial only" in page.how.text()
    window.show_panel("bracket")
    window.sheets._focused(None, window.sheets.made["bracket"].boxes["bracket.lug_bolt_length_mm"].focusProxy())
    assert page.view.title.startswith("Bolts") and any("length" in note.text for note in page.view.drawing.notes)


def test_groups_fold_and_open_where_they_are_needed(qtbot: QtBot, open_window: Opener) -> None:
    """Of a finished job the groups are folded, of an empty one those with a missing size are not; going to a field opens its group;
    what was folded by hand stays folded when the sheet is made anew."""
    window = open_window(empty_job())
    window.show_panel("knuckle")
    sheet = window.sheets.made["knuckle"]
    assert sheet.sections["Lug 1"].body.isVisible() and sheet.boxes["knuckle.lugs[0].x_mm"].isVisible()
    qtbot.mouseClick(sheet.sections["Lug 1"].head, Qt.MouseButton.LeftButton)
    assert (
        not sheet.boxes["knuckle.lugs[0].x_mm"].isVisible()
        and "folded" in sheet.sections["Lug 1"].head.accessibleName()
    )
    window.change("Add a lug", (("knuckle.lugs", (*window.study.job.knuckle.lugs, window.study.job.knuckle.lugs[0])),))
    assert not sheet.sections["Lug 1"].body.isVisible() and sheet.sections["Lug 2"].body.isVisible()
    sheet.go_to("knuckle.lugs[0].thread")
    assert sheet.boxes["knuckle.lugs[0].thread"].isVisible()
    whole = open_window()
    whole.show_panel("hub")
    assert not whole.sheets.made["hub"].sections["Wheel"].body.isVisible()
