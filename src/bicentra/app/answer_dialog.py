"""The end of a practice corner: what was hidden, what you did beside the careful way, step by step, and on to another corner."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QAbstractItemView,
    QDialog,
    QHBoxLayout,
    QHeaderView,
    QPushButton,
    QTableWidget,
    QTableWidgetItem,
    QVBoxLayout,
    QWidget,
)

from bicentra.app.widgets.plain import plain_label
from bicentra.study.desks.practice import Answer, Line, answer_text

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
