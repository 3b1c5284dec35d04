"""Every kind of bracket as a row of one table: its picture to a common scale, its verdict, and what it takes, column by
column.
"""

import math

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFont, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QTransform
from PySide6.QtWidgets import QSizePolicy, QVBoxLayout, QWidget

from bicentra.app.paint import paint_shapes, painted
from bicentra.app.theme import Look, colour
from bicentra.app.widgets.basics import clear_layout, scrolled
from bicentra.app.widgets.plain import tip
from bicentra.app.widgets.row import draw_wrapped, paint_mark
from bicentra.core.base.finding import Verdict
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.views.made import thumb_view
from bicentra.core.evaluation.bracket_evaluation import BracketEvaluation

HIGH_PX, LOW_PX, PICTURE_PX, MARK_PX, HEAD_PX = 86, 58, (96.0, 72.0), 18.0, 26
"""Height of a row, and of one without a picture; the picture; the verdict's mark; height of the head and of a line of text."""
COLUMNS = (("Kind", 0.36), ("Plate", 0.10), ("Mass", 0.10), ("Pieces", 0.14), ("Made by", 0.14), ("Least room", 0.16))
"""The columns, each with its share of the width beside the picture."""


def places(wide: float, left: float, high: float) -> tuple[QRectF, ...]:
    """Return where each column of a row stands [px]."""
    found, x = [], left
    for _, share in COLUMNS:
        found.append(QRectF(x + 4, 0.0, share * (wide - left) - 8, high))
        x += share * (wide - left)
    return tuple(found)


class KindRow(QWidget):
    """One kind. ``picked`` carries it when it is clicked or chosen by space, ``opened`` when it is to be seen whole."""

    picked = Signal(object)
    opened = Signal()

    def __init__(
        self, proposal: BracketEvaluation, look: Look, lengths: LengthFormat, left: bool, scale: float, taken: bool
    ) -> None:
        super().__init__()
        self.proposal, self.look, self.chosen, self.taken = proposal, look, False, taken
        self.drawn = proposal.bracket.shown
        self._pictured = True
        self._lengths, self._scale = lengths, scale
        self._drawing = thumb_view(proposal.bracket, left)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus if self.drawn else Qt.FocusPolicy.NoFocus)
        if self.drawn:
            self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleName(f"{proposal.title}: {proposal.verdict.word}. {proposal.why}")
        self.setToolTip(tip(proposal.why))

    def sizeHint(self) -> QSize:
        """Return the size it wants: less where it has no picture."""
        return QSize(600, HIGH_PX if self.drawn and self._pictured else LOW_PX)

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose this kind."""
        del event
        if self.drawn:
            self.picked.emit(self.proposal)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Show this kind whole."""
        del event
        if self.drawn:
            self.opened.emit()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Space chooses this kind, Enter shows it whole; up and down go on."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Space) and self.drawn:
            self.picked.emit(self.proposal)
            if event.key() != Qt.Key.Key_Space:
                self.opened.emit()
        elif event.key() in (Qt.Key.Key_Down, Qt.Key.Key_Up):
            self.focusNextPrevChild(event.key() == Qt.Key.Key_Down)
        else:
            super().keyPressEvent(event)

    def cells(self) -> tuple[str, ...]:
        """Return what stands in the columns after the kind."""
        one = self.proposal
        if not self.drawn:
            return ()
        bare = not one.bracket.parts
        mass = (
            self._lengths.mass(one.bracket.mass_kg)
            if math.isfinite(one.bracket.mass_kg)
            else "–"
            if bare
            else "unknown"
        )
        thick = "none" if bare else self._lengths.stock(one.bracket.thickness)
        id, room = one.margin
        title = next((f.title for f in one.findings if f.id == id), "")
        least = f"{self._lengths.gap(room)}{'' if room >= 0 else ' short'}\n{title}" if id else "unknown"
        pieces = f"{one.bracket.made}\n{'reversible' if one.bracket.reversible else 'permanent'}"
        return thick, mass, pieces, ", ".join(one.bracket.processes), least

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint picture, kind with the verdict's mark, and the columns."""
        del event
        painter, look = QPainter(self), self.look
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        frame = QRectF(self.rect()).adjusted(2, 1, -2, -1)
        edge = look.glow if self.hasFocus() else look.accent if self.chosen else look.edge
        painter.setPen(QPen(colour(edge), 3.0 if self.chosen or self.hasFocus() else 1.0))
        painter.setBrush(colour(look.paper if self.drawn else look.card))
        painter.drawRoundedRect(frame, 6, 6)
        if self._pictured and self.drawn:
            self._paint_picture(painter, frame)
        columns = places(self.width(), PICTURE_PX[0] + 8, self.height())
        kind = (
            columns[0]
            if self.drawn
            else QRectF(columns[0].left(), 0, self.width() - columns[0].left() - 8, self.height())
        )
        self._paint_kind(painter, kind)
        painter.setPen(colour(look.text))
        for place, text in zip(columns[1:], self.cells()):
            draw_wrapped(painter, text, place.adjusted(0, 9, 0, -4))

    def _paint_picture(self, painter: QPainter, frame: QRectF) -> None:
        x0, y0, x1, y1 = self._drawing.bounds
        centre = QPointF(frame.left() + 6 + PICTURE_PX[0] / 2, frame.center().y())
        scale = min(self._scale, PICTURE_PX[0] / max(x1 - x0, 1e-9), PICTURE_PX[1] / max(y1 - y0, 1e-9))
        view = QTransform(scale, 0, 0, -scale, centre.x() - (x0 + x1) / 2 * scale, centre.y() + (y0 + y1) / 2 * scale)
        paint_shapes(painter, painted(self._drawing), view, self.look)

    def _paint_kind(self, painter: QPainter, place: QRectF) -> None:
        look, verdict = self.look, self.proposal.verdict.value
        mark = QRectF(place.left(), 9, MARK_PX, MARK_PX)
        paint_mark(painter, mark, verdict, colour(look.verdict(verdict)), colour(look.paper))
        font = QFont(self.font())
        font.setWeight(QFont.Weight.DemiBold)
        painter.setFont(font)
        painter.setPen(colour(look.text))
        title = self.proposal.title + (" · taken" if self.taken else "" if self.drawn else " · not drawn")
        head = QRectF(mark.right() + 6, 8, place.right() - mark.right() - 6, 20)
        painter.drawText(
            head,
            Qt.AlignmentFlag.AlignVCenter,
            painter.fontMetrics().elidedText(title, Qt.TextElideMode.ElideRight, int(head.width())),
        )
        font.setWeight(QFont.Weight.Normal)
        font.setPixelSize(12)
        painter.setFont(font)
        painter.setPen(colour(look.faint))
        rest = QRectF(place.left(), 30, place.width(), self.height() - 34)
        draw_wrapped(painter, self.proposal.why, rest)
        font.setPixelSize(13)
        painter.setFont(font)


class KindsHead(QWidget):
    """What the columns are called."""

    def __init__(self, look: Look) -> None:
        super().__init__()
        self.look = look
        self.setFixedHeight(HEAD_PX)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the names of the columns."""
        del event
        painter = QPainter(self)
        painter.setPen(colour(self.look.faint))
        font = QFont(self.font())
        font.setPixelSize(round(12 * self.look.size))
        painter.setFont(font)
        for (name, _), place in zip(COLUMNS, places(self.width(), PICTURE_PX[0] + 8, HEAD_PX)):
            painter.drawText(place, Qt.AlignmentFlag.AlignVCenter, name)


class KindsTable(QWidget):
    """The table. ``picked`` carries the kind that is chosen, ``opened`` says it is to be seen whole."""

    picked = Signal(object)
    opened = Signal()

    def __init__(self, look: Look) -> None:
        super().__init__()
        self.look = look
        self.rows: list[KindRow] = []
        self._host = QWidget()
        self._host.setObjectName("panelBody")
        self._column = QVBoxLayout(self._host)
        self._column.setContentsMargins(0, 0, 0, 0)
        self._column.setSpacing(2)
        self.head = KindsHead(look)
        area = scrolled(self._host)
        area.setAccessibleName("Kinds of bracket, fitting ones first")
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addWidget(self.head)
        column.addWidget(area, 1)

    def show_kinds(
        self, options: tuple[BracketEvaluation, ...], own: BracketEvaluation | None, lengths: LengthFormat, left: bool
    ) -> None:
        """Show every kind: those that are drawn, then those that are not, with the reason."""
        clear_layout(self._column)
        drawn = tuple(c for c in options if c.bracket.shown)
        scale = common_scale(tuple(c for c in drawn if c.verdict is not Verdict.STOP) or drawn)
        self.rows = []
        for proposal in (*drawn, *(c for c in options if not c.bracket.shown)):
            row = KindRow(proposal, self.look, lengths, left, scale, proposal is own)
            row.picked.connect(self.picked)
            row.opened.connect(self.opened)
            self._column.addWidget(row)
            if row.drawn:
                self.rows.append(row)
        self._column.addStretch(1)

    def mark(self, chosen: BracketEvaluation) -> None:
        """Mark the kind that is looked at."""
        for row in self.rows:
            row.chosen = row.proposal is chosen
            row.update()

    def dress(self, look: Look) -> None:
        """Show the table in ``look``."""
        self.look = self.head.look = look
        for row in self._host.findChildren(KindRow):
            row.look = look
            row.update()
        self.head.update()


def common_scale(options: tuple[BracketEvaluation, ...]) -> float:
    """Return pixels per mm at which the largest of the pictures fits its place."""
    sizes = [thumb_view(one.bracket).bounds for one in options] or [(0.0, 0.0, 1.0, 1.0)]
    wide, high = max(x1 - x0 for x0, _, x1, _ in sizes), max(y1 - y0 for _, y0, _, y1 in sizes)
    return min(PICTURE_PX[0] / wide, PICTURE_PX[1] / high)
