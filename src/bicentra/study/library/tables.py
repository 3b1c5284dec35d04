"""Tables of parts on disk: read for taking in, written from the library."""

from pathlib import Path

from bicentra.core.base.quantities import Units
from bicentra.core.parts.library import KINDS
from bicentra.formats.parts_csv import UNITS, PartColumn, Table, parts_csv, parts_of, read_table, targets
from bicentra.formats.records import read_bytes
from bicentra.study.document.store import write_atomic
from bicentra.study.library.library import Library

__all__ = ["KINDS", "UNITS", "PartColumn", "Table", "open_table", "parts_of", "targets", "write_table"]


def open_table(path: Path) -> Table:
    """Return the table in the file at ``path``. Raises ``JobFileError`` or ``ReadingsError`` for one that is none."""
    return read_table(read_bytes(path), path.name)


def write_table(library: Library, kind: str, units: Units, path: Path) -> int:
    """Write every part of ``kind`` of ``library`` to ``path``; returns how many. Raises ``StoreError``."""
    parts = library.of_kind(kind)
    write_atomic(path, parts_csv(parts, kind, units))
    return len(parts)
