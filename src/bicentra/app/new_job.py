"""A new job on one sheet: five questions, each of which may be left for later."""

from PySide6.QtCore import QSize
from PySide6.QtGui import QIcon, QPixmap
from PySide6.QtWidgets import (
    QButtonGroup,
    QDialog,
    QGridLayout,
    QLineEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)
from shiboken6 import isValid

from bicentra.app import workers
from bicentra.app.paint import drawing_picture
from bicentra.app.theme import LOOKS
from bicentra.app.widgets.basics import answer_row
from bicentra.app.widgets.plain import plain_label
from bicentra.core.drawing.model import Drawing
from bicentra.core.parts.job import CORNERS
from bicentra.study.document.cover import example_picture
from bicentra.study.document.starting import FROM, HELD, Start

TALL_PX, PICTURE_PX = 44, (72, 60)
SHOWN_BY = {
    "lugs": "two-bolts",
    "flange": "axle-end",
    "tube": "tube-tab",
    "original": "on-original",
    "direct": "no-bracket",
}
"""The example that shows what holds the bracket."""
UNITS = {"mm": "Millimetres", "in": "Inches"}


class Choice(QWidget):
    """One question with its answers as large buttons, one of them pressed."""

    def __init__(self, question: str, answers: dict[str, str], usual: str, a_row: int = 3, high: int = TALL_PX) -> None:
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
            button.setFixedHeight(high)
            button.setAccessibleName(f"{question} {text}")
            self._group.addButton(button)
            self.buttons[key] = button
            grid.addWidget(button, k // a_row, k % a_row)

    def show_pictures(self, pictures: dict[str, QPixmap]) -> None:
        """Put a small picture on each answer that has one."""
        for key, picture in pictures.items():
            self.buttons[key].setIcon(QIcon(picture))
            self.buttons[key].setIconSize(QSize(*PICTURE_PX))

    @property
    def answer(self) -> str:
        """The key of the answer that is pressed."""
        return next(key for key, button in self.buttons.items() if button.isChecked())


class NewJobDialog(QDialog):
    """The sheet. Enter begins the job with what is answered so far."""

    def __init__(self, parent: QWidget, units: str = "mm") -> None:
        super().__init__(parent)
        self.setWindowTitle("New job")
        self.resize(660, 640)
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
        self.held = Choice(
            "What holds the bracket?", {key: row[0] for key, row in HELD.items()}, "lugs", 2, PICTURE_PX[1] + 14
        )
        self.parts = Choice("Where do rotor and caliper come from?", FROM, "later")
        for choice in (self.corner, self.units, self.held, self.parts):
            column.addWidget(choice)
        column.addStretch(1)
        self.begin = answer_row(self, column, "Begin", "All of it can be changed later.")
        self.begin.clicked.connect(self.accept)
        for button in self.findChildren(QPushButton):
            if button is not self.begin:
                button.setAutoDefault(False)
        self._task = workers.Task("Pictures of what holds the bracket", lambda _running: _held_pictures())
        self._task.signals.finished.connect(self._show_pictures)
        workers.start(self._task)

    def _show_pictures(self, found: object) -> None:
        if isValid(self) and isinstance(found, dict):
            look = LOOKS["dark" if self.palette().window().color().lightness() < 128 else "light"]
            ratio = self.devicePixelRatioF()
            made = {
                key: drawing_picture(drawing, look, PICTURE_PX, ratio, flip) for key, (drawing, flip) in found.items()
            }
            self.held.show_pictures(made)

    @property
    def start(self) -> Start:
        """What is answered."""
        return Start(
            self.title.text().strip(), self.corner.answer, self.units.answer, self.held.answer, self.parts.answer
        )


def _held_pictures() -> dict[str, tuple[Drawing, bool]]:
    """Return, for each answer that an example shows, its corner along the axle and whether it is a left one."""
    found = {key: example_picture(name) for key, name in SHOWN_BY.items()}
    return {key: (drawing, left) for key, (drawing, left) in found.items() if drawing is not None}
