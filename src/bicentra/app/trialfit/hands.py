"""What is done at the car from the trial fit bench: what comes next, reading again, looking at things, the end of a practice.

At a real corner its field, page or question is opened; a simulated one answers, for its minutes.
"""

from collections.abc import Callable
from typing import TYPE_CHECKING

from PySide6.QtCore import QTimer

from bicentra.app import dialogs
from bicentra.app.trialfit.move_card import AGAIN, KEEP
from bicentra.core.parts.trial import GAPS
from bicentra.core.practice.corner import OTHER_MIN
from bicentra.core.trialfit.advice import next_reading
from bicentra.core.trialfit.inspections import INSPECTIONS
from bicentra.study.desks.practice import OTHERS, PracticeDesk
from bicentra.study.desks.trialfit import TrialDesk

if TYPE_CHECKING:
    from bicentra.app.trialfit.bench import TrialfitBench

ON_CORNER = ("read", "again", "set", "inspect", "move", "unequal")
"""What a simulated corner does when it comes next."""


class Hands:
    """The hands of one trial fit bench."""

    def __init__(self, bench: "TrialfitBench") -> None:
        self.bench = bench

    @property
    def desk(self) -> TrialDesk | None:
        """The trials that are worked on."""
        return self.bench.desk

    @property
    def practice(self) -> PracticeDesk | None:
        """The practice corner, while its run goes on."""
        practice = self.bench.practice
        return practice if practice is not None and practice.open else None

    def do_next(self) -> None:
        """Do what the sentence says: on a simulated corner it is done, at a real one its field, page or question is opened."""
        desk, bench, practice = self.desk, self.bench, self.practice
        if desk is None:
            return
        if desk.trial is not None and not desk.is_last:
            bench.show_trial(len(desk.trials) - 1)
            return
        advice = desk.advice
        if practice is not None and advice.kind in ON_CORNER:
            bench.attempt(lambda _: practice.do_next())
            return
        doing: dict[str, Callable[[], object]] = {
            "begin": bench.begin,
            "read": lambda: self.go_to(advice.target),
            "again": lambda: self.read_again(AGAIN),
            "set": lambda: self.go_to(advice.target),
            "inspect": lambda: self.ask_inspection(advice.target),
            "unequal": lambda: bench.attempt(lambda desk: desk.set("school", "unequal")),
            "finding": lambda: self.go_to(f"finding:{advice.target}"),
            "lock": bench.lock,
            "done": self.show_answer,
        }
        doing.get(advice.kind, lambda: bench.show_page("move"))()

    def go_to(self, place: str) -> None:
        """Go to where something is put in: a gap or a stack on the drawing, a field of the set-up, or the finding that
        says no.
        """
        desk, bench, practice = self.desk, self.bench, self.practice
        if desk is None or desk.trial is None:
            return
        if practice is not None and place in OTHERS:
            bench.attempt(lambda _: practice.read(place))
        elif place in ("gaps", "station_spacing_mm", *GAPS):
            name = place if place != "gaps" else next_reading(desk.trial) or next(iter(self._doubted()), GAPS[0])
            bench.view.ask(desk.path_of(name))
        elif place == "shims":
            bench.view.ask(desk.lost_stack)
        elif place.startswith("finding:"):
            bench.show_finding(place.removeprefix("finding:"))
        elif place in bench.held.editors:
            bench.show_page("held")
            bench.held.editors[place].setFocus()

    def _doubted(self) -> tuple[str, ...]:
        """Return the gaps that are doubted, the likeliest first."""
        fit = self.desk.fit if self.desk is not None else None
        return tuple(name for name in fit.pose.doubted if name in GAPS) if fit is not None else ()

    def read(self, name: str) -> None:
        """Ask the practice corner for a reading."""
        practice = self.practice
        if practice is not None:
            self.bench.attempt(lambda _: practice.read(name))

    def read_again(self, asked: str) -> None:
        """Blank the four gaps, or say that they count as they are, or open the one that is doubted."""
        bench = self.bench
        if asked == KEEP:
            bench.attempt(lambda desk: desk.keep_readings())
        elif asked == AGAIN:
            if bench.attempt(lambda desk: desk.read_again()):
                QTimer.singleShot(0, bench.ask_next)
        else:
            bench.view.ask(asked)

    def inspect(self, name: str) -> None:
        """Look at something on the practice corner."""
        practice = self.practice
        if practice is not None:
            self.bench.attempt(lambda _: practice.inspect(name))

    def ask_inspection(self, name: str) -> None:
        """Ask what came of something that was looked at on the car; sizes of the parts are opened to be typed again."""
        bench = self.bench
        found = dialogs.ask_inspection(bench, INSPECTIONS[name], name != "turn")
        if found == dialogs.LATER:
            return
        bench.attempt(lambda desk: desk.inspected(name, found == dialogs.FOUND))
        if name == "sizes" and found == dialogs.FOUND:
            bench.sheet_wanted.emit("caliper")

    def tick(self, name: str, made: bool) -> None:
        """Tick what was looked at, or take the tick back; in a practice corner it costs its minutes."""
        if self.practice is not None:
            self.inspect(name)
        elif made:
            self.bench.attempt(lambda desk: desk.inspected(name, False))
        else:
            self.bench.attempt(lambda desk: desk.unchecked(name))

    def set(self, name: str, value: object) -> None:
        """Set one thing of the set-up; in a practice corner what has to be read is read there, and what is done costs minutes."""
        practice, bench = self.practice, self.bench
        if practice is None:
            bench.attempt(lambda desk: desk.set(name, value), name)
        elif name in OTHERS:
            bench.refused.emit(name, f"the corner answers that itself: ask it under “Read” ({OTHER_MIN[name]:g} min)")
            bench.refresh()
        else:
            bench.attempt(lambda _: practice.set(name, value), name)

    def show_answer(self) -> None:
        """End a practice corner and show what was hidden; while it is not locked that is asked first."""
        bench, practice = self.bench, self.bench.practice
        if practice is None or practice.run is None:
            return
        if practice.open and not practice.locked and not dialogs.ask_give_up(bench):
            return
        bench.answer = practice.show_answer()
        bench.refresh()
        if bench.answer is not None and dialogs.show_answer(bench, bench.answer):
            bench.action_wanted.emit("practice")
