"""The strip of a practice corner: minutes, what can be read and done, the answer at the end."""

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QFrame, QHBoxLayout, QMenu, QPushButton, QVBoxLayout

from bicentra.app.widgets.menus import menu_button
from bicentra.app.widgets.plain import plain_label
from bicentra.core.parts.trial import GAP_NAMES
from bicentra.core.practice.corner import OTHER_MIN, WORK
from bicentra.core.trialfit.inspections import INSPECTIONS
from bicentra.study.desks.practice import PracticeDesk

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
