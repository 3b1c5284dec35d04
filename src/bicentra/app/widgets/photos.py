"""Photos: made small in a thread, one shown large with its note, one put to a thing on a bench."""

from collections.abc import Callable
from functools import partial
from pathlib import Path

from PySide6.QtCore import Qt, QThreadPool
from PySide6.QtGui import QImage, QPixmap
from PySide6.QtWidgets import QDialog, QFileDialog, QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget
from shiboken6 import isValid

from bicentra.app import workers
from bicentra.core.base.records import replace
from bicentra.core.parts.attachments import Photo
from bicentra.study.document.photos import Picture, add_photo, path_of, photos_of, small_picture
from bicentra.study.document.study import Study

_pool = QThreadPool()
_pool.setMaxThreadCount(1)
"""One at a time: the memory that a large picture takes while it is read is taken once."""


def show_small(owner: QWidget, path: Path, most: tuple[int, int], take: Callable[[QPixmap], None]) -> None:
    """Have ``take`` given the photo at ``path``, no larger than ``most`` [px], as long as ``owner`` is there; an empty
    one for what is no picture.
    """
    task = workers.Task("Photo", lambda _: small_picture(path, *most))
    task.signals.finished.connect(partial(_hand_over, owner, take))
    task.signals.failed.connect(partial(_hand_over, owner, take, None))
    workers.start(task, _pool)


def wait(milliseconds: int = 5000) -> bool:
    """Wait until no photo is being read any more."""
    return bool(_pool.waitForDone(milliseconds))


def _hand_over(owner: QWidget, take: Callable[[QPixmap], None], found: object, *_: object) -> None:
    if not isValid(owner):
        return
    if isinstance(found, Picture):
        image = QImage(found.dots, found.wide, found.high, 3 * found.wide, QImage.Format.Format_RGB888)
        take(QPixmap.fromImage(image.copy()))
    else:
        take(QPixmap())


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


def photo_of(owner: QWidget, study: Study, of: str, attempt: Callable[[Callable[[], object]], object]) -> None:
    """Show the photo ``of`` a thing, or ask for one; ``attempt`` carries out a change and tells what is refused."""
    there = photos_of(study, of)
    if there:
        photos = study.job.photos
        asked = edit_photo(owner, photos, there[-1], path_of(study.path, photos[there[-1]].file))
        if asked is not None:
            attempt(lambda: study.edit(asked[0], (("photos", asked[1]),)))
        return
    name, _ = QFileDialog.getOpenFileName(owner, f"A photo of {of}", str(Path.home()), PICTURES)
    if name:
        attempt(lambda: add_photo(study, Path(name), of))
