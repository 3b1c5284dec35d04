"""One photo large, with its note: asked about from wherever photos are kept."""

from pathlib import Path

from PySide6.QtCore import Qt
from PySide6.QtGui import QPixmap
from PySide6.QtWidgets import QDialog, QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from bicentra.core.base.records import replace
from bicentra.core.parts.photo import Photo

PICTURES = "Pictures (*.jpg *.jpeg *.png *.webp *.bmp *.tif *.tiff)"
Asked = tuple[str, tuple[Photo, ...]]


def asked_about(parent: QWidget, photos: tuple[Photo, ...], k: int, path: Path | None) -> Asked | None:
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
        label = QLabel("The file is not beside the job any more.")
        label.setAccessibleName("The photo")
        picture = QPixmap(str(path)) if path is not None else QPixmap()
        if not picture.isNull():
            keep, smooth = Qt.AspectRatioMode.KeepAspectRatio, Qt.TransformationMode.SmoothTransformation
            label.setPixmap(picture.scaled(900, 560, keep, smooth))
        column.addWidget(label)
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

    def _take_out(self) -> None:
        self.gone = True
        self.accept()
