"""Where jobs are kept: atomic saves, the recovery copy of unsaved work, the list of recent files."""

import contextlib
import hashlib
import os
import tempfile
from dataclasses import dataclass
from pathlib import Path

import msgspec

from bicentra.core.base.errors import BicentraError, StoreError
from bicentra.core.parts.job import Job
from bicentra.formats.job_json import parse_job, read_job, write_job

MOST_RECENT = 8


def load(path: Path) -> Job:
    """Return the job at ``path``. Raises ``JobFileError`` when it cannot be used."""
    return read_job(path)


def save(job: Job, path: Path) -> None:
    """Write ``job`` to ``path`` so that the file is never seen half-written. Raises ``StoreError`` or ``JobError``."""
    write_atomic(path, write_job(job))


def write_atomic(path: Path, data: bytes) -> None:
    """Write ``data`` to a temporary file in the same folder, flush and sync it, then rename it over ``path``.

    A link is followed, so that the file it points to is renewed. Raises ``StoreError``; the old file is then as it was.
    """
    target = Path(os.path.realpath(path))
    try:
        handle, temporary = tempfile.mkstemp(prefix=f".{target.name}.", suffix=".tmp", dir=target.parent)
    except OSError as error:
        raise StoreError(f"{path}: {error.strerror or error}; choose a folder that can be written to") from error
    try:
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
    except OSError as error:
        with contextlib.suppress(OSError):
            os.unlink(temporary)
        raise StoreError(f"{path}: {error.strerror or error}; save it under another name") from error


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
    """Return the folder for recovery copies and the recent list, made if needed."""
    from platformdirs import user_state_path

    folder = user_state_path("bicentra", appauthor=False)
    folder.mkdir(parents=True, exist_ok=True)
    return folder


@dataclass(frozen=True)
class Recovery:
    """Unsaved work found after a crash: the job, and the file it belongs to (``None``: never saved)."""

    copy: Path
    job: Job
    path: Path | None


def recovery_path(path: Path | None, folder: Path | None = None) -> Path:
    """Return where the unsaved work on ``path`` is kept."""
    name = hashlib.sha256(str(path or "untitled").encode()).hexdigest()[:16]
    return (folder or state_folder()) / f"recovery-{name}.json"


def keep_recovery(job: Job, path: Path | None, folder: Path | None = None) -> None:
    """Keep a copy of unsaved work, with the file it belongs to. Raises ``StoreError``."""
    note = {"path": str(path) if path else None, "job": write_job(job).decode()}
    write_atomic(recovery_path(path, folder), msgspec.json.encode(note))


def drop_recovery(path: Path | None, folder: Path | None = None) -> None:
    """Forget the copy kept for ``path``: its work is saved or given up."""
    with contextlib.suppress(OSError):
        recovery_path(path, folder).unlink()


def find_recoveries(folder: Path | None = None) -> tuple[Recovery, ...]:
    """Return unsaved work left behind, newest first; copies that cannot be read are left where they are."""
    found = []
    copies = (folder or state_folder()).glob("recovery-*.json")
    for copy in sorted(copies, key=lambda p: p.stat().st_mtime, reverse=True):
        try:
            note = msgspec.json.decode(copy.read_bytes())
            job = parse_job(note["job"].encode(), str(copy))
            found.append(Recovery(copy, job, Path(note["path"]) if note["path"] else None))
        except (OSError, KeyError, TypeError, AttributeError, msgspec.DecodeError, BicentraError):
            continue
    return tuple(found)


def recent_files(folder: Path | None = None) -> tuple[Path, ...]:
    """Return the recent files that are still there, newest first."""
    try:
        listed = msgspec.json.decode(((folder or state_folder()) / "recent.json").read_bytes(), type=list[str])
    except (OSError, msgspec.DecodeError, msgspec.ValidationError):
        return ()
    return tuple(path for path in map(Path, listed) if path.exists())


def remember_file(path: Path, folder: Path | None = None) -> None:
    """Put ``path`` at the head of the recent list; a list that cannot be written is let go."""
    others = [str(p) for p in recent_files(folder) if p != path.absolute()]
    names = [str(path.absolute()), *others][:MOST_RECENT]
    with contextlib.suppress(StoreError):
        write_atomic((folder or state_folder()) / "recent.json", msgspec.json.encode(names))
