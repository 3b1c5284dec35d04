"""The four verdict marks, told apart by shape alone: ring, triangle, barred square, open diamond."""

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPen, QPolygonF


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
