"""Which practice corner to open: its number and level, and how earlier ones went."""

import random

from PySide6.QtWidgets import QDialog, QPushButton, QSpinBox, QVBoxLayout, QWidget

from bicentra.app.new_job import TALL_PX, Choice
from bicentra.app.widgets.answer_row import answer_row
from bicentra.app.widgets.plain import plain_label
from bicentra.study.document.practice import Result, results

LEVELS = {"1": "One fault, with a hint", "2": "Two faults, no hint", "3": "Three faults, no hint"}
SHOWN = 8


class PracticeDialog(QDialog):
    """The sheet. Enter opens the corner."""

    def __init__(self, parent: QWidget, level: int = 1) -> None:
        super().__init__(parent)
        self.setWindowTitle("Practice")
        self.resize(560, 420)
        column = QVBoxLayout(self)
        head = plain_label("A corner with something hidden in it")
        head.setObjectName("head")
        column.addWidget(head)
        text = plain_label(
            "Read, look for reasons, shim, until it is centred and can be locked. Each measurement or change costs time. "
            "Nothing of it was measured on a car, and every paper says so."
        )
        text.setWordWrap(True)
        column.addWidget(text)
        self.level = Choice("How much is hidden?", LEVELS, str(level))
        column.addWidget(self.level)
        caption = plain_label("Practice number (the same number hides the same)")
        caption.setObjectName("group")
        column.addWidget(caption)
        self.seed = QSpinBox()
        self.seed.setRange(1, 99999)
        self.seed.setValue(random.randrange(1, 1000))
        self.seed.setMinimumHeight(TALL_PX)
        self.seed.setAccessibleName("Practice number")
        column.addWidget(self.seed)
        self.past = plain_label(past_text(results()))
        self.past.setObjectName("faint")
        self.past.setWordWrap(True)
        column.addWidget(self.past)
        column.addStretch(1)
        self.begin = answer_row(self, column, "Begin", "")
        self.begin.clicked.connect(self.accept)
        for button in self.findChildren(QPushButton):
            if button is not self.begin:
                button.setAutoDefault(False)

    @property
    def chosen(self) -> tuple[int, int]:
        """The corner's number and its level."""
        return self.seed.value(), int(self.level.answer)


def past_text(found: tuple[Result, ...]) -> str:
    """Return how the last corners went, newest first."""
    if not found:
        return "None has been done yet."
    lines = [
        f"{one.done}: corner {one.seed}, level {one.level}: {_ended(one)}{one.minutes:.0f} min, the careful way {one.par:.0f} min"
        for one in reversed(found[-SHOWN:])
    ]
    return "\n".join(lines)


def _ended(one: Result) -> str:
    return "" if one.locked is None else "locked after " if one.locked else "given up after "
