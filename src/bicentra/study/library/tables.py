"""Tables of parts: read from disk, taken into the user's library, written from it."""

import json
from collections.abc import Mapping
from pathlib import Path

from bicentra.core.base.errors import StoreError
from bicentra.core.base.quantities import Units
from bicentra.core.base.records import Record, replace
from bicentra.core.parts.fields import fields
from bicentra.core.parts.library import KINDS, Difference, Part, differences, rounded
from bicentra.formats.part_files import (
    UNITS,
    PartColumn,
    Table,
    guess_columns,
    parts_csv,
    parts_of,
    read_table,
    targets,
    write_part,
)
from bicentra.formats.records import read_bytes
from bicentra.study.document.store import write_atomic
from bicentra.study.library.library import Library, part_file

__all__ = ["KINDS", "UNITS", "PartColumn", "Table", "open_table", "parts_of", "targets", "write_table"]


def open_table(path: Path) -> Table:
    """Return the table in the file at ``path``. Raises ``JobFileError`` or ``ReadingsError`` for one that is none."""
    return read_table(read_bytes(path), path.name)


def write_table(library: Library, kind: str, units: Units, path: Path) -> int:
    """Write every part of ``kind`` of ``library`` to ``path``; returns how many. Raises ``StoreError``."""
    parts = library.of_kind(kind)
    write_atomic(path, parts_csv(parts, kind, units))
    return len(parts)


KEEP, TAKE, BOTH = "keep mine", "take theirs", "keep both"
CHOICES = (KEEP, TAKE, BOTH)
MOST_MAPS = 200


class Arrival(Record, frozen=True):
    """One part of a table against the library.

    ``state``: new, same (there already, under ``other``'s name), or differs (of the same name, by ``apart``).
    ``path``: the file of the user's own part of that name, ``None`` where it ships with the program.
    """

    part: Part
    state: str
    other: Part | None = None
    path: Path | None = None
    apart: tuple[Difference, ...] = ()


def arrivals(parts: tuple[Part, ...], library: Library, own: Path) -> tuple[Arrival, ...]:
    """Return what each of ``parts`` is against ``library`` and against those before it in the table."""
    known = {(part.kind, part.name): (part, path) for part, path in library.parts}
    alike = {_measures(part): part for part, _ in library.parts}
    found = []
    for part in parts:
        named = known.get((part.kind, part.name))
        twin = alike.get(_measures(part))
        if named is not None and _measures(named[0]) != _measures(part):
            path = named[1] if named[1].parent == own else None
            found.append(Arrival(part, "differs", named[0], path, differences(named[0].item, part.item)))
        elif twin is not None:
            found.append(Arrival(part, "same", twin))
        else:
            found.append(Arrival(part, "new"))
        alike.setdefault(_measures(part), part)
        known.setdefault((part.kind, part.name), (part, own / "(this table)"))
    return tuple(found)


def _measures(part: Part) -> tuple[object, ...]:
    """Return what makes a part the same as another: everything about it but its name, lengths to a ten-thousandth."""
    item = part.item
    names = sorted(of.name for of in fields(item) if of.name not in ("name", "extra"))
    return (part.kind, part.guessed, *(rounded(getattr(item, name)) for name in names))


def take_in(found: tuple[Arrival, ...], choices: Mapping[str, str], own: Path) -> tuple[str, ...]:
    """Write the new parts, and those that differ as ``choices`` by name say (keep mine where it says nothing).

    Returns a line for each part written. Raises ``StoreError``.
    """
    text = []
    for arrival in found:
        part, choice = arrival.part, choices.get(arrival.part.name, KEEP)
        if arrival.state == "same" or (arrival.state == "differs" and choice == KEEP):
            continue
        if arrival.state == "differs" and choice == TAKE and arrival.path is not None and arrival.path.is_file():
            write_atomic(arrival.path, write_part(part))
            text.append(f"{part.name}: changed")
            continue
        if arrival.state == "differs":
            part = _renamed(part, f"{part.name} (from a table)")
        write_atomic(part_file(part, own), write_part(part))
        text.append(f"{part.name}: added")
    return tuple(text)


def _renamed(part: Part, name: str) -> Part:
    return replace(part, **{part.kind: replace(getattr(part, part.kind), name=name)})


def maps_file() -> Path:
    """Return the file in which column maps are remembered."""
    from platformdirs import user_config_path

    return user_config_path("bicentra", appauthor=False) / "columns.json"


def _maps() -> dict[str, dict[str, list[str]]]:
    try:
        kept = json.loads(maps_file().read_text("utf-8"))
    except (OSError, ValueError):
        return {}
    if not isinstance(kept, dict):
        return {}
    return {kind: columns for kind, columns in kept.items() if isinstance(columns, dict)}


def remembered(headings: tuple[str, ...], kind: str) -> tuple[PartColumn, ...]:
    """Return the map last used for a table with these headings; what nobody told is guessed from the headings."""
    kept = _maps().get(kind, {})
    known = targets(kind)
    columns = []
    for column in guess_columns(headings, kind):
        meaning = kept.get(column.heading)
        right = isinstance(meaning, list) and len(meaning) == 2 and all(isinstance(word, str) for word in meaning)
        if meaning is not None and right and (not meaning[0] or meaning[0] in known):
            columns.append(PartColumn(column.heading, str(meaning[0]), str(meaning[1])))
        else:
            columns.append(column)
    return tuple(columns)


def remember(columns: tuple[PartColumn, ...], kind: str) -> None:
    """Remember what each heading means for the next table. Raises ``StoreError``."""
    kept = _maps()
    of_kind = {**kept.get(kind, {}), **{column.heading: [column.key, column.unit] for column in columns}}
    kept[kind] = dict(list(of_kind.items())[-MOST_MAPS:])
    path = maps_file()
    try:
        path.parent.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise StoreError(f"{path.parent}: {error.strerror}") from error
    write_atomic(path, json.dumps(kept, indent=1, ensure_ascii=False).encode())
