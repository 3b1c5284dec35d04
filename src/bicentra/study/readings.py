"""Readings in and out of tables on disk."""

from pathlib import Path

from bicentra.core.base.errors import ReadingsError
from bicentra.core.parts.survey import Survey
from bicentra.formats.readings_csv import read_csv, readings_csv
from bicentra.study.store import write_atomic

MOST_BYTES = 4 * 1024 * 1024


def export_readings(path: Path, survey: Survey) -> None:
    """Write every reading of ``survey`` to ``path``. Raises ``StoreError``."""
    write_atomic(path, readings_csv(survey))


def import_readings(path: Path, survey: Survey) -> tuple[Survey, int]:
    """Return ``survey`` with the readings of the table at ``path``, and how many were new. Raises ``ReadingsError``."""
    try:
        if path.stat().st_size > MOST_BYTES:
            raise ReadingsError(str(path), 0, "", "a very large file", f"at most {MOST_BYTES // 2**20} MiB")
        data = path.read_bytes()
    except OSError as error:
        raise ReadingsError(str(path), 0, "", error.strerror or str(error), "a file that can be read") from error
    return read_csv(data, path.name, survey)
