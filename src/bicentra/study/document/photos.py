"""Photos of a job: copied beside it, made smaller, without what the camera wrote into them; put to a corner or a reading."""

import io
from pathlib import Path
from typing import TYPE_CHECKING

from bicentra.core.base.errors import StoreError
from bicentra.core.base.records import Record
from bicentra.core.parts.attachments import Photo
from bicentra.study.document.store import shown, write_atomic
from bicentra.study.document.study import Study
from bicentra.study.papers.writing import today

if TYPE_CHECKING:
    from PIL import Image


LARGEST_PX, MOST_PX, QUALITY = 1600, 60_000_000, 85
"""How large a kept photo is at most on a side, and how many dots one may have that is taken or shown."""
MOST_BYTES, FORMATS = 40 * 2**20, ("JPEG", "PNG", "WEBP")
"""How large a picture's file may be [bytes], and what kinds are read: nothing that is a program, or draws what it likes."""
SUFFIX = ".bicentra.json"


def folder_of(job_file: Path) -> Path:
    """Return the folder in which the photos of the job at ``job_file`` lie."""
    return job_file.with_name(f"{job_file.name.removesuffix(SUFFIX)}.photos")


def take_photo(source: Path, job_file: Path, date: str) -> str:
    """Copy the picture at ``source`` beside the job; returns its name there. Raises ``StoreError``.

    Turned as it was held, no larger than 1600 dots, as JPEG; nothing the camera noted goes along.
    """
    data = _made(source)
    folder = folder_of(job_file)
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise StoreError(f"{shown(folder)}: {error.strerror or error}") from error
    number = 1
    while (folder / f"{date}-{number:02d}.jpg").exists():
        number += 1
    name = f"{date}-{number:02d}.jpg"
    write_atomic(folder / name, data)
    return name


class Picture(Record, frozen=True):
    """A photo made small, to be shown: how wide and high [px], and its dots, three bytes each, row by row."""

    wide: int
    high: int
    dots: bytes


def small_picture(path: Path, wide: int, high: int) -> Picture | None:
    """Return the photo at ``path`` no larger than ``wide`` × ``high`` [px]; ``None`` for what is no picture, or too
    large a one.
    """
    try:
        made = _opened(path, (wide, high))
    except StoreError:
        return None
    return Picture(made.width, made.height, made.tobytes())


def _opened(source: Path, most: tuple[int, int]) -> "Image.Image":
    """Return a picture turned as it was held, in RGB, no larger than ``most`` [px]. Raises ``StoreError``."""
    from PIL import Image, ImageOps

    try:
        size = source.stat().st_size
        if size > MOST_BYTES:
            raise StoreError(
                f"{shown(source)}: found {size / 2**20:.0f} MiB, expected at most {MOST_BYTES // 2**20} MiB"
            )
        with Image.open(source, formats=FORMATS) as found:
            if found.width * found.height > MOST_PX:
                raise StoreError(
                    f"{shown(source)}: found {found.width} × {found.height} dots, expected at most {MOST_PX}"
                )
            found.draft("RGB", most)  # a JPEG is read smaller at once: the memory of the whole is never taken
            turned = ImageOps.exif_transpose(found)
            turned.thumbnail(most)
            return turned.convert("RGB")
    except StoreError:
        raise
    except (OSError, ValueError, SyntaxError, MemoryError, Image.DecompressionBombError) as error:
        raise StoreError(f"{shown(source)}: found no picture that can be read, expected JPEG, PNG or WebP") from error


def _made(source: Path) -> bytes:
    from PIL import Image

    turned = _opened(source, (LARGEST_PX, LARGEST_PX))
    out = io.BytesIO()
    bare = Image.new("RGB", turned.size)
    bare.paste(turned)  # the dots alone: what was written beside them stays behind
    bare.save(out, "JPEG", quality=QUALITY)
    return out.getvalue()


def path_of(job_file: Path | None, name: str) -> Path | None:
    """Return where the photo called ``name`` lies; ``None`` where it is not, or the name leads elsewhere."""
    if job_file is None or not name or Path(name).name != name:
        return None
    path = folder_of(job_file) / name
    return path if path.is_file() else None


def carry(old: Path | None, new: Path, names: tuple[str, ...]) -> None:
    """Copy the photos called ``names`` along when a job is saved under another name. Raises ``StoreError``.

    A photo of that name which lies there and is another one (of the job that was saved over) is kept under a name of its own.
    """
    if old is None or folder_of(old) == folder_of(new):
        return
    for name in names:
        source = path_of(old, name)
        if source is None:
            continue
        target = folder_of(new) / name
        try:
            data = source.read_bytes()
            folder_of(new).mkdir(parents=True, exist_ok=True)
            if target.exists() and target.read_bytes() != data:
                target.rename(_free_name(target))
            write_atomic(target, data)
        except OSError as error:
            raise StoreError(f"{shown(source)}: {error.strerror or error}") from error


def _free_name(path: Path) -> Path:
    """Return a name beside ``path`` that no file has."""
    number = 1
    while (kept := path.with_name(f"{path.stem}-earlier-{number}{path.suffix}")).exists():
        number += 1
    return kept


def add_photo(study: Study, source: Path, of: str) -> None:
    """Copy the picture at ``source`` beside the job and note what it is ``of``, as one step. Raises ``BicentraError``."""
    if study.path is None:
        raise StoreError("photos: save the job first: they are kept in a folder beside its file")
    name = take_photo(source, study.path, today())
    new = Photo(file=name, of=of, date=today())
    study.edit("Add a photo", (("photos", (*study.job.photos, new)),))


def of_reading(corner: str, name: str) -> str:
    """Return what a photo of the reading called ``name`` is noted as being of."""
    return f"{corner}: {name}"


def photos_of(study: Study, of: str) -> tuple[int, ...]:
    """Return the places of the photos of a thing among all photos."""
    return tuple(k for k, photo in enumerate(study.job.photos) if photo.of == of)
