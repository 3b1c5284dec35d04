"""Readings in and out of tables on disk."""

from pathlib import Path

from bicentra.core.base.errors import JobFileError, ReadingsError
from bicentra.core.parts.survey import Survey
from bicentra.formats.readings_csv import read_csv, readings_csv
from bicentra.formats.records import read_bytes
from bicentra.study.document.store import write_atomic

MOST_BYTES = 4 * 1024 * 1024


def export_readings(path: Path, survey: Survey) -> None:
    """Write every reading of ``survey`` to ``path``. Raises ``StoreError``."""
    write_atomic(path, readings_csv(survey))


def import_readings(path: Path, survey: Survey) -> tuple[Survey, int]:
    """Return ``survey`` with the readings of the table at ``path``, and how many were new. Raises ``ReadingsError``."""
    try:
        data = read_bytes(path)
    except JobFileError as error:
        raise ReadingsError(error.file, 0, "", error.found, error.expected) from error
    if len(data) > MOST_BYTES:
        raise ReadingsError(str(path), 0, "", "a very large file", f"at most {MOST_BYTES // 2**20} MiB")
    return read_csv(data, path.name, survey)
