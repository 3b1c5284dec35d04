"""What lies over a drawing: handles that a pointer or a key moves, and the bar that proves its scale."""

import math
from dataclasses import dataclass
from functools import lru_cache

from PySide6.QtCore import QLineF, QPointF, Qt
from PySide6.QtGui import QPainter, QPen, QPixmap

from bicentra.app.drawing.view_state import ViewState
from bicentra.app.theme import Look, colour
from bicentra.core.base.quantities import Units
from bicentra.core.base.records import Record
from bicentra.core.drawing.model import Handle
from bicentra.core.drawing.places import Placed
from bicentra.core.geometry.outline import Point


class Drag(Record, frozen=True):
    """A handle being moved: where the pointer took hold [mm], and the value it had then."""

    handle: Handle
    start: Point
    value: float
    flip: float = 1.0

    def value_at(self, pointer: Point, snap: bool = True) -> float:
        """Return the value for a pointer at ``pointer`` [mm]; snapped to the handle's step unless held off."""
        handle = self.handle
        if handle.turns:
            turned = math.degrees(_angle(pointer, self.flip) - _angle(self.start, self.flip))
            moved = (turned + 180.0) % 360.0 - 180.0
            value = (self.value + moved) % 360.0
        else:
            dx, dy = pointer[0] - self.start[0], pointer[1] - self.start[1]
            value = self.value + handle.gain * (dx * handle.along[0] + dy * handle.along[1])
        if snap:
            value = round(value / handle.step) * handle.step
        return round(value % 360.0 if handle.turns else value, 4)


def _angle(point: Point, flip: float) -> float:
    """Return the clock angle [rad] of a point on the sheet; ``flip`` −1 where the sheet is a mirror image."""
    return math.atan2(point[1], flip * point[0])


ARROWS = {
    Qt.Key.Key_Right: (1.0, 0.0), Qt.Key.Key_Left: (-1.0, 0.0), Qt.Key.Key_Up: (0.0, 1.0), Qt.Key.Key_Down: (0.0, -1.0),
}  # fmt: skip
ACROSS = 0.3
"""Cosine below which an arrow points across what a handle can do."""


@dataclass
class KeyboardNavigation:
    """What is chosen: the key path of a handle or of a number that may be typed over; empty for nothing."""

    chosen: str = ""
    typed: bool = False

    def step(self, handles: tuple[Handle, ...], labels: tuple[Placed, ...], back: bool = False) -> None:
        """Choose the next thing, or the one before; after the last nothing, then the first again."""
        things = [(h.path, False) for h in handles] + [(label.edits, True) for label in labels if label.edits]
        stops = [("", False), *dict.fromkeys(things)]
        here = stops.index((self.chosen, self.typed)) if (self.chosen, self.typed) in stops else 0
        self.chosen, self.typed = stops[(here + (-1 if back else 1)) % len(stops)]

    def handle(self, handles: tuple[Handle, ...]) -> Handle | None:
        """Return the handle that is chosen, if it is still there."""
        return None if self.typed else next((h for h in handles if h.path == self.chosen), None)

    def label(self, labels: tuple[Placed, ...]) -> Placed | None:
        """Return the number that is chosen, if it is still there."""
        return next((label for label in labels if label.edits == self.chosen), None) if self.typed else None

    @staticmethod
    def nudged(handle: Handle, value: float, key: Qt.Key, times: float) -> float | None:
        """Return the value after an arrow key: one step of the handle the way it points; ``None`` for one that points across."""
        dx, dy = ARROWS[key]
        along = handle.along[0] * dx + handle.along[1] * dy
        if abs(along) < ACROSS:
            return None
        way = (1.0 if along > 0 else -1.0) * (1.0 if handle.gain > 0 else -1.0)
        moved = round((value + way * handle.step * times) / handle.step) * handle.step
        return round(moved % 360.0 if handle.turns else moved, 4)


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


SCALE_BARS = (0.1, 0.2, 0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0, 100.0, 200.0, 500.0)
LEAST_PX = 48


def paint_scale_bar(
    painter: QPainter, state: ViewState, units: Units, size: tuple[int, int], promised: bool = True
) -> None:
    """Paint the bar at the foot of a sheet of ``size`` pixels: the shortest round length of at least ``LEAST_PX`` pixels.

    ``promised``: all of it is true to scale, no dashed example among it.
    """
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
    full = f"{text}, true to scale" if promised else text
    if x + long * scale + 12 + painter.fontMetrics().horizontalAdvance(full) < wide:
        text = full
    painter.drawText(QPointF(x + long * scale + 8, y + 4), text)
