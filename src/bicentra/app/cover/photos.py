"""The photos on the cover sheet: small ones in a row; one that is clicked is shown large, with its note."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtCore import QRectF, QSize, Qt, Signal
from PySide6.QtGui import QPainter, QPaintEvent, QPen, QPixmap
from PySide6.QtWidgets import (
    QAbstractButton,
    QFileDialog,
    QHBoxLayout,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from bicentra.app.theme import LIGHT, Look, colour
from bicentra.app.widgets.basics import scrolled
from bicentra.app.widgets.photos import PICTURES, edit_photo, show_small
from bicentra.app.widgets.plain import plain_label, tip
from bicentra.core.parts.attachments import Photo

SMALL_PX, PICTURE_PX, HIGH_PX = QSize(150, 128), QSize(280, 194), 158
"""A card, the picture in it on a screen of double density, and the strip [px]."""
OF_ALL = "vehicle"


class PhotoCard(QAbstractButton):
    """One small photo with what it is of and its note below."""

    def __init__(self, photo: Photo, path: Path | None, look: Look) -> None:
        super().__init__()
        self.photo, self.look = photo, look
        self._picture, self._waits = QPixmap(), path is not None
        if path is not None:
            show_small(self, path, (PICTURE_PX.width(), PICTURE_PX.height()), self._take)
        self.setFixedSize(SMALL_PX)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setAccessibleName(f"Photo of the {self.of}, {photo.date}: {photo.note or 'no note'}")
        self.setToolTip(tip(photo.note or photo.file))

    def _take(self, picture: QPixmap) -> None:
        """Show the picture that has been read."""
        self._picture, self._waits = picture, False
        self.update()

    @property
    def of(self) -> str:
        """What it is of, in words."""
        return self.photo.of.replace("-", " ") or OF_ALL

    def paintEvent(self, event: QPaintEvent) -> None:
        """Paint the photo, or that it is gone, and the line below."""
        del event
        painter, look = QPainter(self), self.look
        painter.setRenderHints(QPainter.RenderHint.Antialiasing | QPainter.RenderHint.SmoothPixmapTransform)
        frame = QRectF(self.rect()).adjusted(1, 1, -1, -1)
        painter.setPen(QPen(colour(look.glow if self.hasFocus() else look.edge), 2.0 if self.hasFocus() else 1.0))
        painter.setBrush(colour(look.paper))
        painter.drawRoundedRect(frame, 5, 5)
        place = frame.adjusted(5, 5, -5, -26)
        painter.setPen(colour(look.text))
        if self._picture.isNull():
            painter.drawText(place, Qt.AlignmentFlag.AlignCenter, "…" if self._waits else "not found")
        else:
            size = self._picture.size().scaled(place.size().toSize(), Qt.AspectRatioMode.KeepAspectRatio)
            corner = place.center()
            spot = QRectF(corner.x() - size.width() / 2, corner.y() - size.height() / 2, size.width(), size.height())
            painter.drawPixmap(spot, self._picture, QRectF(self._picture.rect()))
        below = QRectF(frame.left() + 6, frame.bottom() - 23, frame.width() - 12, 20)
        text = f"{self.of}: {self.photo.note}" if self.photo.note else self.of
        shown = painter.fontMetrics().elidedText(text, Qt.TextElideMode.ElideRight, int(below.width()))
        painter.drawText(below, Qt.AlignmentFlag.AlignVCenter, shown)


class PhotoStrip(QWidget):
    """All photos in a row. ``added`` carries the file of a new one, ``changed`` the whole new list."""

    added = Signal(object)
    changed = Signal(str, object)

    def __init__(self, where: Callable[[str], Path | None]) -> None:
        super().__init__()
        self._where, self.look = where, LIGHT
        self.photos: tuple[Photo, ...] = ()
        self.cards: list[PhotoCard] = []
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        head = QHBoxLayout()
        head.addWidget(plain_label("Photos"), 1)
        self.add_button = QPushButton("Add a photo…")
        self.add_button.setToolTip("Copied beside the job, made smaller, without the camera's location")
        self.add_button.clicked.connect(self.ask)
        head.addWidget(self.add_button)
        column.addLayout(head)
        host = QWidget()
        host.setObjectName("desk")
        self._row = QHBoxLayout(host)
        self._row.setContentsMargins(0, 0, 0, 0)
        self._row.addStretch(1)
        area = scrolled(host)
        area.setWidgetResizable(True)
        area.setFixedHeight(HIGH_PX)
        area.setAccessibleName("Photos of the vehicle and its corners")
        column.addWidget(area)

    def show_photos(self, photos: tuple[Photo, ...], look: Look) -> None:
        """Show ``photos``, made again only when there are others."""
        if photos == self.photos and look is self.look and len(self.cards) == len(photos):
            return
        self.photos, self.look = photos, look
        for card in self.cards:
            self._row.removeWidget(card)
            card.hide()
            card.deleteLater()
        self.cards = [PhotoCard(photo, self._where(photo.file), look) for photo in photos]
        for k, card in enumerate(self.cards):
            card.clicked.connect(lambda _checked=False, k=k: self.open(k))
            self._row.insertWidget(k, card)

    def ask(self) -> None:
        """Ask for a picture's file."""
        name, _ = QFileDialog.getOpenFileName(self, "Add a photo", str(Path.home()), PICTURES)
        if name:
            self.added.emit(Path(name))

    def open(self, k: int) -> None:
        """Show one photo large; its note may be typed, or the photo taken out of the job."""
        asked = edit_photo(self, self.photos, k, self._where(self.photos[k].file))
        if asked is not None:
            self.changed.emit(*asked)
