"""The frame of the program: on screen at once, furnished with the workshop as soon as that is loaded."""

from collections.abc import Callable

from PySide6.QtCore import QByteArray, QSettings, Qt, QTimer
from PySide6.QtGui import QCloseEvent, QPaintEvent
from PySide6.QtWidgets import QMainWindow, QWidget

from bicentra.app.widgets.plain import plain_label


class Shell(QMainWindow):
    """A window that shows what is being opened, until the workshop takes its place."""

    def __init__(self, opening: str, settings: QSettings) -> None:
        super().__init__()
        self._settings = settings
        self.setWindowTitle("Bicentra")
        self.resize(1280, 800)
        self.setMinimumSize(900, 560)
        place = settings.value("place")
        if isinstance(place, QByteArray):
            self.restoreGeometry(place)
        waiting = plain_label(f"Opening {opening} …")
        waiting.setObjectName("head")
        waiting.setTextFormat(Qt.TextFormat.PlainText)
        waiting.setAlignment(Qt.AlignmentFlag.AlignCenter)
        self.setCentralWidget(waiting)
        self.workshop: QWidget | None = None
        self._make: Callable[[], QWidget] | None = None

    def furnish_with(self, make: Callable[[], QWidget]) -> None:
        """Put what ``make`` returns in place as soon as this window has been painted."""
        self._make = make

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the frame; after the first time, furnish it."""
        super().paintEvent(event)
        if self._make is not None:
            make, self._make = self._make, None
            QTimer.singleShot(0, lambda: self._furnish(make()))

    def _furnish(self, workshop: QWidget) -> None:
        self.workshop = workshop
        workshop.windowTitleChanged.connect(self.setWindowTitle)
        self.setWindowTitle(workshop.windowTitle())
        self.setCentralWidget(workshop)

    def closeEvent(self, event: QCloseEvent) -> None:
        """Close only when the workshop lets go: it asks about unsaved changes."""
        if self.workshop is not None and not self.workshop.close():
            event.ignore()
        else:
            self._settings.setValue("place", self.saveGeometry())
            event.accept()
