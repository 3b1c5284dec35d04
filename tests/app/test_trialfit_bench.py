"""The trial fit bench in the real window: begin, type the gaps, pull shims, do the move, read again, lock."""

from pathlib import Path

import pypdfium2
import pytest
from PySide6.QtCore import QPointF, Qt
from PySide6.QtWidgets import QComboBox, QLabel, QLineEdit
from pytestqt.qtbot import QtBot

from bicentra.app import dialogs
from bicentra.app.main import make_window
from bicentra.app.practice_dialogs import AnswerDialog, PracticeDialog, past_text
from bicentra.app.trialfit.bench import TrialfitBench
from bicentra.app.window import MainWindow
from bicentra.core.base.records import replace
from bicentra.core.drawing.model import OLD
from bicentra.core.parts.corners import job_of
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.trial import GAPS, Between, Gaps, Trial
from bicentra.core.parts.vehicle import Vehicle
from bicentra.core.practice.truth import truth_of
from bicentra.core.trialfit.log import CornerState, prints_of
from bicentra.core.trialfit.set_up import BEFORE_LOCK
from bicentra.study.desks.practice import Answer
from bicentra.study.document.next_step import after_lock, is_locked, next_step
from bicentra.study.document.starting import demo_job, demo_vehicle, example_vehicle, results, results_file
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


def look_at_all(bench: TrialfitBench, monkeypatch: pytest.MonkeyPatch) -> None:
    """Answer what is looked at once before a lock: nothing wrong."""
    monkeypatch.setattr(dialogs, "ask_inspection", lambda *_: dialogs.NOTHING)
    for name in BEFORE_LOCK:
        assert bench.desk is not None and bench.desk.advice.target == name
        bench.do_next()
    assert bench.desk.trial is not None and bench.desk.trial.checked[-4:] == BEFORE_LOCK


def test_a_whole_trial(bench: TrialfitBench, qtbot: QtBot, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
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
    assert desk.trial.shims_mm.first == (0.76, 0.5) and "too far outboard" in bench.card.text
    move = desk.move
    assert (
        move is not None and move.plan.first == (0.5,) == move.plan.second and move.plan.offset == pytest.approx(-0.06)
    )
    assert "take out 0.76 mm" in bench.card.text and "Lock" in bench.lock_button.text()
    sense = {"lug": "between lug and bracket moves", "ear": "between bracket and ear moves"}
    for _ in range(
        len(desk.fit.moves) if desk.fit is not None else 0
    ):  # what is said of shims is said of the place they go to
        assert desk.move is not None and sense[desk.move.plan.place] in bench.card.text
        bench.card.turned.emit(1)
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
    assert desk.fit.standing.missing == () and desk.fit.standing.state is CornerState.CENTRED
    look_at_all(bench, monkeypatch)
    bench.do_next()
    assert (
        desk.trial.locked and desk.fit.standing.state is CornerState.LOCKED and bench.state.text() == "Trial 2: Locked"
    )
    assert "front left" in window.footer.next_label.text() and window.footer.next_button.text() == "Go there"
    assert (
        window.study.trial_findings and window.bench_bar.buttons["trialfit"].state.open == 1
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
    preview = desk.preview
    assert (
        preview is not None
        and preview.first == preview.second == (0.25, 0.25, 0.2)
        and preview.offset == pytest.approx(0.1)
    )
    assert "12 mm needed" in bench.card.text and bench.card.do_button.isHidden() and len(desk.trials) == 1
    qtbot.mouseClick(bench.card.back_button, Qt.MouseButton.LeftButton)
    assert desk.preview is None
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
    text: list[str] = []
    bench.refused.connect(lambda _path, why: text.append(why))
    assert not bench.attempt(lambda desk: desk.typed("stack:lug:first", "99"), "x") and "0.76 + 0.25" in text[0]
    assert not bench.attempt(lambda desk: desk.add_stock("thick"), "x")
    assert not bench.attempt(lambda desk: desk.typed(f"trials[0].gaps_mm.{GAPS[1]}", "-3"), "x")
    hold(bench, "float new", "9")
    assert len(text) == 4 and "two lengths" in text[-1]


def test_a_gauge_answers_gap_by_gap(bench: TrialfitBench, qtbot: QtBot) -> None:
    """What a line gauge sends goes where the next gap is read; the simulated one plays a corner, and is taken by practice jobs alone.
    A digit typed anywhere opens the field of the next gap."""
    bench.begin()
    bench._field.close()
    desk = bench.desk
    assert desk is not None and desk.trial is not None
    ask = bench._gap_ask()
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


def practice_window(
    open_window: Opener, monkeypatch: pytest.MonkeyPatch, fault: str
) -> tuple[MainWindow, TrialfitBench, int]:
    """The window on the first practice corner behind which ``fault`` is hidden, its bench, and the corner's number."""
    seed = next(seed for seed in range(500) if truth_of(seed).faults == (fault,))
    window = open_window()
    monkeypatch.setattr(dialogs, "ask_practice", lambda *_: (seed, 1))
    window.practise()
    bench: TrialfitBench = window.benches.named("trialfit")
    return window, bench, seed


def test_a_whole_practice_by_do_it_alone(open_window: Opener, monkeypatch: pytest.MonkeyPatch) -> None:
    """A corner with a wheel weight that touches, done by pressing *Do it* alone: nuts, gaps, shims, tip gap, runout, turn, weight,
    lock. Nothing of it can be undone; then the answer, step by step, the result kept as locked, and on to another corner."""
    window, bench, seed = practice_window(open_window, monkeypatch, "weight")
    assert not bench.strip.isHidden() and "Hint: Turn it once round" in bench.strip.note.text()
    assert bench.practice is not None and bench.practice.run is not None and bench.begin_button.isHidden()
    desk, current_ask = bench.desk, list[str]()
    assert desk is not None
    while bench.practice.open and desk.advice.kind != "done":
        current_ask.append(f"{desk.advice.kind} {desk.advice.target}")
        minutes = bench.practice.run.minutes
        window.do_next()
        assert len(current_ask) < 60 and (
            bench.practice.run.minutes > minutes or current_ask[-1].split()[0] in ("set", "lock")
        )
    assert (
        current_ask[0] == "set rotor_nuts"
        and "inspect weight" in current_ask
        and "read tip_gap_mm" in current_ask
        and current_ask[-1] == "lock "
    )
    assert desk.trial is not None and desk.trial.locked and bench._field.editor is None
    spent = bench.practice.run
    for _ in range(40):
        window.study.undo()
    assert bench.practice.run.steps == spent.steps and bench.practice.run.minutes == spent.minutes
    window.do_next() if not desk.trial.locked else None
    before, shown = results(), list[Answer]()
    monkeypatch.setattr(dialogs, "show_answer", lambda _, answer: shown.append(answer) or False)
    bench.hands.show_answer()
    (answer,) = shown
    assert answer.locked and answer.missed == () and [line.title for line in answer.yours][1] == "4 gaps read"
    assert any("too far" in line.text for line in answer.yours) and len(answer.careful) > 5
    assert bench.strip.note.text().startswith("Locked after") and not bench.strip.deeds.isEnabled()
    assert len(results()) == len(before) + 1 and results()[-1].locked and "locked after" in past_text(results())
    bench.hands.show_answer()
    assert len(results()) == len(before) + 1
    sheet = AnswerDialog(window, answer)
    assert sheet.yours.rowCount() == len(answer.yours) and sheet.careful.rowCount() == len(answer.careful)
    monkeypatch.setattr(dialogs, "ask_practice", lambda *_: (seed + 1, 2))
    monkeypatch.setattr(dialogs, "show_answer", lambda *_: True)
    bench.hands.show_answer()
    assert window.study.job.practice_run is not None and window.study.job.practice_run.level == 2
    path = Path(str(results_file())).with_name("log.pdf")
    write_paper("fit-log", window.study.solution, path)
    assert "PRACTICE" in pypdfium2.PdfDocument(path)[0].get_textpage().get_text_range()
    dialog = PracticeDialog(window, 2)
    assert dialog.chosen[1] == 2 and f"corner {seed}" in dialog.past.text()


def test_giving_up_is_asked_and_kept(open_window: Opener, monkeypatch: pytest.MonkeyPatch) -> None:
    """The answer before the lock is asked about first; said no nothing ends, said yes the run is kept as given up."""
    window, bench, _ = practice_window(open_window, monkeypatch, "burr")
    answers, shown = [False, True], list[Answer]()
    monkeypatch.setattr(dialogs, "ask_give_up", lambda _: answers.pop(0))
    monkeypatch.setattr(dialogs, "show_answer", lambda _, answer: shown.append(answer) or False)
    bench.hands.show_answer()
    assert bench.practice is not None and bench.practice.open and not shown
    bench.hands.show_answer()
    assert not bench.practice.open and not shown[0].locked and shown[0].missed
    assert results()[-1].locked is False and "given up after" in past_text(results())
    assert bench.strip.note.text().startswith("Given up after")
    run = window.study.job.practice_run
    window.do_next()
    bench.strip.inspected.emit("clean")
    assert window.study.job.practice_run == run


def test_a_cure_makes_the_gaps_old(open_window: Opener, monkeypatch: pytest.MonkeyPatch, qtbot: QtBot) -> None:
    """What is found on a practice corner makes the gaps grey and asks for them again; typed shims are tried out, not slipped in."""
    window, bench, _ = practice_window(open_window, monkeypatch, "burr")
    desk, practice = bench.desk, bench.practice
    assert desk is not None and practice is not None
    hold(bench, "rotor_nuts", "4")
    for name in GAPS:
        bench.strip.read.emit(name)
    bench._type_over("stack:lug:first", bench.rect().toRectF())
    type_in(bench, qtbot, "0.25 + 0.25")
    assert desk.preview is not None and desk.trial is not None and desk.trial.shims_mm.first == (0.5, 0.5)
    bench.card.back_button.click()
    hold(bench, "runout_mm", "0.05")
    assert desk.trial.runout_mm is None  # the corner answers that itself
    bench.strip.inspected.emit("clean")
    assert "stoned off" in bench.strip.note.text() and set(desk.trial.read_before) == set(GAPS)
    assert (
        bench.card.head.text() == "Read again" and "stoned off" in bench.card.text and bench.card.do_button.isHidden()
    )
    label = next(d for d in bench.view.drawing.dimensions if d.edits.endswith("leading_outboard"))
    assert label.verdict == OLD and label.text.endswith("before")
    window.do_next()
    assert set(desk.trial.read_before) == set(GAPS[1:])


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
    assert bench.desk.fit is not None and bench.desk.fit.standing.state is CornerState.LOCKED
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


def test_readings_that_contradict_each_other(
    bench: TrialfitBench, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Slot less rotor leaves 3.00: a pair of 3.7 leaves the card with nothing but what to read again, the doubted gap open; typed
    right the advice is back. Four gaps that agree on 6.05 are blamed on slot or rotor. One button blanks all four."""
    bench.begin()
    read(bench, qtbot, "2.2", "0.8", "2.2", "1.5")
    desk = bench.desk
    assert desk is not None and desk.trial is not None and desk.fit is not None and desk.fit.doubted
    assert bench.card.head.text() == "Read again" and bench.card.do_button.isHidden()
    for word in ("thinner", "thicker", "Face", "shims in all", "moves the caliper"):
        assert word not in bench.card.text
    assert "add up to 3.70 mm" in bench.next_sentence() and "add up to 3.70 mm" in bench.card.text
    qtbot.waitUntil(lambda: bench._field.editor is not None)
    editor = bench._field.editor
    assert editor is not None and editor.text() == "1.5 mm"  # the doubted gap, opened by itself
    drag_before = desk.preview
    desk.preview_of("stack:lug:first", 1.0)
    assert desk.preview is drag_before
    read(bench, qtbot, "0.8")
    assert not desk.fit.doubted and bench.card.head.text().startswith("Next shims")
    bench.card.asked.emit("again")
    assert desk.trial.gaps_mm.leading_outboard is None
    read(bench, qtbot, "3.02", "3.03", "3.02", "3.03")
    assert "slot width and rotor thickness" in bench.next_sentence() and desk.advice.target == "sizes"
    monkeypatch.setattr(dialogs, "ask_inspection", lambda *_: dialogs.FOUND)
    wanted: list[str] = []
    bench.sheet_wanted.connect(wanted.append)
    bench.do_next()
    assert wanted == ["caliper"]


def test_a_gap_too_wide_is_asked_about(bench: TrialfitBench, qtbot: QtBot, monkeypatch: pytest.MonkeyPatch) -> None:
    """39 mm where 3.00 are left: typed or sent by a gauge it is asked about first; said no it is not taken."""
    bench.begin()
    desk, current_ask, say = bench.desk, list[str](), [False, False, True]
    monkeypatch.setattr(dialogs, "ask_wide_gap", lambda _, text: current_ask.append(text) or say.pop(0))
    assert desk is not None
    read(bench, qtbot, "39")
    assert (
        desk.trial is not None and desk.trial.gaps_mm == Gaps() and "leaves 3.00 mm beside the rotor" in current_ask[0]
    )
    read(bench, qtbot, "3.9")
    assert desk.trial.gaps_mm.leading_outboard == 3.9 and len(current_ask) == 1  # over, but not by a millimetre
    bench.gauged(57.0, "57.0", False)
    assert len(current_ask) == 2 and desk.trial.gaps_mm.leading_inboard is None
    bench.gauged(57.0, "57.0", False)
    assert desk.trial.gaps_mm.leading_inboard == 57.0
    assert "leading end, inboard 57.00 mm" in bench.card.text and "thicker" not in bench.card.text


def test_how_it_was_set_up_belongs_to_the_readings(bench: TrialfitBench, qtbot: QtBot) -> None:
    """Read with one nut, then four: the gaps are from before, grey, asked for again, and nothing locks; it was a slip: they count."""
    bench.begin()
    hold(bench, "rotor_nuts", "1")
    read(bench, qtbot, "1.5", "1.5", "1.5", "1.5")
    hold(bench, "rotor_nuts", "4")
    desk = bench.desk
    assert desk is not None and desk.trial is not None and desk.fit is not None
    assert "The rotor's nuts changed from 1 to 4: all four gaps read before that" in bench.card.text
    assert "before that" in bench.next_sentence() and desk.fit.pose.offset.value != desk.fit.pose.offset.value
    labels = [d for d in bench.view.drawing.dimensions if ".gaps_mm." in d.edits]
    assert len(labels) == 4 and all(d.verdict == OLD and d.text == "1.50 mm before" for d in labels)
    assert (
        any("gaps" in item.place and not item.done for item in desk.needs)
        and bench.line.stops[0].text == "read before a change"
    )
    bench.card.keep_button.click()
    assert desk.trial.read_before == {} and desk.fit.within
    bench.window().study.undo()
    bench.refresh()
    bench.card.again_button.click()
    read(bench, qtbot, "1.45", "1.55", "1.45", "1.55")
    assert desk.trial.read_before == {} and desk.fit.within and "before" not in bench.card.text


def test_the_tick_list_leads_to_the_field(bench: TrialfitBench, qtbot: QtBot) -> None:
    """What the lock needs stands in a list, missing things first; a click goes to the gap, the field or the finding; what was looked at
    is ticked, and the tick taken back."""
    bench.begin()
    bench._field.close()
    bench.show_page("lock")
    page, held = bench.lock_page, bench.held

    def click(word: str) -> None:
        rows = [row for row in range(page.list.count()) if word.lower() in page.list.item(row).text().lower()]
        page.list.setCurrentRow(rows[0])
        qtbot.keyClick(page.list, Qt.Key.Key_Return)

    assert page.head.text() == "12 items to finish before locking" and "✓  Tried on this hub" in page.text
    click("gaps agree")
    assert bench._field.editor is not None
    read(bench, qtbot, "1.5", "1.5", "1.5", "1.5")
    bench.show_page("lock")
    click("two nuts")
    assert bench.pages.currentIndex() == 1 and held.editors["rotor_nuts"].hasFocus()
    click("runout")
    assert held.editors["runout_mm"].hasFocus()
    click("Bolts with the trial's")
    assert bench.pages.currentIndex() == 2
    assert bench.desk is not None and bench.desk.trial is not None
    click("Look under the bolts' heads")
    assert bench.desk.trial.checked == ("heads",) and "✓  Look under" in page.text
    click("Look under the bolts' heads")
    assert bench.desk.trial.checked == ()
    texts = {text.text for text in bench.view.drawing.texts}
    assert {"inboard", "outboard", "leading", "trailing"} <= texts


def test_the_box_adds(bench: TrialfitBench, qtbot: QtBot) -> None:
    """Six of 0.25 and two more are eight; number first is understood; 0.50 mm and 20 thou are two thicknesses that read differently."""
    bench.begin()
    bench._field.close()
    desk, told = bench.desk, list[str]()
    bench.refused.connect(lambda _, why: told.append(why))
    assert desk is not None and desk.trial is not None
    for text in ("0.25 x 6", "0.25 x 2", "8 x 0.5", "0.020 in × 3", "4*20 thou", "1", "2 x 1 mm"):
        bench.box.field.setText(text)
        qtbot.keyClick(bench.box.field, Qt.Key.Key_Return)
    box = {round(loose.thickness_mm or 0.0, 4): loose.count for loose in desk.trial.stock}
    assert box == {0.25: 8, 0.5: 8, 0.508: 7, 1.0: 3} and not told
    lines = [label.text() for label in bench.box.findChildren(QLabel)]
    assert any("0.50 mm  × 8" in line for line in lines) and any("0.508 mm  × 7" in line for line in lines)
    bench.window().study.edit("Inches", (("display_units", "in"),))
    lines = [label.text() for label in bench.box.findChildren(QLabel)]
    assert any("0.0197 in  × 8" in line for line in lines) and any("0.020 in  × 7" in line for line in lines)
    for text in ("2 x 3", "0.25 x 0.5", "0.25 x", "x 3", "0 x 0.25", "1 x 2 x 3", "99 x 0.508 mm"):
        bench.box.field.setText(text)
        qtbot.keyClick(bench.box.field, Qt.Key.Key_Return)
    assert len(told) == 7 and "with its unit" in told[0]


def test_a_locked_corner_is_done(open_window: Opener) -> None:
    """Locked, no bench asks for card: each leads on to the other corner, and once that is locked too to the pedal; the cover says done."""
    window = open_window()
    window.study.edit(
        "Shorter", (("bracket.caliper_bolt_length_mm", 35.0), ("survey", {}), ("bracket.thickness_mm", None))
    )
    window.show_bench("trialfit")
    window.do_next()
    assert is_locked(window.study.job)
    stops = [f.id for f in window.study.solution.findings if f.verdict == "stop"]
    for name in ("survey", "lineup", "parts", "bracket", "trialfit"):
        window.show_bench(name)
        said = window.footer.next_label.text()
        assert "in card" not in said
        assert stops or ("locked and done" in said and "front left" in said), name
    if not stops:
        window.do_next()
        assert window.study.job.corner == "front-left"


def test_both_locked_lead_to_the_pedal(open_window: Opener) -> None:
    """With the corner across locked as well the bracket bench leads to the pedal; a lock that broke there leads back to it."""
    window = open_window()
    vehicle = example_vehicle("trial-fit")
    assert is_locked(Study(vehicle).job)
    right = vehicle.corners["front-right"]

    def with_left(lock: bool) -> Vehicle:
        left = replace(right, trials=(), overrides={})
        whole = replace(vehicle, corners={**vehicle.corners, "front-left": left})
        marks = prints_of(job_of(whole, "front-left")) if lock else {}
        left = replace(left, trials=(Trial(locked=True, lock=marks),))
        return replace(whole, corners={**whole.corners, "front-left": left})

    window.take(Study(with_left(True)))
    window.show_bench("bracket")
    assert "go on with the pedal" in window.footer.next_label.text()
    window.do_next()
    assert window.benches.front == "pedal"
    window.take(Study(with_left(False)))
    window.show_bench("lineup")
    window.do_next()
    assert window.study.job.corner == "front-left"


def test_a_lock_that_lacks_something_is_not_called_done() -> None:
    """A file that says locked, its rotor held by one nut: no bench and no cover calls that corner done."""
    study = Study(example_vehicle("trial-fit"))
    assert "locked and done" in next_step(study.solution).sentence
    trials = (*study.job.trials[:-1], replace(study.job.trials[-1], rotor_nuts=1))
    loose = Study(replace(study.job, trials=trials))
    assert is_locked(loose.job) and after_lock(loose) is None and "done" not in next_step(loose.solution).sentence
