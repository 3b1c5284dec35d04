"""A family as a card: its picture to a common scale, what it weighs and asks for, and its verdict."""

import math

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFont, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QTransform
from PySide6.QtWidgets import QWidget

from bicentra.app.paint import paint_shapes, painted
from bicentra.app.theme import Look, colour
from bicentra.app.widgets.plain import tip
from bicentra.app.widgets.verdict_mark import paint_mark
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.made_view import thumb_view
from bicentra.core.judged import Judged

CARD_PX = QSize(206, 208)
PICTURE_PX = 96


class FamilyCard(QWidget):
    """One family. ``picked`` carries it when it is clicked, or chosen by Enter or space."""

    picked = Signal(object)

    def __init__(
        self, proposal: Judged, look: Look, lengths: LengthFormat, left: bool, scale: float, taken: bool
    ) -> None:
        super().__init__()
        self.proposal, self.look, self.chosen, self.taken = proposal, look, False, taken
        self._pictured = True
        self._lengths, self._scale = lengths, scale
        self._drawing = thumb_view(proposal.bracket, left)
        self.setFixedSize(CARD_PX)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleName(f"{proposal.title}: {proposal.suited.word}. {proposal.why}")
        self.setToolTip(tip(proposal.why))

    def show_picture(self, there: bool) -> None:
        """Show the card with or without its picture."""
        self._pictured = there
        self.setFixedSize(CARD_PX.width(), CARD_PX.height() - (0 if there else PICTURE_PX))

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose this family."""
        del event
        self.picked.emit(self.proposal)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Choose this family by Enter or space."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space):
            self.picked.emit(self.proposal)
        else:
            super().keyPressEvent(event)

    def lines(self) -> tuple[str, ...]:
        """Return what the card says below its title."""
        one = self.proposal
        known = math.isfinite(one.bracket.mass_kg)
        mass = self._lengths.mass(one.bracket.mass_kg) if known else "mass not known"
        thick = self._lengths.stock(one.bracket.thickness)
        id, room = one.margin
        title = next((f.title for f in one.findings if f.id == id), "")
        least = f"{'least room' if room >= 0 else 'short by'} {self._lengths.gap(room)}: {title}" if id else ""
        many = "s" if one.bracket.made > 1 else ""
        pieces = f"{one.bracket.made} piece{many}, {'can be undone' if one.bracket.reversible else 'for good'}"
        return (f"{thick}, {mass}", pieces, ", ".join(one.bracket.processes), least)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint picture, title with the verdict's mark, and the numbers."""
        del event
        painter, look = QPainter(self), self.look
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        frame = QRectF(self.rect()).adjusted(2, 2, -2, -2)
        edge = look.glow if self.hasFocus() else look.accent if self.chosen else look.edge
        painter.setPen(QPen(colour(edge), 3.0 if self.chosen or self.hasFocus() else 1.0))
        painter.setBrush(colour(look.paper))
        painter.drawRoundedRect(frame, 6, 6)
        if self._pictured:
            self._paint_picture(painter, frame)
        self._paint_words(painter, frame)

    def _paint_picture(self, painter: QPainter, frame: QRectF) -> None:
        x0, y0, x1, y1 = self._drawing.bounds
        centre = QPointF(frame.center().x(), frame.top() + 6 + PICTURE_PX / 2)
        scale = self._scale
        view = QTransform(scale, 0, 0, -scale, centre.x() - (x0 + x1) / 2 * scale, centre.y() + (y0 + y1) / 2 * scale)
        paint_shapes(painter, painted(self._drawing), view, self.look)

    def _paint_words(self, painter: QPainter, frame: QRectF) -> None:
        look, y = self.look, frame.top() + (PICTURE_PX if self._pictured else 0) + 12
        verdict = self.proposal.suited.value
        paint_mark(
            painter, QRectF(frame.left() + 8, y, 18, 18), verdict, colour(look.verdict(verdict)), colour(look.paper)
        )
        font = QFont(self.font())
        font.setWeight(QFont.Weight.DemiBold)
        painter.setFont(font)
        painter.setPen(colour(look.text))
        title = self.proposal.title + (" · taken" if self.taken else "")
        self._line(painter, QRectF(frame.left() + 32, y - 1, frame.width() - 38, 20), title)
        font.setWeight(QFont.Weight.Normal)
        font.setPixelSize(12)
        painter.setFont(font)
        painter.setPen(colour(look.faint))
        for row, text in enumerate(self.lines()):
            self._line(painter, QRectF(frame.left() + 10, y + 22 + 17 * row, frame.width() - 18, 17), text)

    def _line(self, painter: QPainter, place: QRectF, text: str) -> None:
        shown = painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, int(place.width()))
        painter.drawText(place, Qt.AlignmentFlag.AlignVCenter, shown)


def common_scale(proposals: tuple[Judged, ...]) -> float:
    """Return pixels per mm at which the largest of the pictures fits its place."""
    sizes = [thumb_view(one.bracket).bounds for one in proposals] or [(0.0, 0.0, 1.0, 1.0)]
    wide, high = max(x1 - x0 for x0, _, x1, _ in sizes), max(y1 - y0 for _, y0, _, y1 in sizes)
    return min((CARD_PX.width() - 24) / wide, PICTURE_PX / high)
