"""The handle of a drawing as a picture: a disc with the two ways it can go. The same few come again in every frame."""

import math
from functools import lru_cache

from PySide6.QtCore import QLineF, QPointF, Qt
from PySide6.QtGui import QPainter, QPen, QPixmap

from bicentra.app.theme import Look, colour

HANDLE_PX = 11.0
DOT_PX = 2 * HANDLE_PX + 4
"""Radius of the disc, and width of its picture [px]."""
TIP_PX, BARB_PX, BARB_TURN = 7.0, 4.5, 2.6


@lru_cache(maxsize=1024)
def handle_picture(turn_deg: int, hot: bool, look: Look, ratio: float) -> QPixmap:
    """Return the picture of a handle that can go along ``turn_deg`` (clockwise from right) and back, lit where it is ``hot``."""
    made = QPixmap(math.ceil(DOT_PX * ratio), math.ceil(DOT_PX * ratio))
    made.setDevicePixelRatio(ratio)
    made.fill(Qt.GlobalColor.transparent)
    painter, at = QPainter(made), QPointF(DOT_PX / 2, DOT_PX / 2)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.setBrush(colour(look.glow if hot else look.accent))
    painter.setPen(QPen(colour(look.paper), 2.0))
    painter.drawEllipse(at, HANDLE_PX, HANDLE_PX)
    painter.setPen(QPen(colour(look.accent_text), 2.0))
    painter.drawLines(_double_arrow(at, math.radians(turn_deg)))
    painter.end()
    return made


def _double_arrow(at: QPointF, turn: float) -> list[QLineF]:
    """The heads of an arrow with two ends."""
    lines = []
    for way in (turn, turn + math.pi):
        tip = QPointF(at.x() + TIP_PX * math.cos(way), at.y() + TIP_PX * math.sin(way))
        for barb in (way + BARB_TURN, way - BARB_TURN):
            lines.append(QLineF(tip, QPointF(tip.x() + BARB_PX * math.cos(barb), tip.y() + BARB_PX * math.sin(barb))))
    return lines
