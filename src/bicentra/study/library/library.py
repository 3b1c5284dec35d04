"""The library: the parts that ship with the program, and the user's own beside them."""

import os
import re
from functools import lru_cache
from pathlib import Path

from bicentra.core.base.errors import JobFileError, StoreError
from bicentra.core.base.records import Record
from bicentra.core.parts.library import Item, Part, part_of
from bicentra.data import data_path
from bicentra.formats.part_files import SUFFIX, read_part, write_part
from bicentra.study.document.store import write_atomic

MOST_FILES = 5000


class Library(Record, frozen=True):
    """Parts with the files they came from, in the order of their names, and one line for each file that is no use."""

    parts: tuple[tuple[Part, Path], ...]
    problems: tuple[str, ...]

    def of_kind(self, kind: str) -> tuple[Part, ...]:
        """Return the parts of one kind."""
        return tuple(part for part, _ in self.parts if part.kind == kind)


def own_folder() -> Path:
    """Return the folder of the user's own library, made if needed."""
    from platformdirs import user_data_path

    folder = user_data_path("bicentra", appauthor=False) / "library"
    folder.mkdir(parents=True, exist_ok=True)
    return folder


def load_library(*folders: Path) -> Library:
    """Return every part in ``folders``; a file that cannot be used is reported and passed over."""
    found: list[tuple[Part, Path]] = []
    problems: list[str] = []
    for folder in folders:
        for path in sorted(folder.glob(f"*{SUFFIX}"))[:MOST_FILES]:
            try:
                found.append((_part_in(path, path.stat()), path))
            except JobFileError as error:
                problems.append(str(error))
            except OSError as error:
                problems.append(f"{path}: {error.strerror}")
    return Library(tuple(sorted(found, key=lambda row: (row[0].kind, row[0].name))), tuple(problems))


def _part_in(path: Path, state: os.stat_result) -> Part:
    """Return the part in a file whose state is ``state``; read once for as long as that stays the same."""
    return _read_once(path, state.st_mtime_ns, state.st_size, state.st_ino)


@lru_cache(maxsize=2 * MOST_FILES)
def _read_once(path: Path, *_state: int) -> Part:
    return read_part(path)


def whole_library() -> Library:
    """Return the parts that ship with the program and the user's own."""
    return load_library(data_path("library"), own_folder())


def keep_part(item: Item, source: str, folder: Path | None = None) -> Path:
    """Put a part of the job into the user's library; returns its file. Another part's file is never written over.

    Raises ``StoreError`` when it cannot be written or has no name.
    """
    if not item.name.strip():
        raise StoreError("the part has no name yet; name it, then keep it")
    part = part_of(item, source)
    place = part_file(part, folder or own_folder())
    write_atomic(place, write_part(part))
    return place


def part_file(part: Part, folder: Path) -> Path:
    """Return a file for ``part`` in ``folder``: one of its name that is free, or holds the same already.

    Raises ``StoreError`` when there are too many of its name.
    """
    data = write_part(part)
    stem = re.sub(r"[^a-z0-9]+", "-", part.name.lower()).strip("-") or part.kind
    for number in range(1, MOST_FILES):
        path = folder / f"{stem}{'' if number == 1 else f'-{number}'}{SUFFIX}"
        if not path.exists() or path.read_bytes() == data:
            return path
    raise StoreError(f"{folder}: too many parts of that name; rename it")
