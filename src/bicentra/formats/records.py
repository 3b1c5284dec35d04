"""Records in files: UTF-8 JSON in, one record out, and back without losing a key. What stands at its default is left out."""

import math
import os
import re
import stat
from collections.abc import Callable, Mapping
from functools import lru_cache
from pathlib import Path
from types import UnionType
from typing import Any, TypeVar, Union, get_args, get_origin, get_type_hints

import msgspec

from bicentra.core.base.errors import JobError, JobFileError
from bicentra.core.parts.bounds import MOST_BYTES, MOST_DEPTH
from bicentra.core.parts.fields import Field, fields, is_described, is_described_kind

Record = TypeVar("Record")
_TOKEN = re.compile(rb'"(?:[^"\\]|\\.)*+(?:"|\\?\Z)|[\[\]{}]', re.DOTALL)
"""A string, to the end of the file where it is not closed (else every quote in it would be tried again), or a bracket."""
_AT = re.compile(r"^(?P<what>.*?)(?: - at `(?P<path>[^`]*)`)?$", re.DOTALL)
MOST_WHOLE = 10**15
"""The largest whole number a file may hold: beyond it not every one can be reported from the next in floating point."""
ALWAYS = ("format", "version")
"""What says which kind of file it is stands in every one."""
LAST = ("instrument", "sd_mm", "sd_deg", "by", "taken", "was")
"""What a reading says comes first, who took it how comes last."""
_WORDS = {
    "float": "a number",
    "int": "a whole number",
    "str": "a text",
    "null": "null",
    "array": "a list",
    "object": "an object in braces",
    "bool": "true or false",
}

CURRENT = 2


def read_bytes(path: Path) -> bytes:
    """Return what is in the file at ``path``. Raises ``JobFileError`` when it cannot be read or is too large."""
    value_in_words, expected = "no ordinary file", "a file that can be read"
    try:
        found = path.stat()
        if stat.S_ISREG(found.st_mode) and found.st_size <= MOST_BYTES:
            return path.read_bytes()
        if stat.S_ISREG(found.st_mode):
            value_in_words, expected = f"{found.st_size / 2**20:.1f} MiB", f"at most {MOST_BYTES // 2**20} MiB"
    except (OSError, ValueError) as error:
        value_in_words = getattr(error, "strerror", None) or str(error)
    raise JobFileError(named(path), "(file)", value_in_words, expected)


def named(path: Path) -> str:
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
    _check_whole_numbers(raw, "", name)
    return raw


def _check_whole_numbers(value: Any, path: str, name: str) -> None:
    """Refuse whole numbers that no quantity is: nothing here counts so far, and few programs could read them again."""
    if isinstance(value, int) and not isinstance(value, bool) and abs(value) > MOST_WHOLE:
        value_in_words = f"a whole number of {len(str(abs(value))) if abs(value) < 10**4000 else 'thousands of'} digits"
        raise JobFileError(name, path or "(file)", value_in_words, f"at most {MOST_WHOLE:.0e}")
    if isinstance(value, dict):
        for key, item in value.items():
            _check_whole_numbers(item, f"{path}.{key}" if path else str(key), name)
    elif isinstance(value, list):
        for place, item in enumerate(value):
            _check_whole_numbers(item, f"{path}[{place}]", name)


def checked_record(
    raw: dict[str, Any], record: type[Record], check: Callable[[Record], None], name: str, version: int = CURRENT
) -> Record:
    """Return ``raw`` as a ``record`` that ``check`` lets pass. Raises ``JobFileError`` for what it does not.

    ``version``: that of the file, whose key paths messages name.
    """
    try:
        made = msgspec.convert(with_extra(raw, record), record)
        check(made)
    except msgspec.ValidationError as error:
        raise _as_file_error(error, raw, name, record, version) from error
    except JobError as error:
        raise JobFileError(name, as_of(error.path, version), error.found, error.expected) from error
    except OverflowError as error:
        raise JobFileError(
            name, "(file)", "a number that is too large", "numbers a length or a count can have"
        ) from error
    except RecursionError as error:
        raise JobFileError(name, "(file)", "nesting too deep to read", f"at most {MOST_DEPTH} levels") from error
    return made


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
            if is_described_kind(option):
                found[name] = (option, "alone")
            elif get_origin(option) is tuple and is_described_kind(get_args(option)[0]):
                found[name] = (get_args(option)[0], "list")
            elif get_origin(option) is Mapping and is_described_kind(get_args(option)[1]):
                found[name] = (get_args(option)[1], "object")
    return found


def with_extra(raw: Any, record: Any) -> Any:
    """Return ``raw`` with the keys that ``record`` does not know moved into its ``extra``."""
    if not isinstance(raw, dict) or not (is_described_kind(record)):
        return raw
    names = {key_of(field.name): field.name for field in fields(record) if field.name != "extra"}
    known = {names[key]: value for key, value in raw.items() if key in names}
    for name, (inner, held) in _records(record).items():
        value = known.get(name)
        if held == "list" and isinstance(value, list):
            known[name] = [with_extra(item, inner) for item in value]
        elif held == "object" and isinstance(value, dict):
            known[name] = {key: with_extra(item, inner) for key, item in value.items()}
        elif held == "alone" and value is not None:
            known[name] = with_extra(value, inner)
    known["extra"] = {key: value for key, value in raw.items() if key not in names}
    return known


def key_of(name: str) -> str:
    """Return the key in the file for a field's ``name``: words that Python keeps for itself end in a line there."""
    return name.removesuffix("_")


def _at_default(of: Field, value: Any) -> bool:
    """Tell whether a field stands at its default: then it stays out of the file, whatever record it is of."""
    default = of.default
    return not of.needed and of.name not in ALWAYS and type(value) is type(default) and bool(value == default)


def _plain(value: Any) -> Any:
    """Return records as dictionaries with their kept keys behind the known ones."""
    if is_described(value):
        known = {
            key_of(of.name): _plain(getattr(value, of.name))
            for of in sorted(fields(value), key=lambda of: of.name in LAST)
            if of.name != "extra" and not _at_default(of, getattr(value, of.name))
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


def _as_file_error(error: msgspec.ValidationError, raw: Any, name: str, record: type, version: int) -> JobFileError:
    """Turn the reader's message into file, key path, found, expected."""
    match = _AT.match(str(error))
    where = _with_keys((match["path"] if match else None) or "$", raw, record)
    path = where.removeprefix("$").lstrip(".").replace("from_", "from") or "(file)"
    wanted = re.match(r"Expected `([^`]*)`", match["what"] if match else "")
    if wanted is None:
        return JobFileError(name, as_of(path, version), str(error), "what the schema says")
    words = [_WORDS.get(part.strip(), part.strip()) for part in wanted[1].split("|")]
    return JobFileError(name, as_of(path, version), value_in_words(_dig(raw, path)), " or ".join(words))


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
        msgspec.convert(with_extra(kept(raw, steps), record), record)
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


def value_in_words(value: Any) -> str:
    """Return what was found in a file, in a few words."""
    if value is None or isinstance(value, dict | list):
        return _kind(value)
    value_in_words = " ".join(str(value).split())
    value_in_words = value_in_words if len(value_in_words) <= 60 else value_in_words[:57] + "..."
    return f"“{value_in_words}”" if isinstance(value, str) else value_in_words


def _kind(value: Any) -> str:
    return {type(None): "nothing", dict: "an object", list: "a list", str: "a text"}.get(type(value), "a number")


AXLE_KEYS = ("rotor", "caliper", "wheel", "fit", "bracket", "before", "parking")


CORNER_KEYS = ("hub", "knuckle", "exact")


def _to_vehicle(raw: dict[str, Any]) -> dict[str, Any]:
    """Version 1, one corner with everything at the top, becomes a vehicle. Nothing is judged here, and nothing is lost."""
    asked = raw.get("corner", "front-right")
    corner = asked if isinstance(asked, str) and asked.count("-") == 1 else "front-right"
    corners: dict[str, Any] = {corner: {key: raw[key] for key in CORNER_KEYS if key in raw}}
    corners[corner].setdefault("hub", {})
    axle = {key: raw[key] for key in AXLE_KEYS if key in raw}
    _surveys(raw.get("survey"), corner, corners, axle)
    _trials(raw.get("trials"), corner, corners)
    moved = {*AXLE_KEYS, *CORNER_KEYS, "survey", "trials"}
    kept = {key: value for key, value in raw.items() if key not in moved}
    return {**kept, "version": 2, "axles": {corner.split("-")[0]: axle}, "corners": corners}


def _surveys(raw: Any, corner: str, corners: dict[str, Any], axle: dict[str, Any]) -> None:
    """Every corner gets its survey; readings of donor parts go to the axle they are of."""
    for name, survey in raw.items() if isinstance(raw, dict) else ():
        own = dict(survey) if isinstance(survey, dict) else survey
        if isinstance(own, dict) and name.split("-")[0] == corner.split("-")[0] and "parts" in own:
            parts = own.pop("parts")
            if name == corner or "readings" not in axle:
                axle["readings"] = parts
        corners.setdefault(name, {})["survey"] = own
    if raw is not None and not isinstance(raw, dict):
        corners[corner]["survey"] = raw


def _trials(raw: Any, corner: str, corners: dict[str, Any]) -> None:
    for trial in raw if isinstance(raw, list) else ():
        name = trial.get("corner", corner) if isinstance(trial, dict) else corner
        corners.setdefault(name if isinstance(name, str) else corner, {}).setdefault("trials", []).append(trial)


LINKS: dict[int, Callable[[dict[str, Any]], dict[str, Any]]] = {1: _to_vehicle}
"""The link from each version to the next."""


def migrated(raw: dict[str, Any]) -> dict[str, Any]:
    """Return ``raw`` as the current version has it; ``raw`` itself is left as it is."""
    while raw.get("version") in LINKS and raw["version"] != CURRENT:
        raw = LINKS[raw["version"]](raw)
    return raw


def as_of(path: str, version: int) -> str:
    """Return a key path of the current version as the file of ``version`` has it, for messages."""
    if version >= CURRENT:
        return path
    first, *rest = path.split(".")
    if first == "axles" and len(rest) > 1:
        return ".".join(rest[1:]).replace("readings", "survey.parts")
    if first == "corners" and len(rest) > 1:
        return ".".join(rest[1:]) if rest[1].partition("[")[0] != "survey" else ".".join(("survey", rest[0], *rest[2:]))
    return path
