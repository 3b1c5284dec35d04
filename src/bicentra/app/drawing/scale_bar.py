"""The bar that proves a drawing's scale."""

from PySide6.QtCore import QPointF
from PySide6.QtGui import QPainter, QPen

from bicentra.app.drawing.view_state import ViewState
from bicentra.app.theme import colour
from bicentra.core.base.quantities import Units

SCALE_BARS = (0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 200.0, 500.0)
LEAST_PX = 48


def paint_scale_bar(painter: QPainter, state: ViewState, units: Units, size: tuple[int, int]) -> None:
    """Paint the bar at the foot of a sheet of ``size`` pixels: the shortest round length of at least ``LEAST_PX`` pixels."""
    look, scale, (wide, high) = state.look, state.scale, size
    one = 25.4 if units == "in" else 1.0
    count = next((bar for bar in SCALE_BARS if bar * one * scale >= LEAST_PX), SCALE_BARS[-1])
    long = count * one
    y, x = high - 14.0, 12.0
    painter.setPen(QPen(colour(look.text), 1.6))
    painter.drawLine(QPointF(x, y), QPointF(x + long * scale, y))
    for end in (x, x + long * scale):
        painter.drawLine(QPointF(end, y - 5), QPointF(end, y + 5))
    painter.setPen(colour(look.faint))
    text = f"{count:g} {units}"
    full = f"{text}, true to scale"
    if x + long * scale + 12 + painter.fontMetrics().horizontalAdvance(full) < wide:
        text = full
    painter.drawText(QPointF(x + long * scale + 8, y + 4), text)
