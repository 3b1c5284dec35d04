"""Part files: UTF-8 JSON, one part a file, unknown keys kept; read and written by the same rules as jobs."""

from pathlib import Path

from bicentra.core.base.errors import JobFileError
from bicentra.core.parts.library import Part, check_part
from bicentra.formats.records import checked_record, decode_object, encode_record, read_bytes

SUFFIX = ".part.json"


def read_part(path: Path) -> Part:
    """Return the part in the file at ``path``, checked. Raises ``JobFileError`` with file, key path, found, expected."""
    return parse_part(read_bytes(path), str(path))


def parse_part(data: bytes, name: str) -> Part:
    """Return the part in ``data``; ``name`` stands for the file in messages. Raises ``JobFileError``."""
    raw = decode_object(data, name)
    if raw.get("format") != "bicentra.part":
        raise JobFileError(name, "format", f"“{str(raw.get('format'))[:60]}”", "“bicentra.part”")
    return checked_record(raw, Part, check_part, name)


def write_part(part: Part) -> bytes:
    """Return the part as indented JSON with a final line end."""
    return encode_record(part)
