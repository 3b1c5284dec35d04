"""The trial fit bench in the real window: begin, type the gaps, pull shims, do the move, read again, lock."""

from pathlib import Path

import pypdfium2
import pytest
from PySide6.QtCore import QPointF, Qt
from PySide6.QtWidgets import QComboBox, QLineEdit
from pytestqt.qtbot import QtBot

from bicentra.app import dialogs
from bicentra.app.main import make_window
from bicentra.app.practice_dialog import PracticeDialog, past_told
from bicentra.app.trialfit.bench import TrialfitBench
from bicentra.app.window import MainWindow
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.trial import GAPS, Between
from bicentra.core.practice.truth import truth_of
from bicentra.core.trialfit.log import State
from bicentra.study.document.practice import results, results_file
from bicentra.study.document.starting import demo_job, demo_vehicle
from bicentra.study.document.study import Study
from bicentra.study.gauges.simulated import DemoCorner
from bicentra.study.papers.writing import write_paper
from tests.app.conftest import Opener, drag


@pytest.fixture
def bench(open_window: Opener) -> TrialfitBench:
    """The bench in front, on the demo with its two faults cured."""
    cured = (("survey", {}), ("bracket.thickness_mm", None), ("bracket.caliper_bolt_length_mm", None), ("trials", ()))
    window = open_window(with_edits(demo_job(), cured))
    window.show_bench("trialfit")
    bench: TrialfitBench = window.benches.named("trialfit")
    return bench


def type_in(bench: TrialfitBench, qtbot: QtBot, text: str) -> None:
    """Type into the field that stands over the drawing, and Enter."""
    qtbot.waitUntil(lambda: bench._field.editor is not None)
    editor = bench._field.editor
    assert editor is not None
    editor.setText(text)
    qtbot.keyClick(editor, Qt.Key.Key_Return)


def read(bench: TrialfitBench, qtbot: QtBot, *gaps: str) -> None:
    """Type what is asked for, one after the other, by Enter alone."""
    for gap in gaps:
        type_in(bench, qtbot, gap)
        qtbot.wait(1)


def hold(bench: TrialfitBench, name: str, value: str) -> None:
    """Say one thing about how the trial was held, as a hand does."""
    editor = bench.held.editors[name]
    if isinstance(editor, QComboBox):
        row = editor.findText(value)
        editor.setCurrentIndex(row)
        editor.activated.emit(row)
    else:
        assert isinstance(editor, QLineEdit)
        editor.setText(value)
        editor.editingFinished.emit()


def test_a_whole_trial(bench: TrialfitBench, qtbot: QtBot, tmp_path: Path) -> None:
    """By hand: 0.7 outboard at both ends with 0.76 and 0.5 under each bolt: 0.5 alone leaves 0.06 inboard. Done, read, locked."""
    window = bench.window()
    assert isinstance(window, MainWindow) and "begin a trial" in bench.next_sentence()
    window.do_next()  # begins it, and asks for the first gap
    read(bench, qtbot, "2.2", "0.8", "2.2", "0.8")
    desk = bench.desk
    assert desk is not None and desk.trial is not None and desk.next_blank() == ""
    bench._type_over("stack:lug:first", bench.rect().toRectF())
    type_in(bench, qtbot, "0.76 + 0.5")
    bench._type_over("stack:lug:second", bench.rect().toRectF())
    type_in(bench, qtbot, "0.76 + 0.5")
    assert desk.trial.shims_mm.first == (0.76, 0.5) and "too far outboard" in bench.card.told
    move = desk.move
    assert (
        move is not None and move.plan.first == (0.5,) == move.plan.second and move.plan.offset == pytest.approx(-0.06)
    )
    assert "take out 0.76 mm" in bench.card.told and "Lock" in bench.lock_button.text()
    qtbot.mouseClick(bench.card.do_button, Qt.MouseButton.LeftButton)
    assert len(desk.trials) == 2 and desk.trial.shims_mm.first == (0.5,) and desk.trial.gaps_mm.leading_outboard is None
    assert [(loose.thickness_mm, loose.count) for loose in desk.trial.stock] == [(0.76, 2)]
    bench.do_next()
    read(bench, qtbot, "1.45", "1.55", "1.45", "1.55")
    assert desk.fit is not None and desk.fit.within and desk.fit.followed is not None and desk.fit.followed.follows
    bench.lock()
    assert not desk.trial.locked  # much is missing: the footer says what
    bench.show_page("held")
    for name, value in (
        ("rotor_nuts", "4"), ("bolts", "tight"), ("washers_final", "yes"), ("tip_gap_mm", "2.5"), ("runout_mm", "0.05"),
        ("turned", "free"), ("locker", "removable"), ("tightened", "80 N·m oiled"), ("by", "me"),
    ):  # fmt: skip
        hold(bench, name, value)
    assert desk.fit.standing.missing == () and desk.fit.standing.state is State.CENTRED
    bench.do_next()
    assert desk.trial.locked and desk.fit.standing.state is State.LOCKED and bench.state.text() == "Trial 2: Locked"
    assert (
        window.study.trial_findings and window.rail.buttons["trialfit"].state.open == 1
    )  # a bolt with just its diameter of thread
    window.study.edit("Another rotor", (("rotor.diameter_mm", 258.0),))
    bench.refresh()
    assert "the rotor changed" in bench.state.text()
    for kind, word in (("fit-log", "Trial 2"), ("fit-sheet", "Gap, leading end, outboard")):
        path = tmp_path / f"{kind}.pdf"
        write_paper(kind, window.study.solution, path)
        assert word in pypdfium2.PdfDocument(path)[0].get_textpage().get_text_range()
    write_paper("fit-csv", window.study.solution, tmp_path / "log.csv")
    assert (tmp_path / "log.csv").read_text().splitlines()[2].startswith("2,")


def test_shims_are_pulled_in_thought(bench: TrialfitBench, qtbot: QtBot) -> None:
    """From the design's 0.2, pulling a stack to its right adds what lies ready at both bolts; nothing is in the log until it is done; Escape puts it back."""
    bench.begin()
    read(bench, qtbot, "1.1", "1.9", "1.1", "1.9")
    desk = bench.desk
    assert desk is not None
    bench.box.field.setText("0.25 x 4")
    qtbot.keyClick(bench.box.field, Qt.Key.Key_Return)
    bench.fit()
    handle = next(h for h in bench.view.drawing.handles if h.path == "stack:lug:first")
    at = bench.view.to_px(handle.at)
    drag(bench.view, at, at + QPointF(8.0 * 0.5 * bench.view_state.scale, 0.0))
    wish = desk.wish
    assert wish is not None and wish.first == wish.second == (0.25, 0.25, 0.2) and wish.offset == pytest.approx(0.1)
    assert "12 mm needed" in bench.card.told and bench.card.do_button.isHidden() and len(desk.trials) == 1
    qtbot.mouseClick(bench.card.back_button, Qt.MouseButton.LeftButton)
    assert desk.wish is None
    bench.box.counted.emit(0.25, 0)
    assert desk.trial is not None and desk.trial.stock == ()
    undone = bench.window().study
    undone.undo()
    assert desk.trial.stock[0].count == 4


def test_what_is_typed(bench: TrialfitBench, qtbot: QtBot) -> None:
    """A pad that goes in and one that does not is an interval; a shim nobody measured a question mark; nonsense is refused in words."""
    bench.begin()
    read(bench, qtbot, ">1.2 <1.6")
    desk = bench.desk
    assert desk is not None and desk.trial is not None
    assert (
        desk.trial.bands_mm == {GAPS[0]: Between(least=1.2, most=1.6)}
        and desk.text_of(f"trials[0].gaps_mm.{GAPS[0]}") == ">1.2 mm <1.6 mm"
    )
    desk.typed("stack:ear:second", "0.5 ?")
    assert desk.trial.ear_shims_mm.second == (0.5, None) and desk.text_of("stack:ear:second") == "0.5 mm + ?"
    desk.study.edit("Inches", (("display_units", "in"),))
    was = desk.text_of("stack:ear:second")
    desk.typed("stack:ear:second", was)  # typed again as it stands it is the same, whatever it is read in
    assert desk.trial.ear_shims_mm.second == (pytest.approx(0.5, abs=2e-3), None)
    desk.typed("stack:ear:second", "20 thou + 1/64 in")
    assert desk.trial.ear_shims_mm.second == pytest.approx((0.508, 0.396875))
    desk.study.edit("Millimetres", (("display_units", "mm"),))
    told: list[str] = []
    bench.refused.connect(lambda _path, why: told.append(why))
    assert not bench.attempt(lambda desk: desk.typed("stack:lug:first", "99"), "x") and "0.76 + 0.25" in told[0]
    assert not bench.attempt(lambda desk: desk.add_stock("thick"), "x")
    assert not bench.attempt(lambda desk: desk.typed(f"trials[0].gaps_mm.{GAPS[1]}", "-3"), "x")
    hold(bench, "float new", "9")
    assert len(told) == 4 and "two lengths" in told[-1]


def test_a_gauge_answers_gap_by_gap(bench: TrialfitBench, qtbot: QtBot) -> None:
    """What a line gauge sends goes where the next gap is read; the simulated one plays a corner, and is taken by practice jobs alone.
    A digit typed anywhere opens the field of the next gap."""
    bench.begin()
    bench._field.close()
    desk = bench.desk
    assert desk is not None and desk.trial is not None
    ask = bench._gap_asked()
    assert ask is not None and DemoCorner().value_of(ask) == pytest.approx((1.2, 0.02))
    bench.gauged(1.23, "1.23", False)
    assert desk.trial.gaps_mm.leading_outboard == 1.23
    bench.gauged(1.81, "1.81", True)  # the demo is a practice job
    assert desk.trial.gaps_mm.leading_inboard == 1.81
    desk.study.edit("A real job", (("practice", False),))
    bench.gauged(1.5, "1.5", True)
    assert desk.trial.gaps_mm.trailing_outboard is None and "practice job" in bench.gauge.state.text()
    qtbot.keyClick(bench, Qt.Key.Key_1)
    assert bench._field.editor is not None and bench._field.editor.text() == "1"
    qtbot.keyClicks(bench._field.editor, ".4")
    qtbot.keyClick(bench._field.editor, Qt.Key.Key_Return)
    assert desk.trial.gaps_mm.trailing_outboard == 1.4


def test_the_other_corner_starts_from_the_first(open_window: Opener) -> None:
    """What was learnt at one corner is the first guess at the other, and never its proof."""
    window = open_window(with_edits(demo_job(), (("trials", ()),)))
    window.show_bench("trialfit")
    bench = window.benches.named("trialfit")
    assert isinstance(bench, TrialfitBench)
    bench.begin()
    bench.desk.typed("stack:lug:first", "0.5")
    bench.desk.add_stock("0.25 x 6")
    study: Study = window.study
    study.go_to("front-left")
    bench.show_study(study)
    bench.begin()
    trial = study.job.trials[-1]
    assert trial.shims_mm.first == (0.5,) and "First guess from front right" in trial.notes and not trial.locked
    assert trial.gaps_mm.leading_outboard is None


def test_a_whole_practice(open_window: Opener, monkeypatch: pytest.MonkeyPatch, qtbot: QtBot) -> None:
    """A corner with a wheel weight that touches: read, shim, find it, lock; then the truth, the minutes, and the result kept."""
    seed = next(seed for seed in range(500) if truth_of(seed).faults == ("weight",))
    window = open_window()
    monkeypatch.setattr(dialogs, "ask_practice", lambda *_: (seed, 1))
    window.practise()
    bench = window.benches.named("trialfit")
    assert isinstance(bench, TrialfitBench) and bench.practice is not None and bench.practice.run is not None
    assert (
        not bench.strip.isHidden()
        and "Hint: Turn it once round" in bench.strip.told.text()
        and bench.begin_button.isHidden()
    )
    hold(bench, "rotor_nuts", "4")
    desk = bench.desk
    assert desk is not None
    for _ in range(4):
        for name in GAPS:
            bench.do_next() if desk.next_blank() else None
            assert name
        if desk.fit is not None and desk.fit.settled:
            break
        qtbot.mouseClick(bench.card.do_button, Qt.MouseButton.LeftButton)
    assert desk.fit is not None and desk.fit.settled and bench._field.editor is None
    for name in ("tip_gap_mm", "runout_mm", "turned"):
        bench.strip.read.emit(name)
    assert desk.trial is not None and desk.trial.touches == "a wheel weight"
    bench.strip.deed.emit("weight")
    assert bench.strip.told.text() == "They come by clear now."
    bench.strip.read.emit("turned")
    for name, value in (("bolts", "tight"), ("washers_final", "yes"), ("locker", "removable"), ("tightened", "80 N·m")):
        hold(bench, name, value)
    bench.lock()
    assert desk.trial.locked
    before = results()
    bench.lay_open()
    told = bench.strip.told.text()
    assert told.startswith("Locked after") and "Hidden: A wheel weight" in told and not bench.strip.deeds.isEnabled()
    assert len(results()) == len(before) + 1 and f"corner {seed}" in past_told(results())
    bench.lay_open()
    assert len(results()) == len(before) + 1
    log = window.study.solution
    path = Path(str(results_file())).with_name("log.pdf")
    write_paper("fit-log", log, path)
    assert "PRACTICE" in pypdfium2.PdfDocument(path)[0].get_textpage().get_text_range()
    dialog = PracticeDialog(window)
    assert dialog.chosen[1] == 1 and f"corner {seed}" in dialog.past.text()


def test_the_demo_goes_to_locked(open_window: Opener) -> None:
    """Its second trial stands centred and waits for shorter bolts alone; with those it locks, and the cover says so."""
    window = open_window()
    window.show_bench("trialfit")
    bench = window.benches.named("trialfit")
    assert isinstance(bench, TrialfitBench) and "Fit shorter bolts first" in bench.next_sentence()
    window.do_next()
    assert bench.pages.currentIndex() == 2
    bench.lock()
    assert bench.desk is not None and not bench.desk.trials[-1].locked
    window.study.edit("Shorter", (("bracket.caliper_bolt_length_mm", 35.0),))
    assert "lock it" in bench.next_sentence()
    window.do_next()
    assert bench.desk.fit is not None and bench.desk.fit.standing.state is State.LOCKED
    window.show_bench("cover")
    assert any("trial 2: locked" in line for line in window.benches.named("cover").chassis.cards["front-right"].lines)


def test_an_earlier_trial_leads_back_to_the_last(open_window: Opener, qtbot: QtBot, tmp_path: Path) -> None:
    """With an earlier trial in front its move is no advice any more: the sentence says so, and its button goes on."""
    window = make_window(Study(demo_vehicle()), open_window().settings)
    qtbot.addWidget(window)
    window.show()
    window.show_bench("trialfit")
    bench: TrialfitBench = window.benches.named("trialfit")
    bench.show_trial(0)
    assert "an earlier one: go on with the last, number 2" in bench.next_sentence()
    window.do_next()
    assert bench.desk is not None and bench.desk.is_last and "earlier" not in bench.next_sentence()
    window.study.save(tmp_path / "x.bicentra.json")
