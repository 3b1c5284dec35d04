"""What stops most sets: a bar for each reason, as long as its share; one that is clicked leaves only the sets it stops."""

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QHBoxLayout, QSizePolicy, QWidget

from bicentra.app.theme import LIGHT, Look, colour
from bicentra.app.widgets.plain import tip

HIGH_PX, LEAST_PX = 44, 110


class ReasonBar(QAbstractButton):
    """One reason with how many sets it stops."""

    def __init__(self, reason: str, title: str) -> None:
        super().__init__()
        self.reason, self.title, self.look = reason, title, LIGHT
        self.count, self.share = 0, 0.0
        self.setCheckable(True)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def show_count(self, count: int, share: float, look: Look) -> None:
        """Show how many sets it stops, and which ``share`` of the worst reason's that is."""
        self.count, self.share, self.look = count, share, look
        self.setAccessibleName(f"{self.title} stops {count} sets")
        self.setToolTip(tip(f"{self.title} stops {count} sets. Click to look at some of them."))
        self.update()

    def sizeHint(self) -> QSize:
        """Return the size it wants."""
        return QSize(LEAST_PX, HIGH_PX)

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the count and the title over the bar."""
        del event
        painter, look = QPainter(self), self.look
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        frame, on = QRectF(self.rect()).adjusted(1, 1, -1, -1), self.isChecked()
        edge = look.glow if self.hasFocus() else look.accent if on or self.underMouse() else look.edge
        painter.setPen(QPen(colour(edge), 2.0 if on or self.hasFocus() else 1.0))
        painter.setBrush(colour(look.paper))
        painter.drawRoundedRect(frame, 5, 5)
        bar = QRectF(frame.left() + 3, frame.bottom() - 9, (frame.width() - 6) * self.share, 6)
        painter.fillRect(bar, colour(look.stop))
        painter.setPen(colour(look.text))
        head = frame.adjusted(7, 2, -7, -10)
        text = f"{self.count:,}".replace(",", " ") + f"  {self.title}"
        shown = painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, int(head.width()))
        painter.drawText(head, Qt.AlignmentFlag.AlignVCenter, shown)


class ReasonBars(QWidget):
    """The bars, the worst reason first. ``chosen`` carries a reason, or nothing when all sets are wanted again."""

    chosen = Signal(str)

    def __init__(self) -> None:
        super().__init__()
        self.bars: list[ReasonBar] = []
        self.reason = ""
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.setSpacing(6)
        self.hide()

    def show_stops(self, stops: tuple[tuple[str, str, int], ...], look: Look) -> None:
        """Show (reason, title, count) of what stops most; bars are made anew only when the reasons are others."""
        if [bar.reason for bar in self.bars] != [reason for reason, _, _ in stops]:
            for bar in self.bars:
                self._row.removeWidget(bar)
                bar.hide()
                bar.deleteLater()
            self.bars = [ReasonBar(reason, title) for reason, title, _ in stops]
            for bar in self.bars:
                bar.setChecked(bar.reason == self.reason)
                bar.clicked.connect(lambda _checked=False, reason=bar.reason: self._pick(reason))
                self._row.addWidget(bar)
        most = max((count for _, _, count in stops), default=1)
        for bar, (_, _, count) in zip(self.bars, stops):
            bar.show_count(count, count / most, look)
        self.setVisible(bool(stops))

    def let_go(self) -> None:
        """No reason is chosen any more; nothing is told of it."""
        self.reason = ""
        for bar in self.bars:
            bar.setChecked(False)

    def _pick(self, reason: str) -> None:
        self.reason = "" if self.reason == reason else reason
        for bar in self.bars:
            bar.setChecked(bar.reason == self.reason)
        self.chosen.emit(self.reason)
