"""What a person says once, by a button: nothing else is near, bought as one, swept on the car; each is taken back the same way."""

from PySide6.QtWidgets import QPushButton, QWidget

from bicentra.app.window import MainWindow
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from tests.app.conftest import Opener


def button(of: QWidget, words: str) -> QPushButton:
    """The newest button whose text begins so: one that was replaced is deleted a little later."""
    return [one for one in of.findChildren(QPushButton) if one.text().startswith(words)][-1]


def test_sayings_are_written_and_taken_back(open_window: Opener, demo: Job) -> None:
    """Each saying stands in the job after one press and is gone after another; undo brings it back."""
    window = open_window(with_edits(demo, (("rotor.kind", "two-piece"), ("knuckle.obstacles_none", False))))
    for sheet, words, read in (
        ("knuckle", "Nothing else is near", lambda: window.study.job.knuckle.obstacles_none),
        ("rotor", "Ring and hat bought as one", lambda: window.study.job.rotor.assembled),
    ):
        window.show_panel(sheet)
        button(window.panels[sheet], words).click()
        assert read()
        button(window.panels[sheet], f"Yes: {words[0].lower()}").click()
        assert not read()
        window.study.undo()
        assert read()


def test_where_the_rotor_was_swept(window: MainWindow) -> None:
    """The runout side asks it beside the sweep; the desk writes it into that sweep alone."""
    window.show_bench("survey")
    bench = window.benches.named("survey")
    bench.show_side("runout")

    def where() -> dict[str, str]:
        return {sweep.on: sweep.where for sweep in bench.desk.survey.sweeps}

    before = where()
    assert before["rotor-face"] == "bench"
    button(bench.runout, "The rotor was swept on the car").click()
    assert where() == {**before, "rotor-face": "on-car"}
    button(bench.runout, "The rotor was swept on the car").click()
    assert where() == before
