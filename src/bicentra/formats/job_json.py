"""The job file: a vehicle as UTF-8 JSON, read from every version there has been, written in the newest."""

from pathlib import Path
from typing import Any, get_type_hints

import msgspec

from bicentra.core.base.errors import JobFileError
from bicentra.core.parts.corners import job_of, vehicle_of
from bicentra.core.parts.edits import split_path
from bicentra.core.parts.job import Job
from bicentra.core.parts.validate_vehicle import validate_vehicle
from bicentra.core.parts.vehicle import Vehicle
from bicentra.formats.records import (
    CURRENT,
    LINKS,
    checked_record,
    decode_object,
    encode_record,
    migrated,
    named,
    read_bytes,
    value_in_words,
    with_extra,
)


def read_vehicle(path: Path) -> Vehicle:
    """Return the vehicle in the file at ``path``, validated.

    Raises ``JobFileError`` with file, key path, what was found and what was expected. A file over 16 MiB or nested
    over 64 deep is refused before it is parsed.
    """
    return parse_vehicle(read_bytes(path), named(path))


def read_job(path: Path, corner: str = "") -> Job:
    """Return the job of one corner of the vehicle in the file at ``path`` (default: the one it was left at).

    Raises ``JobFileError``.
    """
    vehicle = read_vehicle(path)
    if corner and corner not in known_corners(vehicle):
        text_of = ", ".join(known_corners(vehicle)) or "none is known"
        raise JobFileError(named(path), "corners", f"nothing of {corner}", f"one of {text_of}")
    return job_of(vehicle, corner)


def known_corners(vehicle: Vehicle) -> tuple[str, ...]:
    """Return the corners whose job can be made: those of an axle whose hub or knuckle is known at either end."""
    ends = {name for name, own in vehicle.corners.items() if own.hub is not None or own.knuckle is not None}
    axles = {name.split("-")[0] for name in ends}
    return tuple(f"{axle}-{side}" for axle in ("front", "rear") for side in ("right", "left") if axle in axles)


def version_of(raw: dict[str, Any], name: str) -> int:
    """Return the version of a job file. Raises ``JobFileError`` for what is none, or one this program cannot read."""
    if raw.get("format") != "bicentra.job":
        raise JobFileError(name, "format", value_in_words(raw.get("format")), "“bicentra.job”")
    version = raw.get("version")
    if isinstance(version, bool) or not isinstance(version, int) or (version != CURRENT and version not in LINKS):
        newer = isinstance(version, int) and not isinstance(version, bool) and version > CURRENT
        hint = f"1 to {CURRENT}"
        hint += " (the file comes from a newer Bicentra: update, or export it there again)" if newer else ""
        raise JobFileError(name, "version", value_in_words(version), hint)
    return version


def parse_vehicle(data: bytes, name: str) -> Vehicle:
    """Return the vehicle in ``data``; ``name`` stands for the file in messages. Raises ``JobFileError``."""
    raw = decode_object(data, name)
    version = version_of(raw, name)
    made = migrated(raw)
    return checked_record(_typed_overrides(made, name), Vehicle, validate_vehicle, name, version)


def parse_job(data: bytes, name: str) -> Job:
    """Return the job of the corner that the vehicle in ``data`` was left at. Raises ``JobFileError``."""
    return job_of(parse_vehicle(data, name))


def _typed_overrides(raw: dict[str, Any], name: str) -> dict[str, Any]:
    """Return ``raw`` with the values of every corner's overrides as records of the design they replace."""
    corners = raw.get("corners")
    if not isinstance(corners, dict):
        return raw
    typed = {key: _typed(own, f"corners.{key}", name) for key, own in corners.items()}
    return {**raw, "corners": typed}


def _typed(own: Any, at: str, name: str) -> Any:
    if not isinstance(own, dict) or not isinstance(own.get("overrides"), dict):
        return own
    found = {}
    for path, value in own["overrides"].items():
        kind: Any = Job
        for step in split_path(path):
            hints = get_type_hints(kind) if isinstance(step, str) and isinstance(kind, type) else {}
            if step not in hints:
                kind = Any
                break
            kind = hints[step]
        try:
            found[path] = msgspec.convert(with_extra(value, kind), kind)
        except (msgspec.ValidationError, TypeError) as error:
            raise JobFileError(name, f"{at}.overrides.{path}", str(error), "a value that fits this key") from error
    return {**own, "overrides": found}


def write_vehicle(vehicle: Vehicle) -> bytes:
    """Return the vehicle as indented UTF-8 JSON with a final line end. Raises ``JobError`` for a number JSON cannot hold."""
    return encode_record(vehicle)


def write_job(job: Job) -> bytes:
    """Return a vehicle of which nothing but ``job`` is known. Raises ``JobError``."""
    return write_vehicle(vehicle_of(job))
