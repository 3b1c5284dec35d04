"""One photo large, with its note: asked about from wherever photos are kept."""

from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtGui import QPixmap
from PySide6.QtWidgets import QDialog, QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from bicentra.app.widgets.picture_reader import show_small
from bicentra.core.base.records import replace
from bicentra.core.parts.photo import Photo

PICTURES = "Pictures (*.jpg *.jpeg *.png *.webp)"
LARGE_PX, GONE = (900, 560), "The file is no longer beside the job."
Asked = tuple[str, tuple[Photo, ...]]


def edit_photo(parent: QWidget, photos: tuple[Photo, ...], k: int, path: Path | None) -> Asked | None:
    """Show a photo large; returns what was done with it and all photos after that, or ``None`` where it stays as it is."""
    dialog = PhotoDialog(parent, photos[k], path)
    if not dialog.exec():
        return None
    if dialog.gone:
        return "Take a photo out", (*photos[:k], *photos[k + 1 :])
    note = dialog.note.text().strip()
    if note == photos[k].note:
        return None
    return "Change a photo's note", (*photos[:k], replace(photos[k], note=note), *photos[k + 1 :])


class PhotoDialog(QDialog):
    """One photo, as large as the window allows."""

    def __init__(self, parent: QWidget, photo: Photo, path: Path | None) -> None:
        super().__init__(parent)
        self.setWindowTitle("Photo")
        self.gone = False
        column = QVBoxLayout(self)
        self.picture = QLabel(GONE if path is None else "…")
        self.picture.setAccessibleName("The photo")
        column.addWidget(self.picture)
        if path is not None:
            self.picture.setMinimumSize(*LARGE_PX)
            self.picture.setAlignment(Qt.AlignmentFlag.AlignCenter)
            show_small(self.picture, path, LARGE_PX, self._take)
        self.note = QLineEdit(photo.note)
        self.note.setAccessibleName("Note")
        self.note.setPlaceholderText("What is to be seen")
        self.note.setMaxLength(190)
        column.addWidget(self.note)
        row = QHBoxLayout()
        out = QPushButton("Take it out of the job")
        out.setAutoDefault(False)
        out.clicked.connect(self._take_out)
        row.addWidget(out)
        row.addStretch(1)
        close = QPushButton("Keep")
        close.setDefault(True)
        close.clicked.connect(self.accept)
        row.addWidget(close)
        column.addLayout(row)

    def _take(self, picture: QPixmap) -> None:
        """Show the picture that has been read."""
        if picture.isNull():
            self.picture.setText("No picture that can be shown: a JPEG, PNG or WebP of a usual size is expected.")
        else:
            self.picture.setPixmap(picture)

    def reject(self) -> None:
        """Close; what was typed as its note is kept, as by the button."""
        self.accept()

    def _take_out(self) -> None:
        self.gone = True
        self.accept()
