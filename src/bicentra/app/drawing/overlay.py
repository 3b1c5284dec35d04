"""What stands on the sheet besides the drawing: title, note, scale bar, and the value of what is pulled."""

from typing import TYPE_CHECKING

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QFont, QPainter, QPen

from bicentra.app.drawing.handles import paint_scale_bar
from bicentra.app.paint import label_rect, text_rect
from bicentra.app.theme import colour
from bicentra.core.base.quantities import KINDS, LENGTH, Units, show_in, show_length
from bicentra.core.drawing.model import Handle

if TYPE_CHECKING:
    from bicentra.app.drawing.view import DrawingView

FOOT_PX, BAR_PX, MOST_EXAMPLES = 28.0, 260.0, 6
"""How high the foot is in which the scale bar stands, how wide the bar with its text [px]; how many lines tell what is missing."""


def furniture(view: "DrawingView") -> tuple[QRectF, ...]:
    """Return where title, notes and scale bar of ``view`` stand [px]."""
    metrics = view.fontMetrics()
    lines = (view.title, view.note, *(view.drawing.examples[:MOST_EXAMPLES] if view.drawing is not None else ()))
    rows = [metrics.horizontalAdvance(text) + 16 if text else 0 for text in lines]
    line_px = metrics.height() + 2
    boxes = [QRectF(0, 6 + row * line_px, wide, line_px) for row, wide in enumerate(rows) if wide]
    bar = QRectF() if view.exaggeration else QRectF(0, view.height() - FOOT_PX, BAR_PX * view.grown, FOOT_PX)
    return (*boxes, bar) if not bar.isNull() else tuple(boxes)


def standing(view: "DrawingView", origin: QPointF, scale: float) -> list[QRectF]:
    """Return where texts stand that have a place of their own, with (0, 0) of the drawing at ``origin`` [px]."""
    texts = view.drawing.texts if view.drawing is not None else ()
    return [text_rect(text, origin, scale, view.grown, view.width()) for text in texts]


def paint_frame(painter: QPainter, view: "DrawingView") -> None:
    """Paint title, scale bar, and what is not measured yet."""
    look, drawing = view.view_state.look, view.drawing
    font = painter.font()
    font.setWeight(QFont.Weight.DemiBold)
    painter.setFont(font)
    painter.setPen(colour(look.faint))
    line_px = painter.fontMetrics().height() + 2
    title = QRectF(10, 6, view.width() - 20, line_px)
    shown = painter.fontMetrics().elidedText(view.title, Qt.TextElideMode.ElideRight, int(title.width()))
    painter.drawText(title, Qt.AlignmentFlag.AlignLeft, shown)
    if view.note:
        painter.setPen(colour(look.unknown))
        line = QRectF(10, 6 + line_px, view.width() - 20, line_px)
        text = painter.fontMetrics().elidedText(view.note, Qt.TextElideMode.ElideRight, int(line.width()))
        painter.drawText(line, Qt.AlignmentFlag.AlignLeft, text)
    font.setWeight(QFont.Weight.Normal)
    painter.setFont(font)
    if not view.exaggeration:  # an exaggerated drawing tells its factor in the title and has no bar
        size = (view.width(), view.height())
        paint_scale_bar(painter, view.view_state, view.units, size, promised=not view.note)
    for row, example in enumerate(drawing.examples[:MOST_EXAMPLES] if drawing else ()):
        painter.setPen(colour(look.unknown))
        place = QRectF(10, 8 + line_px * (row + 1), view.width() - 20, line_px)
        painter.drawText(place, Qt.AlignmentFlag.AlignLeft, f"◊ {example}"[:160])


def paint_value(painter: QPainter, view: "DrawingView", handle: Handle | None, value: float) -> None:
    """Paint the value being pulled, or the one chosen by keys, beside its handle in large figures."""
    look, label = view.view_state.look, view.keyboard.label(view.labels)
    if label is not None:
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour(look.glow), 3.0))
        painter.drawRect(label_rect(label, view.origin()).adjusted(-3, -2, 3, 3))
    if handle is None or view.drawing is None:
        return
    shown = f"{value:.2f}°" if handle.turns else _measured(value, handle.measure, view.units)
    text = f"{handle.name}: {shown}"
    at = next((view.to_px(h.at) for h in view.drawing.handles if h.path == handle.path), QPointF(20, 40))
    metrics = painter.fontMetrics()
    wide = metrics.horizontalAdvance(text) + 20
    x = min(max(at.x() + 18, 6.0), view.width() - wide - 6.0)
    rect = QRectF(x, min(max(at.y() - 44, 30.0), view.height() - 60.0), wide, 28)
    painter.setPen(QPen(colour(look.accent), 1.0))
    painter.setBrush(colour(look.accent))
    painter.drawRoundedRect(rect, 6, 6)
    painter.setPen(colour(look.accent_text))
    painter.drawText(rect, Qt.AlignmentFlag.AlignCenter, text)


def _measured(value: float, measure: str, units: Units) -> str:
    """Return what a pulled handle measures, in its unit."""
    kind = KINDS[measure]
    return show_length(value, units) if kind is LENGTH else show_in(value, kind, units, 2 if not kind.inner else 1)
