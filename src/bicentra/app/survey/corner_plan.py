"""The corners as the vehicle is seen from above: which one is worked on, and how far each survey is."""

from PySide6.QtCore import QPointF, QRectF, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QGridLayout, QToolButton, QWidget

from bicentra.app.theme import LIGHT, Look, colour
from bicentra.core.parts.job import CORNERS, Job
from bicentra.study.desks.readings_told import corner_state

SHORT = {"front-left": "front left", "front-right": "front right", "rear-left": "rear left", "rear-right": "rear right"}
MARKS = {"none": "–", "open": "…", "wrong": "!", "good": "✓"}
WORDS = {
    "none": "nothing measured",
    "open": "not finished",
    "wrong": "a reading is named as wrong",
    "good": "readings agree",
}


class CornerPlan(QWidget):
    """Four buttons on a drawn vehicle, nose up."""

    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.look: Look = LIGHT
        self.buttons: dict[str, QToolButton] = {}
        grid = QGridLayout(self)
        grid.setContentsMargins(4, 6, 4, 6)
        grid.setHorizontalSpacing(46)
        grid.setVerticalSpacing(4)
        for corner in CORNERS:
            button = QToolButton()
            button.setObjectName("corner")
            button.setCheckable(True)
            button.setFixedSize(112, 38)
            button.clicked.connect(lambda _checked=False, corner=corner: self.chosen.emit(corner))
            self.buttons[corner] = button
            grid.addWidget(button, 0 if "front" in corner else 1, 0 if "left" in corner else 1)
        self.setToolTip("The vehicle from above, nose up")

    def show_job(self, job: Job, corner: str) -> None:
        """Mark ``corner`` as the one worked on, and how far each is."""
        for name, button in self.buttons.items():
            state = corner_state(job, name)
            button.setText(f"{SHORT[name]}  {MARKS[state]}")
            button.setToolTip(f"{SHORT[name]}: {WORDS[state]}")
            button.setAccessibleName(f"Corner {SHORT[name]}, {WORDS[state]}")
            button.setChecked(name == corner)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the vehicle's outline behind the corners."""
        del event
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        middle, high = self.width() / 2, float(self.height())
        painter.setPen(QPen(colour(self.look.edge), 4.0))
        for button in self.buttons.values():  # the axles
            y = button.geometry().center().y()
            painter.drawLine(QPointF(middle - 23.0, y), QPointF(middle + 23.0, y))
        painter.setPen(QPen(colour(self.look.faint), 2.0))
        painter.setBrush(colour(self.look.card))
        painter.drawRoundedRect(QRectF(middle - 13.0, 3.0, 26.0, high - 6.0), 11.0, 11.0)
        nose = [QPointF(middle - 5, 18.0), QPointF(middle, 11.0), QPointF(middle + 5, 18.0)]
        painter.drawPolyline(nose)
