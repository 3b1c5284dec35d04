"""One row of a list, and the four verdict marks distinguished by shape alone."""

import math
from collections.abc import Callable

from PySide6.QtCore import QAbstractListModel, QModelIndex, QPersistentModelIndex, QPointF, QRect, QRectF, QSize, Qt
from PySide6.QtGui import QColor, QFont, QFontMetrics, QPainter, QPen, QPixmap, QPolygonF
from PySide6.QtWidgets import QListView, QStyle, QStyledItemDelegate, QStyleOptionViewItem

from bicentra.app.theme import LIGHT, Look, colour
from bicentra.core.base.records import Record

WRAP = int(Qt.AlignmentFlag.AlignLeft | Qt.AlignmentFlag.AlignTop | Qt.TextFlag.TextWordWrap)


def draw_wrapped(painter: QPainter, text: str, room: QRectF) -> None:
    """Paint as much of ``text`` as fits ``room`` [px] when it is wrapped, an ellipsis at its end where some is left out."""
    words = text.split(" ")
    for most in range(len(words), 0, -1):
        shown = " ".join(words[:most]) + ("" if most == len(words) else " …")
        if painter.fontMetrics().boundingRect(room.toRect(), WRAP, shown).height() <= room.height():
            break
    else:
        shown = text
    painter.drawText(room, WRAP, shown)


def paint_mark(painter: QPainter, rect: QRectF, verdict: str, ink: QColor, paper: QColor) -> None:
    """Paint the mark of ``verdict`` to fill ``rect``."""
    painter.save()
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    pen = QPen(ink, max(rect.width() / 9, 1.6))
    pen.setJoinStyle(Qt.PenJoinStyle.RoundJoin)
    painter.setPen(pen)
    inner = rect.adjusted(2, 2, -2, -2)
    middle, w = inner.center(), inner.width()
    if verdict == "ok":
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawEllipse(inner)
        painter.setBrush(ink)
        painter.drawEllipse(middle, w * 0.16, w * 0.16)
    elif verdict == "caution":
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawPolygon(QPolygonF([QPointF(middle.x(), inner.top()), inner.bottomRight(), inner.bottomLeft()]))
        painter.drawLine(QPointF(middle.x(), middle.y() - w * 0.08), QPointF(middle.x(), middle.y() + w * 0.22))
    elif verdict == "stop":
        painter.setBrush(ink)
        painter.drawRect(inner)
        painter.setPen(QPen(paper, w / 4.5))
        painter.drawLine(QPointF(inner.left() + w * 0.2, middle.y()), QPointF(inner.right() - w * 0.2, middle.y()))
    else:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        pen.setStyle(Qt.PenStyle.DotLine)
        painter.setPen(pen)
        left, right = QPointF(inner.left(), middle.y()), QPointF(inner.right(), middle.y())
        painter.drawPolygon(
            QPolygonF([QPointF(middle.x(), inner.top()), right, QPointF(middle.x(), inner.bottom()), left])
        )
    painter.restore()


ROW_PX, MOST_KEPT, LIMIT_AT, MOST_BAR = 44, 200, 0.3, 4.0
RIGHT, APART_PX = Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, 8
"""How high a row is; how many pictures of rows are kept; where a bar's limit stands, and how many limits' worth of room fill it;
where a value stands and how far from what is left of it."""
MARK_ALONE_PX = 90
"""Narrower than this a row is its mark alone: the list is folded."""
Index = QModelIndex | QPersistentModelIndex


class Row(Record, frozen=True):
    """What a row shows: verdict for the mark, title, value, second line.

    ``bar``: instead of the second line, how far the value is on the right side of its limit, in parts of the limit; nan unknown.
    """

    verdict: str
    title: str
    value: str
    second: str
    bar: float | None = None


def paint_row(painter: QPainter, option: QStyleOptionViewItem, row: Row, look: Look) -> None:
    """Paint ``row`` where ``option`` says."""
    rect, s = QRectF(option.rect), look.size
    chosen = bool(option.state & QStyle.StateFlag.State_Selected)
    painter.save()
    if chosen:
        painter.fillRect(rect, colour(look.accent))
    ink = colour(look.accent_text if chosen else look.verdict(row.verdict))
    text = colour(look.accent_text if chosen else look.text)
    paper = colour(look.accent if chosen else look.card)
    paint_mark(painter, QRectF(rect.left() + 8, rect.top() + 9 * s, 24 * s, 24 * s), row.verdict, ink, paper)
    if rect.width() < MARK_ALONE_PX * s:
        painter.restore()
        return
    font, small = QFont(option.font), QFont(option.font)
    font.setWeight(QFont.Weight.DemiBold if row.verdict in ("stop", "caution") else QFont.Weight.Normal)
    small.setPixelSize(round(12 * s))
    left = rect.left() + 12 + 28 * s
    head = QRectF(left, rect.top() + 4 * s, rect.right() - 8 - left, 20 * s)
    below = QRectF(left, rect.top() + 23 * s, rect.right() - 8 - left, 17 * s)
    low = row.bar is None and _goes_below(row, QFontMetrics(font), QFontMetrics(small), head.width())
    painter.setFont(font)
    painter.setPen(text)
    _paint_both(painter, head, row.title, "" if low else row.value)
    if low:
        painter.drawText(below, RIGHT, row.value)
        below.setRight(below.right() - QFontMetrics(font).horizontalAdvance(row.value) - APART_PX)
    painter.setFont(small)
    painter.setPen(ink)
    if row.bar is not None:
        _paint_bar(painter, below, row.bar, ink, text)
    else:
        _paint_both(painter, below, row.second, "")
    painter.restore()


def _goes_below(row: Row, font: QFontMetrics, small: QFontMetrics, wide: float) -> bool:
    """Tell whether the value stands in the second line: where the title needs all of the first, and the second has room
    for it.
    """
    value = font.horizontalAdvance(row.value) + APART_PX
    return font.horizontalAdvance(row.title) + value > wide >= small.horizontalAdvance(row.second) + value


def _paint_both(painter: QPainter, place: QRectF, left: str, right: str) -> None:
    """Write ``right`` at the right of ``place`` and ``left`` in what is left of it, short where it does not fit."""
    painter.drawText(place, RIGHT, right)
    room = place.width() - (painter.fontMetrics().horizontalAdvance(right) + APART_PX if right else 0.0)
    shown = painter.fontMetrics().elidedText(left, Qt.TextElideMode.ElideRight, int(room))
    painter.drawText(place, Qt.AlignmentFlag.AlignVCenter, shown)


def _paint_bar(painter: QPainter, place: QRectF, bar: float, ink: QColor, text: QColor) -> None:
    """Paint a rung of the ladder: a tick at the limit, to its right the room there is, to its left what is missing."""
    limit, mid = place.left() + place.width() * LIMIT_AT, place.center().y()
    painter.setPen(QPen(text, 1.0, Qt.PenStyle.DotLine))
    painter.drawLine(QPointF(place.left(), mid), QPointF(place.right(), mid))
    if math.isfinite(bar):
        part = place.width() * (LIMIT_AT if bar < 0 else 1.0 - LIMIT_AT)
        long = max(-1.0, min(bar / MOST_BAR if bar > 0 else bar, 1.0)) * part
        painter.fillRect(QRectF(min(limit, limit + long), mid - 5, max(abs(long), 2.0), 10), ink)
    painter.setPen(QPen(text, 2.0))
    painter.drawLine(QPointF(limit, mid - 8), QPointF(limit, mid + 8))


class RowPainter(QStyledItemDelegate):
    """Paints the rows of a list; ``row_at`` gives what stands in one."""

    def __init__(self, row_at: Callable[[int], Row], look: Look = LIGHT) -> None:
        super().__init__()
        self._row_at, self.look = row_at, look
        self._kept: dict[tuple[object, ...], QPixmap] = {}

    def sizeHint(self, option: QStyleOptionViewItem, index: Index) -> QSize:
        """Return a row high enough for a thumb."""
        del option, index
        return QSize(200, round(ROW_PX * self.look.size))

    def paint(self, painter: QPainter, option: QStyleOptionViewItem, index: Index) -> None:
        """Paint the row at ``index``."""
        row, chosen = self._row_at(index.row()), bool(option.state & QStyle.StateFlag.State_Selected)
        rect, ratio = option.rect, painter.device().devicePixelRatioF()
        key = (row, chosen, rect.width(), rect.height(), self.look.name, ratio)
        made = self._kept.get(key)
        if made is None:
            if len(self._kept) > MOST_KEPT:
                self._kept.clear()
            made = self._kept[key] = self._pictured(option, row, ratio)
        painter.drawPixmap(rect.topLeft(), made)

    def _pictured(self, option: QStyleOptionViewItem, row: Row, ratio: float) -> QPixmap:
        """Return a row as a picture: most of them are the same in the next frame."""
        rect = option.rect
        made = QPixmap(math.ceil(rect.width() * ratio), math.ceil(rect.height() * ratio))
        made.setDevicePixelRatio(ratio)
        made.fill(Qt.GlobalColor.transparent)
        painter, here = QPainter(made), QStyleOptionViewItem(option)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        here.rect = QRect(0, 0, rect.width(), rect.height())
        paint_row(painter, here, row, self.look)
        painter.end()
        return made


def dress_rows(rows: QListView, painter: RowPainter, look: Look) -> None:
    """Show the rows of a list in ``look``, laid out again where they are of another height now."""
    painter.look = look
    rows.doItemsLayout()
    rows.viewport().update()


def row_list(model: QAbstractListModel, painter: RowPainter, name: str) -> QListView:
    """Return a list of such rows, called ``name`` for a screen reader."""
    made = QListView()
    made.setModel(model)
    made.setItemDelegate(painter)
    made.setUniformItemSizes(True)
    made.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    made.setAccessibleName(name)
    return made
