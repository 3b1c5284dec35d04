"""The four corners on the vehicle as it is seen from above: how each stands, worked out beside the interface."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QGridLayout, QWidget

from bicentra.app import workers
from bicentra.app.theme import LIGHT, Look, colour
from bicentra.app.widgets.picture_card import PictureCard
from bicentra.core.parts.job import CORNERS
from bicentra.study.document.study import Study

if TYPE_CHECKING:
    from bicentra.study.document.cover import CornerSummary

SURVEY_WORDS = {
    "none": "",
    "open": " · survey not finished",
    "wrong": " · a reading is wrong",
    "good": " · survey agrees",
}
PLACES = {name: (0 if "front" in name else 1, 0 if "left" in name else 1) for name in CORNERS}
"""Row and column of every corner, nose up."""


class ChassisView(QWidget):
    """A card for every corner. ``chosen`` carries the name of the one that was clicked, ``changed`` comes when a card
    has changed.
    """

    chosen = Signal(str)
    changed = Signal()

    def __init__(self, high: int = 128, grows: bool = False) -> None:
        super().__init__()
        self.look: Look = LIGHT
        self.setObjectName("desk")
        self.corners: dict[str, CornerSummary] = {}
        self._shown: object = None
        self._task: workers.Task | None = None
        self.cards = {name: PictureCard(high, grows) for name in CORNERS}
        grid = QGridLayout(self)
        grid.setContentsMargins(0, 26, 0, 8)
        grid.setHorizontalSpacing(70)
        grid.setVerticalSpacing(26)
        for column, part in ((0, 1), (1, 1)):
            grid.setColumnStretch(column, part)
        for name, card in self.cards.items():
            card.show_words(corner_name(name).capitalize(), ("…",), None, None)
            card.clicked.connect(lambda _checked=False, name=name: self.chosen.emit(name))
            grid.addWidget(card, *PLACES[name])

    def forget(self) -> None:
        """Have every corner worked out again when it is next shown: another job is open."""
        self._shown, self.corners = None, {}

    def show_study(self, study: Study) -> None:
        """Show every corner as it stands; those that are not worked on are worked out in a thread."""
        from bicentra.study.desks.readings_text import corner_state
        from bicentra.study.document.cover import other_corners, own_corner

        known = (
            study.assessment is not None
        )  # else its survey is being worked out beside the window: nobody waits for it here
        self._show(study, own_corner(study), corner_state(study.job, study.job.corner) if known else "none")
        if study.vehicle is not self._shown:
            self._shown = study.vehicle
            vehicle, job, work = study.vehicle, study.job, other_corners(study)

            def look(_task: workers.Task) -> object:
                return vehicle, tuple((text, corner_state(job, text.name)) for text in work())

            self._task = workers.Task("The other corners", look)
            self._task.signals.finished.connect(lambda found: self._show_others(study, found))
            workers.start(self._task)

    def _show_others(self, study: Study, found: object) -> None:
        """Show what was worked out of the other corners, unless the vehicle has changed since."""
        if isinstance(found, tuple) and found[0] is self._shown and found[0] is study.vehicle:
            for text, survey in found[1]:
                self._show(study, text, survey)

    def _show(self, study: Study, text: "CornerSummary", survey: str) -> None:
        self.corners[text.name] = text
        card, worked_on = self.cards[text.name], text.name == study.job.corner
        if worked_on:
            for other in self.cards.values():
                other.setChecked(other is card)
        known = text.known + SURVEY_WORDS[survey]
        here = ("worked on",) if worked_on else ()
        tried = (text.trial,) if text.trial else ()
        lines = (
            (text.text, *here, known, *tried, f"Next: {text.step}")
            if text.verdict is not None
            else (known.capitalize(), *here, *text.text.split(", "), text.step)
        )
        card.show_words(corner_name(text.name).capitalize(), lines, text.verdict, text.picture, text.left)
        self.changed.emit()

    def dress(self, look: Look) -> None:
        """Show it in ``look``."""
        self.look = look
        for card in self.cards.values():
            card.dress(look)
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the vehicle between the cards: body, axles, and an arrow to its front."""
        del event
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        boxes = [card.geometry() for card in self.cards.values()]
        middle, top, low = self.width() / 2, min(b.top() for b in boxes) - 20.0, max(b.bottom() for b in boxes) + 4.0
        painter.setPen(QPen(colour(self.look.edge), 5.0))
        for box in boxes:
            x = box.right() if box.center().x() < middle else box.left()
            painter.drawLine(QPointF(x, box.center().y()), QPointF(middle, box.center().y()))
        painter.setPen(QPen(colour(self.look.faint), 2.0))
        painter.setBrush(colour(self.look.card))
        painter.drawRoundedRect(QRectF(middle - 20.0, top, 40.0, low - top), 16.0, 16.0)
        painter.drawPolyline([QPointF(middle - 7, top + 24), QPointF(middle, top + 13), QPointF(middle + 7, top + 24)])


def corner_name(corner: str) -> str:
    """Return a corner's name as it is read."""
    return corner.replace("-", " ")
