"""Text wrapped into a box, cut with an ellipsis where it does not fit."""

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QPainter

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
