"""How the reading asked for is taken: jaws inside or outside, a depth rod under a straightedge, an indicator, drawn small."""

from PySide6.QtCore import QPointF, QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPolygonF
from PySide6.QtWidgets import QWidget

from bicentra.app.theme import LIGHT, Look, colour
from bicentra.study.desks.survey import ReadingAsk

WIDE_PX, HIGH_PX = 164, 92
LEFT, RIGHT, ROUND, LINE = 38.0, 126.0, 17.0, 58.0
"""Middles of the two round things, their radius, and the height they stand at [px]."""
ENDS = {
    "near-near": (LEFT + ROUND, RIGHT - ROUND), "far-far": (LEFT - ROUND, RIGHT + ROUND),
    "near-far": (LEFT + ROUND, RIGHT + ROUND), "centres": (LEFT, RIGHT),
}  # fmt: skip
"""Between which places each sense is read."""
WORDS = {"diameter": "jaws across", "depth": "depth rod under a straightedge", "straightedge": "jaws over the straightedge",
         "sweep": "indicator against the face", "direction": "angle gauge along both"}  # fmt: skip
LISTS = {
    "features": "diameter",
    "directions": "direction",
    "distances": "distance",
    "faces": "depth",
    "sweeps": "sweep",
}


def kind_of_ask(ask: ReadingAsk) -> str:
    """Return what kind of reading is asked for; one that is taken again is of the kind it was."""
    return LISTS.get(ask.list, "distance") if ask.kind == "again" else ask.kind


class HowPicture(QWidget):
    """The picture. Hidden while nothing is asked for."""

    def __init__(self) -> None:
        super().__init__()
        self.look: Look = LIGHT
        self._ask: ReadingAsk | None = None
        self.setFixedSize(QSize(WIDE_PX, HIGH_PX))

    def show_ask(self, ask: ReadingAsk | None) -> None:
        """Show how ``ask`` is taken."""
        self._ask = ask
        if ask is not None:
            kind = kind_of_ask(ask)
            self.setAccessibleName(f"How it is taken: {WORDS.get(kind, ask.sense.replace('-', ' to '))}")
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint what is measured in grey, the tool and what is read in the strong colour."""
        del event
        if self._ask is None:
            return
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), colour(self.look.paper))
        painter.setPen(QPen(colour(self.look.faint), 1.6))
        painter.setBrush(colour(self.look.edge))
        kind = kind_of_ask(self._ask)
        draw = {"diameter": self._diameter, "depth": self._depth, "straightedge": self._thickness, "sweep": self._sweep,
                "direction": self._direction}.get(kind, self._distance)  # fmt: skip
        draw(painter)

    def _strong(self, painter: QPainter, wide: float = 2.0) -> None:
        painter.setPen(QPen(colour(self.look.accent), wide))
        painter.setBrush(colour(self.look.accent))

    def _arrows(self, painter: QPainter, a: QPointF, b: QPointF) -> None:
        """A line from ``a`` to ``b`` with a head at either end."""
        self._strong(painter)
        painter.drawLine(a, b)
        way = b - a
        long = max((way.x() ** 2 + way.y() ** 2) ** 0.5, 1.0)
        u = QPointF(way.x() / long, way.y() / long)
        across = QPointF(-u.y(), u.x())
        for tip, back in ((a, u), (b, -u)):
            painter.drawPolygon(QPolygonF([tip, tip + back * 8 + across * 4, tip + back * 8 - across * 4]))

    def _distance(self, painter: QPainter) -> None:
        """Two round things; the jaws at the edges that are read."""
        for x in (LEFT, RIGHT):
            painter.drawEllipse(QPointF(x, LINE), ROUND, ROUND)
        painter.setPen(QPen(colour(self.look.faint), 1.0, Qt.PenStyle.DashDotLine))
        painter.drawLine(QPointF(LEFT - 28, LINE), QPointF(RIGHT + 28, LINE))
        sense = self._ask.sense if self._ask is not None else "near-near"
        start, end = ENDS.get(sense, ENDS["near-near"])
        self._strong(painter, 3.0)
        for x in (start, end):
            painter.drawLine(QPointF(x, 20.0), QPointF(x, LINE))
        painter.drawLine(QPointF(start - 8, 20.0), QPointF(end + 8, 20.0))
        self._arrows(painter, QPointF(start, 32.0), QPointF(end, 32.0))

    def _diameter(self, painter: QPainter) -> None:
        middle = QPointF(WIDE_PX / 2, LINE - 4)
        painter.drawEllipse(middle, 28.0, 28.0)
        self._strong(painter, 3.0)
        for x in (middle.x() - 28, middle.x() + 28):
            painter.drawLine(QPointF(x, 12.0), QPointF(x, middle.y()))
        painter.drawLine(QPointF(middle.x() - 36, 12.0), QPointF(middle.x() + 36, 12.0))
        self._arrows(painter, middle - QPointF(28, 0), middle + QPointF(28, 0))

    def _depth(self, painter: QPainter) -> None:
        """The straightedge on the hub's face, the rod down to a lug's."""
        painter.drawRect(QRectF(14, 34, 40, 50))
        painter.drawRect(QRectF(108, 66, 42, 18))
        self._strong(painter)
        painter.drawRect(QRectF(8, 22, 148, 10))
        painter.drawRect(QRectF(126, 6, 5, 20))
        self._arrows(painter, QPointF(128.5, 34), QPointF(128.5, 65))

    def _thickness(self, painter: QPainter) -> None:
        painter.drawRect(QRectF(20, 38, 124, 22))
        self._arrows(painter, QPointF(82, 39), QPointF(82, 59))
        self._strong(painter, 3.0)
        painter.drawLine(QPointF(70, 36), QPointF(94, 36))
        painter.drawLine(QPointF(70, 62), QPointF(94, 62))

    def _sweep(self, painter: QPainter) -> None:
        """The face seen from its edge, the indicator's tip on it."""
        painter.drawRect(QRectF(30, 10, 12, 74))
        self._strong(painter, 3.0)
        painter.drawLine(QPointF(43, 30), QPointF(84, 30))
        painter.setBrush(colour(self.look.paper))
        painter.drawEllipse(QPointF(104, 30), 20.0, 20.0)
        painter.drawLine(QPointF(104, 30), QPointF(116, 20))
        self._strong(painter)
        painter.drawArc(QRectF(8, 52, 56, 30), 200 * 16, 140 * 16)

    def _direction(self, painter: QPainter) -> None:
        """Two round things with a level along them, and the angle from level."""
        a, b = QPointF(34, 66), QPointF(124, 30)
        for at in (a, b):
            painter.drawEllipse(at, 12.0, 12.0)
        painter.setPen(QPen(colour(self.look.faint), 1.0, Qt.PenStyle.DashDotLine))
        painter.drawLine(a, QPointF(150, 66))
        self._strong(painter, 4.0)
        painter.drawLine(a - QPointF(14, -6), b + QPointF(14, -6))
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(colour(self.look.accent), 2.0))
        painter.drawArc(QRectF(a.x() - 60, a.y() - 60, 120, 120), 0, 22 * 16)
