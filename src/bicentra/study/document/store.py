"""Where jobs are kept: atomic saves, what a file was when it was opened, the list of recent files."""

import contextlib
import os
import stat
import tempfile
import time
from pathlib import Path

import msgspec

from bicentra.core.base.errors import BicentraError, ChangedOnDiskError, JobFileError, StoreError
from bicentra.core.base.records import Record
from bicentra.core.parts.bounds import MOST_BYTES
from bicentra.core.parts.job import Job
from bicentra.core.parts.vehicle import Vehicle
from bicentra.formats.job_json import read_job, read_vehicle, version_of, write_vehicle
from bicentra.formats.records import CURRENT, decode_object

MOST_RECENT, SUFFIX = 8, ".bicentra.json"
TEMPORARY, STALE_S = ".bicentra-", 3600.0
"""How the names of half-written files begin, and how old one is when nobody is writing it any more [s]."""


class FileStamp(Record, frozen=True):
    """What a file was when it was last read or written: its time, size and number on the disk; ``None``: it is not there."""

    seen: tuple[int, int, int] | None


def load(path: Path, corner: str = "") -> Job:
    """Return the job of one corner of the vehicle at ``path``. Raises ``JobFileError`` when it cannot be used."""
    return read_job(path, corner)


def load_vehicle(path: Path) -> Vehicle:
    """Return the vehicle at ``path``. Raises ``JobFileError`` when it cannot be used."""
    return read_vehicle(path)


def stamp_of(path: Path) -> FileStamp:
    """Return what the file at ``path`` is now."""
    try:
        found = path.stat()
    except (OSError, ValueError):
        return FileStamp(None)
    return FileStamp((found.st_mtime_ns, found.st_size, found.st_ino))


def save(vehicle: Vehicle, path: Path, known: FileStamp | None = None) -> FileStamp:
    """Write ``vehicle`` to ``path`` so that the file is never seen half-written; return what it is then.

    A file of an older version that is written over is kept beside it under its version's name.
    Raises ``StoreError`` or ``JobError``, and ``ChangedOnDiskError`` when the file is no longer what was ``known`` of it.
    """
    if known is not None and known != stamp_of(path):
        raise ChangedOnDiskError(f"{shown(path)}: the file has been changed since it was opened here")
    data = write_vehicle(vehicle)
    if len(data) > MOST_BYTES:
        raise StoreError(
            f"{shown(path)}: {len(data) / 2**20:.1f} MiB would not be read again; at most {MOST_BYTES // 2**20} MiB"
        )
    _keep_older(path)
    write_atomic(path, data)
    return stamp_of(path)


def _keep_older(path: Path) -> None:
    """Keep a copy of a job file of an older version before it is written over. Raises ``StoreError``."""
    try:
        data = path.read_bytes() if path.is_file() and path.stat().st_size <= MOST_BYTES else b""
        version = version_of(decode_object(data, str(path)), str(path)) if data else CURRENT
    except (OSError, ValueError, JobFileError):
        return
    beside = path.with_name(f"{path.name.removesuffix(SUFFIX)}.v{version}{SUFFIX}")
    if version < CURRENT and not beside.exists():
        write_atomic(beside, data)


def shown(path: Path | str) -> str:
    """Return a path for reading, whatever bytes its name is made of."""
    return os.fsencode(str(path)).decode("utf-8", "replace")


def write_atomic(path: Path, data: bytes) -> None:
    """Write ``data`` to a temporary file in the same folder, flush and sync it, then rename it over ``path``.

    A link is followed, so that the file it points to is renewed. Raises ``StoreError``; the old file is then as it was. What
    is no ordinary file (a device, a pipe, a folder) is never written over.
    """
    temporary = ""
    try:
        target = Path(os.path.realpath(path))
        if target.exists() and not stat.S_ISREG(target.stat().st_mode):
            raise StoreError(f"{shown(path)}: this is no ordinary file; choose another name")
        handle, temporary = tempfile.mkstemp(prefix=TEMPORARY, suffix=".tmp", dir=target.parent)
        with os.fdopen(handle, "wb") as stream:
            stream.write(data)
            stream.flush()
            os.fsync(stream.fileno())
        mode = target.stat().st_mode & 0o777 if target.exists() else 0o666 & ~_umask()
        if target.exists() and not os.access(target, os.W_OK):
            raise PermissionError(13, "the file is read-only")
        os.chmod(temporary, mode)
        os.replace(temporary, target)
        _sync_folder(target.parent)
    except StoreError:
        raise
    except (OSError, ValueError) as error:
        with contextlib.suppress(OSError):
            if temporary:
                os.unlink(temporary)
        text = getattr(error, "strerror", None) or str(error)
        raise StoreError(
            f"{shown(path)}: {text}; save it under another name, in a folder that can be written to"
        ) from error


def sweep_temporaries(folder: Path) -> None:
    """Remove what a writer that died left half-written in ``folder``; what is younger than an hour may still be written."""
    with contextlib.suppress(OSError):
        for left in (
            *folder.glob(f"{TEMPORARY}*.tmp"),
            *folder.glob(".recovery-*.tmp"),
            *folder.glob(".recent.json.*.tmp"),
        ):
            with contextlib.suppress(OSError):
                if time.time() - left.stat().st_mtime > STALE_S:
                    left.unlink()


def _umask() -> int:
    mask = os.umask(0)
    os.umask(mask)
    return mask


def _sync_folder(folder: Path) -> None:
    """Sync the folder's entry, where the file system can."""
    with contextlib.suppress(OSError):
        handle = os.open(folder, os.O_RDONLY)
        try:
            os.fsync(handle)
        finally:
            os.close(handle)


def state_folder() -> Path:
    """Return the folder for recovery copies and the recent list, made if needed. Raises ``StoreError`` when it cannot be."""
    from platformdirs import user_state_path

    folder = user_state_path("bicentra", appauthor=False)
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        text = error.strerror or str(error)
        raise StoreError(
            f"{shown(folder)}: {text}; unsaved work cannot be kept safe until this folder can be used"
        ) from error
    return folder


def recent_files(folder: Path | None = None) -> tuple[Path, ...]:
    """Return the recent files that are still there, newest first."""
    try:
        listed = msgspec.json.decode(((folder or state_folder()) / "recent.json").read_bytes(), type=list[str])
        return tuple(path for path in map(Path, listed) if path.exists())
    except (OSError, ValueError, BicentraError, msgspec.DecodeError, msgspec.ValidationError):
        return ()


def remember_file(path: Path, folder: Path | None = None) -> None:
    """Put ``path`` at the head of the recent list; a list or a name that cannot be written is let go."""
    others = [str(p) for p in recent_files(folder) if p != path.absolute()]
    names = [str(path.absolute()), *others][:MOST_RECENT]
    with contextlib.suppress(BicentraError, UnicodeEncodeError):
        write_atomic((folder or state_folder()) / "recent.json", msgspec.json.encode(names))
