"""The benches in the middle of the window, each built when it is first looked at."""

from typing import TYPE_CHECKING, Protocol

from PySide6.QtWidgets import QStackedWidget, QWidget

from bicentra.app import workers
from bicentra.app.assessor import load_solvers
from bicentra.app.drawing.view_state import ViewState
from bicentra.app.lineup.bench import LineupBench
from bicentra.app.theme import Look
from bicentra.study.document.study import Study

if TYPE_CHECKING:
    from bicentra.app.bracket.bench import BracketBench
    from bicentra.app.parts.bench import PartsBench
    from bicentra.app.survey.bench import SurveyBench
    from bicentra.app.window import MainWindow

BENCHES = (
    ("survey", "Survey", "Measure this corner and check the readings against each other"),
    ("parts", "Parts", "Lay old and new side by side, find the set that fits"),
    ("lineup", "Line-up", "Place caliper and rotor, see what clears"),
    ("bracket", "Bracket", "Every kind of bracket side by side, drawn and solved"),
)


class Bench(Protocol):
    """What every bench can do."""

    view_state: ViewState

    def show_study(self, study: Study) -> None:
        """Work on ``study`` from now on."""

    def refresh(self) -> None:
        """Show the study as it stands."""

    def fit(self) -> None:
        """Show everything."""

    def dress(self, look: Look) -> None:
        """Show the bench in ``look``."""

    def next_sentence(self) -> str:
        """Return what to do next here; empty when the findings say it."""

    def do_next(self) -> None:
        """Do what ``next_sentence`` says."""

    def take_focus(self) -> None:
        """Give the keyboard to what is used first."""


class Benches(QStackedWidget):
    """Holds the line-up from the start and builds the others when they are asked for."""

    def __init__(self, window: "MainWindow", lineup: LineupBench) -> None:
        super().__init__()
        self._window = window
        self._built: dict[str, QWidget] = {"lineup": lineup}
        self.addWidget(lineup)
        self._survey: SurveyBench | None = None
        self._parts: PartsBench | None = None
        self._bracket: BracketBench | None = None

    @property
    def front(self) -> str:
        """The name of the bench in front."""
        return next(name for name, bench in self._built.items() if bench is self.currentWidget())

    def named(self, name: str) -> "Bench":
        """Return the bench called ``name``, built if it is not yet."""
        if name == "survey":
            return self.survey
        if name == "bracket":
            return self.bracket
        return self.parts if name == "parts" else self._window.bench

    @property
    def others(self) -> "tuple[Bench, ...]":
        """The benches that are built, the line-up left out."""
        return tuple(bench for bench in (self._survey, self._parts, self._bracket) if bench is not None)

    def bring(self, name: str) -> "Bench":
        """Bring the bench called ``name`` to the front."""
        bench = self.named(name)
        self.setCurrentWidget(self._built[name])
        return bench

    @property
    def survey(self) -> "SurveyBench":
        """The survey bench."""
        if self._survey is None:
            workers.start(workers.Task("Loading", load_solvers))
            from bicentra.app.survey.bench import SurveyBench

            made = SurveyBench(self._window.look, self._window.settings)
            made.desk_changed.connect(self._window.show_next)
            self._survey = made
            self._put("survey", made)
            made.show_study(self._window.study)
        return self._survey

    @property
    def parts(self) -> "PartsBench":
        """The parts bench."""
        if self._parts is None:
            from bicentra.app.parts.bench import PartsBench

            made = PartsBench(self._window.look, self._window.settings)
            made.lineup_wanted.connect(lambda: self._window.show_bench("lineup"))
            made.changed.connect(self._window.show_next)
            self._parts = made
            self._put("parts", made)
            made.show_study(self._window.study)
        return self._parts

    @property
    def bracket(self) -> "BracketBench":
        """The bracket bench."""
        if self._bracket is None:
            from bicentra.app.bracket.bench import BracketBench

            made = BracketBench(self._window.look)
            made.changed.connect(self._window.show_next)
            self._bracket = made
            self._put("bracket", made)
            made.show_study(self._window.study)
        return self._bracket

    def _put(self, name: str, bench: "SurveyBench | PartsBench | BracketBench") -> None:
        bench.refused.connect(self._window.refused)
        bench.told.connect(lambda text: self._window.say(text, wrong=False))
        self._built[name] = bench
        self.addWidget(bench)

    def close_down(self) -> None:
        """Let go of gauges and searches: the window is closing."""
        if self._survey is not None:
            self._survey.close_gauge()
        if self._parts is not None:
            self._parts.finder.stop()
