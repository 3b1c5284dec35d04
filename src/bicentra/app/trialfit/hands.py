"""What is done at the car from the trial fit bench; minutes and answers of a practice corner."""

from abc import abstractmethod
from collections.abc import Callable

from PySide6.QtCore import QTimer, Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QMenu, QPushButton, QVBoxLayout

from bicentra.app import dialogs
from bicentra.app.drawing.view import DrawingView
from bicentra.app.drawn_bench import DrawnBench
from bicentra.app.trialfit.held_side import HeldSide
from bicentra.app.trialfit.move_card import AGAIN, KEEP
from bicentra.app.widgets.basics import menu_button
from bicentra.app.widgets.plain import plain_label
from bicentra.core.parts.trial import GAP_NAMES, GAPS
from bicentra.core.practice.corner import OTHER_MIN, WORK
from bicentra.core.trialfit.set_up import INSPECTIONS
from bicentra.study.desks.practice import OTHERS, Answer, PracticeDesk
from bicentra.study.desks.trialfit import TrialDesk

OTHER_WORDS = {
    "tip_gap_mm": "Tip gap by feeler",
    "runout_mm": "Runout under an indicator",
    "turned": "A slow full turn by hand",
}


class PracticeStrip(QFrame):
    """``read`` carries what is to be read, ``inspected`` what is looked at; ``ended``: the answer is asked for."""

    read = Signal(str)
    inspected = Signal(str)
    ended = Signal()

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("card")
        column, row = QVBoxLayout(self), QHBoxLayout()
        column.setContentsMargins(10, 6, 10, 6)
        column.setSpacing(4)
        self.head = plain_label()
        self.head.setObjectName("head")
        row.addWidget(self.head, 1)
        self.reads = menu_button("Read  ↓", "Ask the corner for a reading: each costs time", self._fill_reads)
        self.deeds = menu_button("Do  ↓", "Look at something on the corner: each costs time", self._fill_deeds)
        self.end = QPushButton("Show the answer")
        self.end.setToolTip("Ends the run: what was hidden, and your way beside the careful one")
        self.end.clicked.connect(self.ended)
        for widget in (self.reads, self.deeds, self.end):
            row.addWidget(widget)
        self.note = plain_label()
        self.note.setWordWrap(True)
        column.addLayout(row)
        column.addWidget(self.note)

    def _fill_reads(self, menu: QMenu) -> None:
        for name, words in GAP_NAMES.items():
            menu.addAction(f"Gap, {words}").triggered.connect(lambda _checked=False, name=name: self.read.emit(name))
        menu.addSeparator()
        for name, words in OTHER_WORDS.items():
            text = f"{words}: {OTHER_MIN[name]:g} min"
            menu.addAction(text).triggered.connect(lambda _checked=False, name=name: self.read.emit(name))

    def _fill_deeds(self, menu: QMenu) -> None:
        for name, work in WORK.items():
            text = f"{INSPECTIONS[name]}: {work.minutes:g} min"
            menu.addAction(text).triggered.connect(lambda _checked=False, name=name: self.inspected.emit(name))

    def show_practice(self, practice: PracticeDesk, lines: tuple[str, ...]) -> None:
        """Show the run; ``lines``: the answer, once it has been shown."""
        run = practice.run
        self.setVisible(run is not None)
        if run is None:
            return
        self.head.setText(f"Practice corner {run.seed}, level {run.level}: {run.minutes:.0f} min")
        for widget in (self.reads, self.deeds):
            widget.setEnabled(practice.open and not practice.locked)
        hint = f"Hint: {practice.hint}" if practice.hint and not run.ended else ""
        self.note.setText("\n".join(lines) if lines else practice.text or hint)
        self.note.setVisible(bool(self.note.text()))


ON_CORNER = ("read", "again", "set", "inspect", "move", "unequal")
"""What a simulated corner does when it comes next."""


class TrialFrame(DrawnBench):
    """What the hands need of the trial fit bench: its desks, its drawing, its set-up, and where it can go."""

    desk: TrialDesk | None
    practice: PracticeDesk | None
    answer: Answer | None
    view: DrawingView
    held: HeldSide

    @abstractmethod
    def attempt(self, call: object, path: str = "") -> bool:
        """Do ``call`` with the desk, about the field at ``path``; return whether it was taken."""

    @abstractmethod
    def begin(self) -> None:
        """Begin a trial, and ask for its first gap."""

    @abstractmethod
    def lock(self) -> None:
        """Lock the corner, or open its lock."""

    @abstractmethod
    def ask_next(self) -> None:
        """Ask for the next number to read."""

    @abstractmethod
    def show_page(self, name: str) -> None:
        """Show one of the pages beside the drawing."""

    @abstractmethod
    def show_finding(self, id: str) -> None:
        """Show the findings, the one with ``id`` chosen."""

    @abstractmethod
    def show_trial(self, number: int) -> None:
        """Show an earlier trial, or the last."""


class Hands:
    """The hands of one trial fit bench."""

    def __init__(self, bench: TrialFrame) -> None:
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
            name = place if place != "gaps" else desk.next_gap or next(iter(self._doubted()), GAPS[0])
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
