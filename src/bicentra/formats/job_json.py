"""The job file: UTF-8 JSON in, one record out, and back without losing a key."""

import math
import os
import re
import stat
from collections.abc import Callable, Mapping
from dataclasses import MISSING, Field, fields, is_dataclass
from functools import lru_cache
from pathlib import Path
from types import UnionType
from typing import Any, TypeVar, Union, get_args, get_origin, get_type_hints

import msgspec

from bicentra.core.base.errors import JobError, JobFileError
from bicentra.core.parts.job import Job
from bicentra.core.parts.survey import Survey
from bicentra.core.parts.validate import validate

Record = TypeVar("Record")
MOST_BYTES = 16 * 1024 * 1024
MOST_DEPTH = 64
_TOKEN = re.compile(rb'"(?:[^"\\]|\\.)*+(?:"|\\?\Z)|[\[\]{}]', re.DOTALL)
"""A string, to the end of the file where it is not closed (else every quote in it would be tried anew), or a bracket."""
_AT = re.compile(r"^(?P<what>.*?)(?: - at `(?P<path>[^`]*)`)?$", re.DOTALL)
ABSENT_UNTIL_USED = {
    "survey", "guessed", "kind", "hand", "hub_ring", "rotor_way", "radial_shim_mm", "wheel_spacer_mm", "attitude_deg",
    "other_side", "pilot_length_mm", "backing_plate_mm", "retainer_spacer_mm", "body_section_mm", "body_face_mm",
    "pad_outline_mm", "pad_outer_radius_mm", "pad_thickness_mm", "slide_inboard_mm", "slide_outboard_mm", "hose_port_mm",
    "ring_bolt_circle_mm", "ring_bolt_count", "ring_bolt_hole_mm", "ring_register_mm", "ring_seat_mm", "weights",
    "barrel_mm", "spokes_mm", "before", "hat_lip_mm",
    "retainer_circle_mm", "retainer_count", "retainer_first_deg", "retainer_face_z_mm", "tube_diameter_mm",
    "parking", "cutouts", "boss_walls_mm", "hole_class", "slot_mm", "slot_deg", "dowels", "pulls", "chamfer_mm", "shelf", "lock",
    "bracket_ear_mm", "retainer_socket_mm", "retainer_bolt", "retainer_bolt_end_z_mm",
    "exact", "practice", "straightedge_by",
    "barrel_diameter_mm", "stud_back_mm", "hat_outer_diameter_mm", "bracket_ear_hole_mm", "bracket_ear_thread", "bolt",
}  # fmt: skip
"""Left out of a file while they stand at their default."""
SPARING = Survey.__module__
LAST = ("instrument", "sd_mm", "sd_deg", "by", "taken", "was")
"""Records of this module are written without what stands at its default: a survey is hundreds of readings.
What a reading says comes first, who took it how comes last."""
_WORDS = {
    "float": "a number",
    "int": "a whole number",
    "str": "a text",
    "null": "null",
    "array": "a list",
    "object": "an object in braces",
    "bool": "true or false",
}


def read_job(path: Path) -> Job:
    """Return the job in the file at ``path``, validated.

    Raises ``JobFileError`` with file, key path, what was found and what was expected. A file over 16 MiB or nested
    over 64 deep is refused before it is parsed.
    """
    return parse_job(read_bytes(path), _named(path))


def read_bytes(path: Path) -> bytes:
    """Return what is in the file at ``path``. Raises ``JobFileError`` when it cannot be read or is too large."""
    told, expected = "no ordinary file", "a file that can be read"
    try:
        found = path.stat()
        if stat.S_ISREG(found.st_mode) and found.st_size <= MOST_BYTES:
            return path.read_bytes()
        if stat.S_ISREG(found.st_mode):
            told, expected = f"{found.st_size / 2**20:.1f} MiB", f"at most {MOST_BYTES // 2**20} MiB"
    except (OSError, ValueError) as error:
        told = getattr(error, "strerror", None) or str(error)
    raise JobFileError(_named(path), "(file)", told, expected)


def _named(path: Path) -> str:
    """Return a path for a message, whatever bytes it is made of."""
    return os.fsencode(path).decode("utf-8", "replace")


def decode_object(data: bytes, name: str) -> dict[str, Any]:
    """Return the JSON object in ``data``; ``name`` stands for the file in messages. Raises ``JobFileError``."""
    _check_depth(data, name)
    try:
        raw = msgspec.json.decode(data.removeprefix(b"\xef\xbb\xbf"))
    except (msgspec.DecodeError, UnicodeDecodeError, RecursionError) as error:
        raise JobFileError(name, "(file)", f"no JSON: {error}", "UTF-8 JSON") from error
    if not isinstance(raw, dict):
        raise JobFileError(name, "(file)", f"{_kind(raw)} at the top", "an object in braces")
    return raw


def parse_job(data: bytes, name: str) -> Job:
    """Return the job in ``data``; ``name`` stands for the file in messages. Raises ``JobFileError``."""
    raw = decode_object(data, name)
    if raw.get("format") != "bicentra.job":
        raise JobFileError(name, "format", _shown(raw.get("format")), "“bicentra.job”")
    if not isinstance(raw.get("version"), int) or raw["version"] != 1:
        newer = isinstance(raw.get("version"), int) and raw["version"] > 1
        hint = "1 (the file comes from a newer Bicentra: update, or export it there again)" if newer else "1"
        raise JobFileError(name, "version", _shown(raw.get("version")), hint)
    return checked_record(raw, Job, validate, name)


def checked_record(raw: dict[str, Any], record: type[Record], check: Callable[[Record], None], name: str) -> Record:
    """Return ``raw`` as a ``record`` that ``check`` lets pass. Raises ``JobFileError`` for what it does not."""
    try:
        made = msgspec.convert(_with_extra(raw, record), record)
        check(made)
    except msgspec.ValidationError as error:
        raise _as_file_error(error, raw, name, record) from error
    except JobError as error:
        raise JobFileError(name, error.path, error.found, error.expected) from error
    except RecursionError as error:
        raise JobFileError(name, "(file)", "nesting too deep to read", f"at most {MOST_DEPTH} levels") from error
    return made


def write_job(job: Job) -> bytes:
    """Return the job as indented UTF-8 JSON with a final line end. Raises ``JobError`` for a number JSON cannot hold."""
    return encode_record(job)


def encode_record(record: Any) -> bytes:
    """Return a record as indented UTF-8 JSON with a final line end. Raises ``JobError`` for a number JSON cannot hold."""
    plain = _plain(record)
    _check_finite(plain, "")
    return msgspec.json.format(msgspec.json.encode(plain), indent=2) + b"\n"


def _check_depth(data: bytes, name: str) -> None:
    """Refuse data nested deeper than ``MOST_DEPTH`` by its brackets, strings passed over."""
    depth = 0
    for match in _TOKEN.finditer(data):
        token = match.group()
        if token in (b"{", b"["):
            depth += 1
            if depth > MOST_DEPTH:
                raise JobFileError(name, "(file)", f"nesting over {MOST_DEPTH} deep", f"at most {MOST_DEPTH} levels")
        elif token in (b"}", b"]"):
            depth -= 1


@lru_cache(maxsize=64)
def _records(record: type) -> dict[str, tuple[type, str]]:
    """Return the fields of ``record`` that hold records: name -> (record type, alone or in a list or an object)."""
    found: dict[str, tuple[type, str]] = {}
    for name, hint in get_type_hints(record).items():
        options = get_args(hint) if get_origin(hint) in (Union, UnionType) else (hint,)
        for option in options:
            if is_dataclass(option) and isinstance(option, type):
                found[name] = (option, "alone")
            elif get_origin(option) is tuple and is_dataclass(get_args(option)[0]):
                found[name] = (get_args(option)[0], "list")
            elif get_origin(option) is Mapping and is_dataclass(get_args(option)[1]):
                found[name] = (get_args(option)[1], "object")
    return found


def _with_extra(raw: Any, record: type) -> Any:
    """Return ``raw`` with the keys that ``record`` does not know moved into its ``extra``."""
    if not isinstance(raw, dict):
        return raw
    names = {key_of(field.name): field.name for field in fields(record) if field.name != "extra"}
    known = {names[key]: value for key, value in raw.items() if key in names}
    for name, (inner, held) in _records(record).items():
        value = known.get(name)
        if held == "list" and isinstance(value, list):
            known[name] = [_with_extra(item, inner) for item in value]
        elif held == "object" and isinstance(value, dict):
            known[name] = {key: _with_extra(item, inner) for key, item in value.items()}
        elif held == "alone" and value is not None:
            known[name] = _with_extra(value, inner)
    known["extra"] = {key: value for key, value in raw.items() if key not in names}
    return known


def key_of(name: str) -> str:
    """Return the key in the file for a field's ``name``: words that Python keeps for itself end in a line there."""
    return name.removesuffix("_")


def _left_out(of: Field[Any], value: Any, short: bool) -> bool:
    """Tell whether a field stays out of the file: in a survey what stands at its default, in a job what is rarely used."""
    if not short and of.name not in ABSENT_UNTIL_USED:
        return False
    default = of.default_factory() if of.default_factory is not MISSING else of.default
    return bool(value == default)


def _plain(value: Any) -> Any:
    """Return records as dictionaries with their kept keys behind the known ones; what is not used stays out."""
    if is_dataclass(value) and not isinstance(value, type):
        short = type(value).__module__ == SPARING
        known = {
            key_of(of.name): _plain(getattr(value, of.name))
            for of in sorted(fields(value), key=lambda of: of.name in LAST)
            if of.name != "extra" and not _left_out(of, getattr(value, of.name), short)
        }
        return {**known, **getattr(value, "extra", {})}
    if isinstance(value, Mapping):
        return {key: _plain(item) for key, item in value.items()}
    return [_plain(item) for item in value] if isinstance(value, list | tuple) else value


def _check_finite(value: Any, path: str) -> None:
    if isinstance(value, float) and not math.isfinite(value):
        raise JobError(path, str(value), "a finite number")
    pairs = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, item in pairs:
        _check_finite(item, f"{path}[{key}]" if isinstance(key, int) else f"{path}.{key}".lstrip("."))


def _as_file_error(error: msgspec.ValidationError, raw: Any, name: str, record: type) -> JobFileError:
    """Turn the reader's message into file, key path, found, expected."""
    match = _AT.match(str(error))
    where = _with_keys((match["path"] if match else None) or "$", raw, record)
    path = where.removeprefix("$").lstrip(".").replace("from_", "from") or "(file)"
    wanted = re.match(r"Expected `([^`]*)`", match["what"] if match else "")
    if wanted is None:
        return JobFileError(name, path, str(error), "what the schema says")
    words = [_WORDS.get(part.strip(), part.strip()) for part in wanted[1].split("|")]
    return JobFileError(name, path, _shown(_dig(raw, path)), " or ".join(words))


def _with_keys(where: str, raw: Any, record: type) -> str:
    """Return a path whose open places (``[...]``) are filled in: the first item of each list or map that is refused alone."""
    while "[...]" in where:
        before = where.partition("[...]")[0]
        held = _dig(raw, before.removeprefix("$").lstrip("."))
        names: list[Any] = (
            list(held) if isinstance(held, dict) else list(range(len(held))) if isinstance(held, list) else []
        )
        bad = next((n for n in names if _refused_alone(raw, record, before, n)), None)
        if bad is None:
            return where.replace("[...]", "")
        shown = f".{bad}" if isinstance(held, dict) else f"[{bad}]"
        where = where.replace("[...]", shown, 1)
    return where


def _refused_alone(raw: Any, record: type, before: str, item: Any) -> bool:
    """Tell whether the reader still refuses the list or map at ``before`` when nothing but ``item`` is left in it."""

    def kept(here: Any, steps: list[str]) -> Any:
        if not steps:
            return {item: here[item]} if isinstance(here, dict) else [here[item]]
        step, *rest = steps
        if step.startswith("["):
            return [kept(one, rest) if k == int(step[1:-1]) else one for k, one in enumerate(here)]
        return {key: kept(one, rest) if key == step else one for key, one in here.items()}

    try:
        steps = re.findall(r"[^.\[\]$]+|\[\d+\]", before)
        msgspec.convert(_with_extra(kept(raw, steps), record), record)
    except msgspec.ValidationError as error:
        return before in str(error)
    except (KeyError, IndexError, TypeError, AttributeError, ValueError):
        return False
    return False


def _dig(raw: Any, path: str) -> Any:
    """Return what lies at ``path`` in ``raw``; list places that the reader leaves open (``[...]``) show the list."""
    here = raw
    for step in re.findall(r"[^.\[\]]+|\[\d*\.*\]", path):
        try:
            here = here[int(step[1:-1])] if step.startswith("[") else here[step]
        except (KeyError, IndexError, TypeError, ValueError):
            return here
    return here


def _shown(value: Any) -> str:
    if value is None or isinstance(value, dict | list):
        return _kind(value)
    text = " ".join(str(value).split())
    text = text if len(text) <= 60 else text[:57] + "..."
    return f"“{text}”" if isinstance(value, str) else text


def _kind(value: Any) -> str:
    return {type(None): "nothing", dict: "an object", list: "a list", str: "a text"}.get(type(value), "a number")
