"""Unsaved work kept safe: one copy for every open job, under a lock that lives as long as the program that works on it.

A copy whose lock is held belongs to a window that is still open, and is nobody else's to offer or to delete. One whose lock is
free was left behind. A copy goes when a save holds what is in it, or when somebody gives it up by name.
"""

import contextlib
import fcntl
import os
import uuid
from collections.abc import Iterator
from datetime import datetime
from pathlib import Path
from urllib.parse import unquote_to_bytes, urlparse

import msgspec

from bicentra.core.base.errors import BicentraError, StoreError
from bicentra.core.base.records import Record
from bicentra.core.parts.vehicle import Vehicle
from bicentra.formats.job_json import parse_vehicle, write_vehicle
from bicentra.formats.records import decode_object, read_bytes
from bicentra.study.document.diff import diff_text
from bicentra.study.document.store import load_vehicle, state_folder, write_atomic


class Recovery(Record, frozen=True):
    """Unsaved work left behind: its copy, the vehicle, the file it belongs to (``None``: never saved), and when it was kept."""

    copy: Path
    vehicle: Vehicle
    path: Path | None
    kept: str


class Keeper:
    """Keeps the copy of one open job. Its lock is held until ``close``, or until the program ends, however it ends."""

    def __init__(self, folder: Path | None = None) -> None:
        self._folder = folder
        self._copy: Path | None = None
        self._lock: int | None = None
        self._taken: dict[Path, int] = {}

    def keep(self, vehicle: Vehicle, path: Path | None) -> None:
        """Write a copy of unsaved work, with the file it belongs to. Raises ``StoreError``."""
        copy = self._own()
        note = {
            "path": path.absolute().as_uri() if path else None,
            "kept": datetime.now().isoformat(" ", "minutes"),
            "job": write_vehicle(vehicle).decode(),
        }
        write_atomic(copy, msgspec.json.encode(note))

    def take_up(self, found: Recovery) -> bool:
        """Work on from ``found``: its copy is kept until a save holds it, and is offered to nobody else meanwhile.

        False where another window has taken it up already.
        """
        try:
            self._taken[found.copy] = _locked(found.copy)
        except BlockingIOError:
            return False
        except OSError as error:
            raise StoreError(f"unsaved work cannot be kept safe: {error.strerror or error}") from error
        return True

    def saved(self) -> None:
        """The job has been saved as it stands: what was kept of it, and what it was taken up from, is in the file now."""
        copies = (*self._taken, *([self._copy] if self._copy is not None else []))
        self._release_taken()
        for copy in copies:
            _remove(copy)

    def _release_taken(self) -> None:
        for lock in self._taken.values():
            os.close(lock)
        self._taken.clear()

    def given_up(self) -> None:
        """The user gave the work up: its own copy goes, what it was taken up from stays to be asked about again."""
        if self._copy is not None:
            _remove(self._copy)

    def close(self) -> None:
        """Let the locks go; a copy that is still there then counts as left behind."""
        self._release_taken()
        if self._lock is not None:
            os.close(self._lock)
            if self._copy is not None and not self._copy.exists():
                with contextlib.suppress(OSError):
                    self._copy.with_suffix(".lock").unlink()
        self._lock, self._copy = None, None

    def _own(self) -> Path:
        if self._copy is None:
            folder = self._folder or state_folder()
            self._copy = folder / f"recovery-{uuid.uuid4().hex[:16]}.json"
            try:
                self._lock = _locked(self._copy)
            except OSError as error:
                raise StoreError(f"unsaved work cannot be kept safe: {error.strerror or error}") from error
        return self._copy


def find_recoveries(folder: Path | None = None) -> tuple[Recovery, ...]:
    """Return unsaved work left behind, newest first; copies that cannot be read, or belong to an open window, are left alone."""
    try:
        where = folder or state_folder()
        copies = sorted(where.glob("recovery-*.json"), key=lambda p: p.stat().st_mtime, reverse=True)
    except (OSError, BicentraError):
        return ()
    return tuple(found for copy in copies if not _is_held(copy) for found in _read(copy))


def lost_with(found: Recovery) -> str:
    """Say what would be lost if ``found`` were given up: in what it differs from its file, or from nothing where it has none."""
    try:
        base = load_vehicle(found.path) if found.path is not None else Vehicle()
    except BicentraError:
        base = Vehicle()
    return diff_text(base, found.vehicle)


def give_up(found: Recovery) -> None:
    """Delete a copy that somebody gave up by name."""
    _remove(found.copy)


def _read(copy: Path) -> Iterator[Recovery]:
    with contextlib.suppress(
        OSError, KeyError, TypeError, ValueError, ArithmeticError, AttributeError, RecursionError, MemoryError,
        msgspec.DecodeError, BicentraError,
    ):  # fmt: skip
        note = decode_object(read_bytes(copy), str(copy))
        vehicle = parse_vehicle(note["job"].encode(), str(copy))
        yield Recovery(copy, vehicle, _path_of(note["path"]), str(note.get("kept", "")))


def _path_of(note: str | None) -> Path | None:
    if not note:
        return None
    return Path(os.fsdecode(unquote_to_bytes(urlparse(note).path))) if note.startswith("file:") else Path(note)


def _is_held(copy: Path) -> bool:
    """Tell whether a living program works on ``copy``."""
    try:
        lock = os.open(copy.with_suffix(".lock"), os.O_RDWR)
    except OSError:
        return False
    try:
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        return True
    finally:
        os.close(lock)
    return False


def _locked(copy: Path) -> int:
    """Return the handle of the lock of ``copy``, held. Raises ``BlockingIOError`` where a living program holds it."""
    lock = os.open(copy.with_suffix(".lock"), os.O_RDWR | os.O_CREAT, 0o600)
    try:
        fcntl.flock(lock, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        os.close(lock)
        raise
    return lock


def _remove(copy: Path) -> None:
    for path in (copy, copy.with_suffix(".lock")):
        with contextlib.suppress(OSError):
            if path == copy or not _is_held(copy):
                path.unlink()


class FileLock:
    """Says of a job's file that a window has it open. Advisory: whoever asks is reported, nobody is shut out."""

    def __init__(self, path: Path, folder: Path | None = None) -> None:
        self._handle: int | None = None
        self.free = True
        with contextlib.suppress(OSError, BicentraError):
            name = f"open-{uuid.uuid5(uuid.NAMESPACE_URL, path.resolve().as_uri()).hex[:16]}.lock"
            handle = os.open((folder or state_folder()) / name, os.O_RDWR | os.O_CREAT, 0o600)
            try:
                fcntl.flock(handle, fcntl.LOCK_EX | fcntl.LOCK_NB)
                self._handle = handle
            except OSError:
                os.close(handle)
                self.free = False

    def release(self) -> None:
        """Let it go."""
        if self._handle is not None:
            os.close(self._handle)
            self._handle = None
