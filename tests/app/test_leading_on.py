"""The foot of the window leads on: from an empty job to the template, from the demo's opening to its papers, from any blank bench."""

from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtWidgets import QApplication, QLineEdit
from pytestqt.qtbot import QtBot

from bicentra.app import dialogs
from bicentra.app.bench_list import BENCHES
from bicentra.app.papers import PaperMaker
from bicentra.app.survey import commands
from bicentra.app.survey.bench import SurveyBench
from bicentra.app.window import MainWindow
from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.inputs.required_inputs import example_job, required_inputs
from bicentra.core.parts.edits import get_value
from bicentra.core.parts.vehicle import Corner
from bicentra.core.survey.corner import survey_corner
from bicentra.core.survey.use import takeover
from bicentra.study.document.leading import OF_CORNER, TABLE, Place, lead
from bicentra.study.document.next_step import NextStep, finding_key, next_step
from bicentra.study.document.starting import demo_vehicle, empty_job, empty_vehicle
from bicentra.study.document.study import Study
from bicentra.study.gauges.simulated import DemoCorner
from tests.app.conftest import Opener


@pytest.fixture
def made(monkeypatch: pytest.MonkeyPatch) -> list[str]:
    """The papers that were asked for; no file dialog opens, a survey is taken over as it is."""
    kinds: list[str] = []
    monkeypatch.setattr(PaperMaker, "make", lambda _maker, kind: kinds.append(kind) or True)
    monkeypatch.setattr(commands, "ask_takeover", lambda *_: True)
    return kinds


def open_field(window: MainWindow) -> QLineEdit | None:
    """Return the field that waits for a value, if there is one."""
    field = QApplication.focusWidget()
    return field if isinstance(field, QLineEdit) and window.isAncestorOf(field) else None


def answer(window: MainWindow, qtbot: QtBot, corner: DemoCorner) -> None:
    """Type what is true into the field that is open: of the demo's corner in its survey, else an example's size."""
    field, front = open_field(window), window.front
    if field is None:
        return
    if isinstance(front, SurveyBench):
        ask = front.desk.current_ask
        played = corner.value_of(ask) if ask is not None else None
        text = f"{played[0]:.2f}" if played is not None else ""
    else:
        left = required_inputs(window.study.job)
        text = str(get_value(example_job(window.study.job), left[0].path)) if left else "12"
    if text:
        field.setText(text)
        qtbot.keyClick(field, Qt.Key.Key_Return)
        qtbot.wait(20)


def settled(window: MainWindow) -> bool:
    """Whether survey and guesses have been carried to the findings, and what to measure next is known."""
    return window.study.assessment is not None and (window.study.missing is not None or not window.study.doubted)


def test_from_an_empty_job_to_the_template(open_window: Opener, qtbot: QtBot, made: list[str]) -> None:
    """Ctrl+Enter, and a value wherever a field opens for one: ten sizes, then the template, with measuring on as the other way."""
    window, corner = open_window(empty_job()), DemoCorner()
    for _ in range(3):
        qtbot.keyClick(window, Qt.Key.Key_Return, Qt.KeyboardModifier.ControlModifier)
        qtbot.wait(20)
        for _ in range(12):
            answer(window, qtbot, corner)
        if made:
            break
        qtbot.waitUntil(lambda: settled(window))
        assert "outline is ready" in window.footer.next_label.text() and "waits" in window.footer.next_label.text()
        assert window.footer.next_button.text() == "Print the template" and window.footer.other_button.isVisible()
    assert made == ["pdf"] and not required_inputs(window.study.job)
    window.footer.other_button.setFocus()
    window.do_next()
    qtbot.waitUntil(lambda: bool(window.bench.missing.rows) or window.study.missing == ())


def test_from_the_demo_to_its_papers_and_the_lock(open_window: Opener, qtbot: QtBot, made: list[str]) -> None:
    """Two remedies, the wrong reading measured again, the survey used, the template, the trial locked, the next corner."""
    window, corner = open_window(demo_vehicle()), DemoCorner()
    seen: list[tuple[str, str]] = []
    start = window.study.job.corner
    for _ in range(24):
        qtbot.waitUntil(lambda: window.study.assessment is not None)
        seen.append((window.benches.front, window.footer.next_label.text()))
        window.do_next()
        qtbot.wait(20)
        answer(window, qtbot, corner)
        if window.study.job.corner != start:
            break
    assert made and window.study.job.corner != start, seen
    assert len(seen) == len(set(seen)), seen  # nothing is said twice: each button leads on
    assert {"lineup", "survey", "trialfit"} <= {bench for bench, _ in seen}


@pytest.mark.parametrize("name", [bench.name for bench in BENCHES])
def test_every_blank_bench_leads_on(name: str, open_window: Opener, qtbot: QtBot) -> None:
    """With nothing measured each bench says one thing, and its button opens a field, asks a question or goes where it is done."""
    window = open_window(empty_job())
    window.show_bench(name)
    qtbot.wait(20)
    step = window._next
    assert step.sentence and step.button and "anything clears" not in step.sentence
    window.do_next()
    qtbot.wait(50)
    if name == "survey":
        assert [feature.name for feature in window.front.desk.survey.features] == ["pilot"]
    assert window.benches.front != name or open_field(window) is not None, step.sentence


def test_a_stop_that_was_looked_at_is_never_called_clear() -> None:
    """What was shown is not said again, but nobody is told that all is well while it stands."""
    study = Study(demo_vehicle())
    study.seen |= {finding_key(finding) for finding in study.solution.findings}
    text = next_step(study.solution, True, study.seen).sentence
    assert "stop" in text and "Nothing is cut" in text and "clears" not in text
    assert any(finding.verdict is Verdict.STOP for finding in study.solution.findings)


def test_the_table_serves_every_bench() -> None:
    """Each bench of the window stands in the table; those of one corner lead on once it is locked."""
    served = {name for benches, _ in TABLE for name in benches}
    assert served == {bench.name for bench in BENCHES} and set(OF_CORNER) <= served
    assert Study(empty_vehicle()).seen == set()


def test_a_template_that_was_not_written_is_offered_again(open_window: Opener, monkeypatch: pytest.MonkeyPatch) -> None:
    """Given up in the file dialog the template is not taken for printed; no sentence sends anyone on without it."""
    window = open_window()
    monkeypatch.setattr(dialogs, "ask_save", lambda *_: None)
    step = NextStep("ready", paper="pdf", seen="pdf")
    window.do_step(step)
    assert "pdf" not in window.study.seen
    monkeypatch.setattr(PaperMaker, "write", lambda *_: None)
    monkeypatch.setattr(dialogs, "ask_save", lambda *_: Path("/nowhere/template.pdf"))
    window.do_step(step)
    assert "pdf" in window.study.seen


def test_after_the_template_a_stop_is_still_a_stop() -> None:
    """Everything looked at and the template printed: with a stop open the car is not what comes next."""
    study = Study(demo_vehicle())
    study.seen |= {finding_key(finding) for finding in study.solution.findings} | {"pdf"}
    step = lead(study, Place(bench="lineup"))
    assert "still open" in step.sentence and "nothing is cut" in step.sentence and step.plan and not step.bench


def test_a_borrowed_corner_is_measured_first() -> None:
    """Its one caution leads to the survey; a survey that places every lug makes the knuckle this corner's own."""
    vehicle = demo_vehicle()
    study = Study(replace(vehicle, corners={**vehicle.corners, "front-left": Corner()}))
    study.go_to("front-left")
    step = lead(study, Place("lineup"))
    assert step.bench == "survey" and "borrowed" in step.sentence and step.finding is not None
    study.seen.add(step.seen)
    assert lead(study, Place("lineup")).bench != "survey"
    own = Study(vehicle).job
    lent, here = replace(own, borrowed=("hub", "knuckle")), survey_corner(own, own.corner)
    assert dict(takeover(lent, here).edits)["borrowed"] == ("hub",)
    assert "borrowed" not in dict(takeover(own, here).edits)
