"""Photos put to a vehicle, a corner or a reading of its survey."""

from pathlib import Path

from bicentra.core.base.errors import StoreError
from bicentra.core.parts.photo import Photo
from bicentra.study.document.photos import take_in
from bicentra.study.document.study import Study
from bicentra.study.papers.imprint import today


def add_photo(study: Study, source: Path, of: str) -> None:
    """Copy the picture at ``source`` beside the job and note what it is ``of``, as one step. Raises ``BicentraError``."""
    if study.path is None:
        raise StoreError("photos: save the job first: they are kept in a folder beside its file")
    name = take_in(source, study.path, today())
    new = Photo(file=name, of=of, date=today())
    study.edit("Add a photo", (("photos", (*study.job.photos, new)),))


def of_reading(corner: str, name: str) -> str:
    """Return what a photo of the reading called ``name`` is noted as being of."""
    return f"{corner}: {name}"


def photos_of(study: Study, of: str) -> tuple[int, ...]:
    """Return the places of the photos of a thing among all photos."""
    return tuple(k for k, photo in enumerate(study.job.photos) if photo.of == of)
