"""The photo of a thing on a bench: shown where there is one, else its file is asked for."""

from collections.abc import Callable
from pathlib import Path

from PySide6.QtWidgets import QFileDialog, QWidget

from bicentra.app.widgets.photo_dialog import PICTURES, edit_photo
from bicentra.study.desks.photos import add_photo, photos_of
from bicentra.study.document.photos import path_of
from bicentra.study.document.study import Study


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
