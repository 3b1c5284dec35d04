"""Practice corners in front of the window: which to open, and how one ended."""

import random

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QAbstractItemView,
    QDialog,
    QHBoxLayout,
    QHeaderView,
    QPushButton,
    QSpinBox,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from bicentra.app.new_job import TALL_PX, Choice
from bicentra.app.widgets.basics import answer_row
from bicentra.app.widgets.plain import plain_label
from bicentra.study.desks.practice import Answer, Line, answer_text
from bicentra.study.document.starting import Result, results

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


COLUMNS = ("What", "min", "What it showed")


class AnswerDialog(QDialog):
    """The sheet. ``another``: whether another corner is wanted when it closes."""

    def __init__(self, parent: QWidget, answer: Answer) -> None:
        super().__init__(parent)
        self.setWindowTitle("The answer")
        self.resize(1080, 660)
        self.another = False
        column = QVBoxLayout(self)
        column.setSpacing(8)
        head, *lines = answer_text(answer)
        title = plain_label(head)
        title.setObjectName("head")
        column.addWidget(title)
        text = plain_label("\n".join(lines))
        text.setWordWrap(True)
        column.addWidget(text)
        tables = QHBoxLayout()
        self.yours = step_table("What you did", answer.yours)
        self.careful = step_table("The careful way", answer.careful)
        for name, minutes, table in (
            ("What you did", answer.minutes, self.yours),
            ("The careful way", answer.par, self.careful),
        ):
            side = QVBoxLayout()
            caption = plain_label(f"{name}: {minutes:.0f} min")
            caption.setObjectName("group")
            side.addWidget(caption)
            side.addWidget(table, 1)
            tables.addLayout(side, 1)
        column.addLayout(tables, 1)
        row = QHBoxLayout()
        row.addStretch(1)
        close, self.again = QPushButton("Close"), QPushButton("Another corner")
        self.again.setObjectName("primary")
        self.again.setDefault(True)
        close.clicked.connect(self.reject)
        self.again.clicked.connect(self._take_another)
        row.addWidget(close)
        row.addWidget(self.again)
        column.addLayout(row)
        self.again.setFocus()

    def _take_another(self) -> None:
        self.another = True
        self.accept()


def step_table(name: str, lines: tuple[Line, ...]) -> QTableWidget:
    """Return a table of what was done, a line each."""
    table = QTableWidget(len(lines), len(COLUMNS))
    table.setAccessibleName(name)
    table.setHorizontalHeaderLabels(list(COLUMNS))
    table.verticalHeader().hide()
    table.setWordWrap(True)
    table.setEditTriggers(QAbstractItemView.EditTrigger.NoEditTriggers)
    table.setSelectionMode(QAbstractItemView.SelectionMode.NoSelection)
    table.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    for row, line in enumerate(lines):
        for place, text in enumerate((line.title, f"{line.minutes:g}", line.text)):
            item = QTableWidgetItem(text)
            item.setTextAlignment(
                Qt.AlignmentFlag.AlignTop | (Qt.AlignmentFlag.AlignRight if place == 1 else Qt.AlignmentFlag.AlignLeft)
            )
            table.setItem(row, place, item)
    header = table.horizontalHeader()
    header.setSectionResizeMode(0, QHeaderView.ResizeMode.Stretch)
    header.setSectionResizeMode(1, QHeaderView.ResizeMode.ResizeToContents)
    header.setSectionResizeMode(2, QHeaderView.ResizeMode.Stretch)
    table.verticalHeader().setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
    return table
