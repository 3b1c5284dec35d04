"""A card with a small drawing, a title, the mark of a verdict and a few lines: a corner, a job worked on before."""

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QFont, QFontMetricsF, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QSizePolicy

from bicentra.app.paint import fitted_into, paint_shapes, painted
from bicentra.app.theme import LIGHT, Look, colour
from bicentra.app.widgets.plain import tip
from bicentra.app.widgets.row import draw_wrapped, paint_mark
from bicentra.core.base.finding import Verdict
from bicentra.core.drawing.model import Drawing

PICTURE_PX, MARK_PX, EDGE_PX, PICTURE_SHARE = 112, 18, 10, 0.56
HEAD_PX, ROW_PX = 24, 19
"""How high a name above the picture is, and a row of the lines [px]."""


class PictureCard(QAbstractButton):
    """The card. Clicked, or pressed by space, like any button. ``grows``: it takes what height there is, its picture too."""

    def __init__(self, high: int = 132, grows: bool = False) -> None:
        super().__init__()
        self.look: Look = LIGHT
        self.title = ""
        self.lines: tuple[str, ...] = ()
        self.verdict: Verdict | None = None
        self.drawing: Drawing | None = None
        self._flip = 1.0
        self._high = high
        self.setCheckable(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        down = QSizePolicy.Policy.Expanding if grows else QSizePolicy.Policy.Fixed
        self.setSizePolicy(QSizePolicy.Policy.Expanding, down)

    def show_words(
        self, title: str, lines: tuple[str, ...], verdict: Verdict | None, drawing: Drawing | None, left: bool = False
    ) -> None:
        """Show ``title``, the ``lines`` below it, the mark and the picture, mirrored for a ``left`` corner."""
        self.title, self.lines, self.verdict, self.drawing = title, lines, verdict, drawing
        self._flip = -1.0 if left else 1.0
        said = [title, *([verdict.word] if verdict is not None else []), *(line for line in lines if line)]
        self.setAccessibleName(", ".join(said))
        self.setToolTip(tip("\n".join(line for line in lines if line)))
        self.update()

    def dress(self, look: Look) -> None:
        """Show the card in ``look``."""
        self.look = look
        self.update()

    def sizeHint(self) -> QSize:
        """Return the size it wants."""
        return QSize(360, self._high)

    def minimumSizeHint(self) -> QSize:
        """Return the size below which it is not squeezed."""
        return QSize(250, self._high)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the card, its picture on the left, its words beside it."""
        del event
        painter = QPainter(self)
        frame = self._paint_card(painter)
        left = frame.left() + EDGE_PX
        wide = max(PICTURE_PX, min(frame.height() - 2 * EDGE_PX, frame.width() * PICTURE_SHARE))
        beside = frame.right() - left - EDGE_PX - (wide + EDGE_PX if self.drawing is not None else 0.0)
        words = QRectF(frame.right() - EDGE_PX - beside, frame.top() + 8, beside, frame.height() - 14)
        head = words
        if self._head_px() > beside:  # too narrow beside the picture: the name goes above it
            head = QRectF(left, words.top(), frame.right() - left - EDGE_PX, words.height())
            frame.setTop(frame.top() + HEAD_PX)
        if self.drawing is not None:
            self._paint_picture(painter, QRectF(left, frame.top() + EDGE_PX, wide, frame.height() - 2 * EDGE_PX))
        lines = QRectF(words.left(), self._paint_head(painter, head), words.width(), words.height())
        lines.setBottom(words.bottom())
        self._paint_lines(painter, lines)

    def _title_font(self) -> QFont:
        font = QFont(self.font())
        font.setWeight(QFont.Weight.DemiBold)
        return font

    def _head_px(self) -> float:
        """How wide the name is with its mark [px]."""
        wide = QFontMetricsF(self._title_font()).horizontalAdvance(self.title)
        return wide + (MARK_PX + 6 if self.verdict is not None else 0.0)

    def _paint_card(self, painter: QPainter) -> QRectF:
        """Paint the card itself; returns its frame."""
        look = self.look
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        edge = look.glow if self.hasFocus() else look.accent if self.isChecked() or self.underMouse() else look.edge
        painter.setPen(QPen(colour(edge), 3.0 if self.hasFocus() or self.isChecked() else 1.0))
        painter.setBrush(colour(look.paper))
        frame = QRectF(self.rect()).adjusted(2, 2, -2, -2)
        painter.drawRoundedRect(frame, 6, 6)
        return frame

    def _paint_picture(self, painter: QPainter, place: QRectF) -> None:
        if self.drawing is None:
            return
        painter.save()
        painter.setClipRect(place)
        paint_shapes(painter, painted(self.drawing), fitted_into(self.drawing, place), self.look)
        painter.restore()

    def _paint_head(self, painter: QPainter, place: QRectF) -> float:
        """Paint mark and name; returns where the lines below begin."""
        look, x, y = self.look, place.left(), place.top()
        if self.verdict is not None:
            ink = colour(look.verdict(self.verdict.value))
            paint_mark(painter, QRectF(x, y + 1, MARK_PX, MARK_PX), self.verdict.value, ink, colour(look.paper))
            x += MARK_PX + 6
        painter.setFont(self._title_font())
        painter.setPen(colour(look.text))
        high = max(20.0, float(painter.fontMetrics().height()))
        head = QRectF(x, y, place.right() - x, high)
        shown = painter.fontMetrics().elidedText(self.title, Qt.TextElideMode.ElideRight, int(head.width()))
        painter.drawText(head, Qt.AlignmentFlag.AlignVCenter, shown)
        return y + high + 4

    def _paint_lines(self, painter: QPainter, place: QRectF) -> None:
        """Paint the lines below the name, each in as many rows as it takes."""
        font = QFont(self.font())
        font.setPixelSize(13)
        painter.setFont(font)
        for number, line in enumerate(self.lines):
            painter.setPen(colour(self.look.text if number == 0 else self.look.faint))
            if number == len(self.lines) - 1:
                draw_wrapped(painter, line, place)
                return
            rows = painter.boundingRect(place, int(Qt.TextFlag.TextWordWrap), line)
            if rows.height() > place.height():
                return
            painter.drawText(place, int(Qt.TextFlag.TextWordWrap), line)
            place.setTop(place.top() + max(rows.height(), ROW_PX))


TILE_PX, WORDS_PX = (150, 156), 40


class PictureTile(PictureCard):
    """A card with its picture above its title: one of many to choose from."""

    def sizeHint(self) -> QSize:
        """Return the size it wants."""
        return QSize(*TILE_PX)

    def minimumSizeHint(self) -> QSize:
        """Return the size below which it is not squeezed."""
        return QSize(110, TILE_PX[1])

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the card, the picture, the title in two lines below it."""
        del event
        painter = QPainter(self)
        frame = self._paint_card(painter).adjusted(8, 8, -8, -6)
        self._paint_picture(painter, frame.adjusted(0, 0, 0, -WORDS_PX))
        font = QFont(self.font())
        font.setPixelSize(round(13 * self.look.size))
        painter.setFont(font)
        painter.setPen(colour(self.look.text))
        draw_wrapped(painter, self.title, QRectF(frame.left(), frame.bottom() - WORDS_PX + 4, frame.width(), WORDS_PX))
