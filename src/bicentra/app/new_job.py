"""A new job on one sheet: five questions, each of which may be left for later."""

from PySide6.QtWidgets import (
    QButtonGroup,
    QDialog,
    QGridLayout,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bicentra.app.widgets.basics import answer_row
from bicentra.app.widgets.plain import plain_label
from bicentra.core.parts.job import CORNERS
from bicentra.study.document.starting import FROM, HELD, Start

TALL_PX = 44
UNITS = {"mm": "Millimetres", "in": "Inches"}


class Choice(QWidget):
    """One question with its answers as large buttons, one of them pressed."""

    def __init__(self, question: str, answers: dict[str, str], usual: str, a_row: int = 3) -> None:
        super().__init__()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 6, 0, 0)
        column.setSpacing(4)
        head = plain_label(question)
        head.setObjectName("group")
        column.addWidget(head)
        grid = QGridLayout()
        grid.setSpacing(6)
        column.addLayout(grid)
        self.buttons: dict[str, QPushButton] = {}
        self._group = QButtonGroup(self)
        for k, (key, text) in enumerate(answers.items()):
            button = QPushButton(text)
            button.setCheckable(True)
            button.setChecked(key == usual)
            button.setMinimumHeight(TALL_PX)
            button.setAccessibleName(f"{question} {text}")
            self._group.addButton(button)
            self.buttons[key] = button
            grid.addWidget(button, k // a_row, k % a_row)

    @property
    def answer(self) -> str:
        """The key of the answer that is pressed."""
        return next(key for key, button in self.buttons.items() if button.isChecked())


class NewJobDialog(QDialog):
    """The sheet. Enter begins the job with what is answered so far."""

    def __init__(self, parent: QWidget, units: str = "mm") -> None:
        super().__init__(parent)
        self.setWindowTitle("New job")
        self.resize(620, 560)
        column = QVBoxLayout(self)
        head = plain_label("A new job")
        head.setObjectName("head")
        column.addWidget(head)
        self.title = QLineEdit()
        self.title.setPlaceholderText("name of the vehicle (optional)")
        self.title.setAccessibleName("What the vehicle is called")
        self.title.setMinimumHeight(TALL_PX)
        column.addWidget(self.title)
        named = {corner: corner.replace("-", " ").capitalize() for corner in CORNERS}
        self.corner = Choice("Which corner comes first?", named, CORNERS[0], 4)
        self.units = Choice("Which units?", UNITS, units if units in UNITS else "mm")
        self.held = Choice("What holds the bracket?", {key: row[0] for key, row in HELD.items()}, "lugs")
        self.parts = Choice("Where do rotor and caliper come from?", FROM, "later")
        for choice in (self.corner, self.units, self.held, self.parts):
            column.addWidget(choice)
        column.addStretch(1)
        self.begin = answer_row(self, column, "Begin", "All of it can be changed later.")
        self.begin.clicked.connect(self.accept)
        for button in self.findChildren(QPushButton):
            if button is not self.begin:
                button.setAutoDefault(False)

    @property
    def start(self) -> Start:
        """What is answered."""
        return Start(
            self.title.text().strip(), self.corner.answer, self.units.answer, self.held.answer, self.parts.answer
        )
