"""The trials in a row, oldest first: number, date, where the caliper sat, and how far it had come."""

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QSizePolicy, QWidget

from bicentra.app.theme import LIGHT, Look, colour
from bicentra.core.base.numbers import is_known
from bicentra.core.base.records import Record

CARD_PX, HIGH_PX, PLOT_PX = 166, 96, 34


class Stop(Record, frozen=True):
    """One trial in the row: its texts, offset and tilt in parts of their limits, whether it is locked or practice."""

    title: str
    text: str
    offset: float
    tilt: float
    locked: bool = False


class Timeline(QWidget):
    """``chosen`` carries the number of the trial that is to be shown."""

    chosen = Signal(int)

    def __init__(self, look: Look = LIGHT) -> None:
        super().__init__()
        self.look = look
        self.stops: tuple[Stop, ...] = ()
        self.shown = -1
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName("Trials, oldest first")

    def dress(self, look: Look) -> None:
        """Show it in ``look``."""
        self.look = look
        self.updateGeometry()
        self.update()

    def sizeHint(self) -> QSize:
        """Return the size it wants."""
        return QSize(300, round(HIGH_PX * self.look.size))

    def show_stops(self, stops: tuple[Stop, ...], shown: int, look: Look) -> None:
        """Show the trials, the one with number ``shown`` marked."""
        self.stops, self.shown, self.look = stops, shown, look
        said = "; ".join(f"{stop.title}: {stop.text}" for stop in stops)
        self.setAccessibleDescription(said)
        self.updateGeometry()
        self.update()

    @property
    def first(self) -> int:
        """The first trial there is room for, so that the last and the shown one are seen."""
        room = max(int(self.width() // (CARD_PX * self.look.size)), 1)
        last = len(self.stops) - 1
        return max(0, min(self.shown, last - room + 1))

    def place_of(self, number: int) -> QRectF:
        """Return where a trial's card is [px]."""
        wide = CARD_PX * self.look.size
        return QRectF((number - self.first) * wide + 2, 2, wide - 4, self.height() - 4)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint every card: title, words, and below them offset and tilt as marks within their limits."""
        del event
        painter, look = QPainter(self), self.look
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        if not self.stops:
            painter.setPen(colour(look.faint))
            painter.drawText(QRectF(self.rect()), Qt.AlignmentFlag.AlignCenter, "No trial yet at this corner")
        before: QPointF | None = None
        for number in range(self.first, len(self.stops)):
            stop, place = self.stops[number], self.place_of(number)
            on = number == self.shown
            edge = look.glow if on and self.hasFocus() else look.accent if on else look.edge
            painter.setPen(QPen(colour(edge), 2.0 if on else 1.0))
            painter.setBrush(colour(look.card))
            painter.drawRoundedRect(place, 6, 6)
            painter.setPen(colour(look.text))
            line = 17 * look.size
            painter.drawText(
                place.adjusted(6, 3, -4, 0), Qt.AlignmentFlag.AlignTop, f"{stop.title}{' ■' if stop.locked else ''}"
            )
            painter.setPen(colour(look.faint))
            painter.drawText(place.adjusted(6, 3 + line, -4, 0), Qt.AlignmentFlag.AlignTop, stop.text)
            before = self._mark(painter, place, stop, before)

    def _mark(self, painter: QPainter, place: QRectF, stop: Stop, before: QPointF | None) -> QPointF | None:
        """Paint the offset between its limits, joined to the one before; returns where it lies."""
        look, high = self.look, PLOT_PX * self.look.size
        band_ink = colour(look.faint)
        band_ink.setAlpha(50)
        middle, band = place.bottom() - high / 2 - 2, high * 0.25
        painter.fillRect(QRectF(place.left() + 4, middle - band, place.width() - 8, 2 * band), band_ink)
        if not is_known(stop.offset):
            return None
        at = QPointF(place.center().x(), middle - max(-1.9, min(stop.offset, 1.9)) * band)
        verdict = "ok" if abs(stop.offset) <= 1.0 and (not is_known(stop.tilt) or abs(stop.tilt) <= 1.0) else "stop"
        ink = colour(look.verdict(verdict))
        if before is not None:
            painter.setPen(QPen(colour(look.faint), 1.2))
            painter.drawLine(before, at)
        lean = max(-1.9, min(stop.tilt, 1.9)) * band * 0.8 if is_known(stop.tilt) else 0.0
        painter.setPen(QPen(ink, 2.6))
        painter.drawLine(at + QPointF(-16, lean / 2), at + QPointF(16, -lean / 2))
        painter.setBrush(ink)
        if verdict == "ok":
            painter.drawEllipse(at, 4.0, 4.0)
        else:
            painter.drawRect(QRectF(at.x() - 4, at.y() - 4, 8, 8))
        return at

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Choose the trial under the pointer."""
        for number in range(self.first, len(self.stops)):
            if self.place_of(number).contains(event.position()):
                self.chosen.emit(number)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Left and right go from trial to trial."""
        step = {Qt.Key.Key_Left: -1, Qt.Key.Key_Right: 1}.get(Qt.Key(event.key()), 0)
        if step and 0 <= self.shown + step < len(self.stops):
            self.chosen.emit(self.shown + step)
        else:
            super().keyPressEvent(event)
