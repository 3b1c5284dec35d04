"""The benches in the middle of the window, each built when it is first looked at."""

from collections.abc import Callable
from importlib import import_module
from typing import NamedTuple

from PySide6.QtWidgets import QStackedWidget

from bicentra.app.bench import Bench


class BenchPlace(NamedTuple):
    """One bench: ``name`` of its action and folder, ``title`` on its button, what it is for, and its class."""

    name: str
    title: str
    help: str
    made_by: str


BENCHES = (
    BenchPlace("cover", "Cover", "The vehicle, its corners, and what is open at each", "CoverBench"),
    BenchPlace("survey", "Survey", "Measure this corner and check the readings against each other", "SurveyBench"),
    BenchPlace("parts", "Parts", "Compare old and new, find the set that fits", "PartsBench"),
    BenchPlace("lineup", "Line-up", "Place caliper and rotor, see what clears", "LineupBench"),
    BenchPlace("bracket", "Bracket", "Every kind of bracket side by side, drawn and solved", "BracketBench"),
    BenchPlace(
        "trialfit", "Trial fit", "From four gaps to the right shims, and the log of every trial", "TrialfitBench"
    ),
    BenchPlace("pedal", "Pedal", "From the foot to the road: pressure, travel, balance, master cylinder", "PedalBench"),
)
START = BenchPlace("start", "Start", "Recent jobs, and ways to begin", "StartBench")
"""What lies in front while no job is open; it is no bench of the work and stands on no rail."""


class Benches(QStackedWidget):
    """Holds the line-up from the start and has the others made when they are asked for; ``furnish`` makes one ready."""

    def __init__(self, lineup: Bench, furnish: Callable[[type[Bench]], Bench]) -> None:
        super().__init__()
        self._furnish = furnish
        self._built: dict[str, Bench] = {"lineup": lineup}
        self.addWidget(lineup)

    @property
    def front(self) -> str:
        """The name of the bench in front."""
        return next(name for name, bench in self._built.items() if bench is self.currentWidget())

    def has(self, name: str) -> bool:
        """Tell whether the bench called ``name`` has been looked at."""
        return name in self._built

    def named(self, name: str) -> Bench:
        """Return the bench called ``name``, made if it is not yet."""
        if name not in self._built:
            place = next(place for place in (*BENCHES, START) if place.name == name)
            self._built[name] = self._furnish(getattr(import_module(f"bicentra.app.{name}.bench"), place.made_by))
            self.addWidget(self._built[name])
        return self._built[name]

    @property
    def others(self) -> tuple[Bench, ...]:
        """The benches that are made, the line-up left out."""
        return tuple(bench for name, bench in self._built.items() if name != "lineup")

    def bring(self, name: str) -> Bench:
        """Bring the bench called ``name`` to the front."""
        bench = self.named(name)
        self.setCurrentWidget(bench)
        return bench

    def let_go(self) -> None:
        """Stop gauges and searches: the window is closing."""
        for bench in self._built.values():
            bench.let_go()
