"""A one-line label that ends in an ellipsis when its text is wider than itself."""

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QLabel, QSizePolicy


class ElidedLabel(QLabel):
    """Shows as much of its text as fits; the whole text stays in the tool tip the caller sets."""

    def __init__(self) -> None:
        super().__init__()
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)

    def minimumSizeHint(self) -> QSize:
        """Return a size that never forces the window wider."""
        return QSize(40, super().minimumSizeHint().height())

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the text, elided."""
        del event
        painter = QPainter(self)
        shown = painter.fontMetrics().elidedText(self.text(), Qt.TextElideMode.ElideRight, self.width())
        painter.setPen(self.palette().windowText().color())
        painter.drawText(self.rect(), Qt.AlignmentFlag.AlignVCenter | Qt.AlignmentFlag.AlignLeft, shown)
