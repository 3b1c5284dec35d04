"""Parts in files: JSON, one part a file; and as a table, one part a row, each column with its unit."""

import csv
import io
import re
from collections.abc import Iterable
from pathlib import Path
from typing import Any

from bicentra.core.base.errors import JobFileError, QuantityError, ReadingsError
from bicentra.core.base.numbers import is_known, known
from bicentra.core.base.quantities import ANGLE, LENGTH, MASS, NUMBER, Kind, parse_quantity
from bicentra.core.base.records import Record
from bicentra.core.parts.fields import fields, meaning
from bicentra.core.parts.library import RECORDS, Part, check_part
from bicentra.formats.csv_out import plain_cell, safe_cell
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


OWN = ("source", "price", "currency", "notes", "guessed", "measured")
"""Columns about the part and not of it; guessed and measured list keys with ; between them."""
POINTS = {
    "body_section_mm", "body_face_mm", "pad_outline_mm", "hose_port_mm", "barrel_mm", "spokes_mm", "weights",
}  # fmt: skip
BAND = ("z_min_mm", "z_max_mm", "height_mm")
"""What the three numbers of a band of balance weights are; ? where one is unknown."""
LISTS = {"pistons_inboard_mm", "pistons_outboard_mm", "bleeders_deg"}
UNITS: dict[str, tuple[str, ...]] = {
    "length": ("mm", "in", "cm", "thou"),
    "mass": ("kg", "lb", "g", "oz"),
    "angle": ("°",),
}
MOST_ROWS, MOST_COLUMNS = 5000, 200
ALIASES: dict[str, tuple[str, ...]] = {
    "centre_bore_mm": ("bore", "centre hole", "center bore", "hub bore", "hub hole", "spigot", "cb"),
    "bore_mm": ("bore", "bore diameter", "cylinder bore"),
    "diameter_mm": (
        "disc diameter",
        "disk diameter",
        "rotor diameter",
        "outside diameter",
        "outer diameter",
        "od",
        "dia",
        "diam",
    ),
    "overall_height_mm": ("height", "total height", "disc height", "overall height", "h"),
    "thickness_mm": ("disc thickness", "ring thickness", "new thickness", "nominal thickness", "width new"),
    "min_thickness_mm": ("min thickness", "minimum thickness", "discard thickness", "wear limit", "min th"),
    "hat_thickness_mm": ("hat", "bell thickness", "flange thickness"),
    "bolt_circle_mm": ("pcd", "bcd", "bolt circle diameter", "pitch circle", "pitch circle diameter"),
    "hole_count": ("holes", "number of holes", "bolts", "bolt holes", "no of holes"),
    "hole_mm": ("hole size", "hole diameter", "bolt hole", "bolt hole diameter"),
    "mass_kg": ("weight", "mass"),
    "offset_mm": ("et", "offset"),
    "slot_width_mm": ("slot", "rotor slot", "gap", "opening"),
    "ear_spacing_mm": ("bolt spacing", "mounting spacing", "lug spacing", "hole spacing", "mounting centres"),
    "ear_hole_mm": ("mounting hole", "mounting hole diameter"),
    "name": ("part", "part number", "description", "model", "item"),
    "mu": ("friction", "friction coefficient", "coefficient of friction"),
}
"""What headings of other people's tables usually mean: common usage, no source. Taken where the kind of part has that key."""


class PartColumn(Record, frozen=True):
    """One column of a table: its heading, the key of the part it fills (empty: passed over), its unit."""

    heading: str
    key: str = ""
    unit: str = ""


class Table(Record, frozen=True):
    """A table as it was read: headings, and rows of cells as many as there are headings."""

    name: str
    headings: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]


def targets(kind: str) -> dict[str, tuple[str, Kind | None]]:
    """Return what a column of ``kind`` can fill: key -> (label, what it measures; ``None`` for words)."""
    found: dict[str, tuple[str, Kind | None]] = {}
    for of in fields(RECORDS[kind]):
        if of.name in POINTS or of.name in LISTS:
            plain = of.name.rsplit("_", 1)[0].replace("_", " ").capitalize()
            found[of.name] = (plain, ANGLE if of.name.endswith("_deg") else LENGTH)
        elif of.meaning is not None:
            found[of.name] = (meaning(of).label, meaning(of).kind)
    found |= {name: (name.capitalize(), NUMBER if name == "price" else None) for name in OWN}
    return found


def parts_csv(parts: Iterable[Part], kind: str, unit: str = "mm") -> bytes:
    """Return the parts of one kind as UTF-8 CSV, lengths in ``unit`` (mm or in)."""
    stream = io.StringIO(newline="")
    keys = targets(kind)
    writer = csv.writer(stream, lineterminator="\r\n")
    writer.writerow([_heading(key, of, unit) for key, (_, of) in keys.items()])
    for part in parts:
        if part.kind == kind:
            writer.writerow([_cell(part, key, of, unit) for key, (_, of) in keys.items()])
    return stream.getvalue().encode()


def _heading(key: str, of: Kind | None, unit: str) -> str:
    return key.removesuffix("_mm") + f"_{unit}" if of is LENGTH else key


def _cell(part: Part, key: str, of: Kind | None, unit: str) -> str:
    if key in ("guessed", "measured"):
        return ";".join(name for name, quality in part.quality.items() if quality == key)
    value = getattr(part if key in OWN else part.item, key)
    scale = 25.4 if of is LENGTH and unit == "in" else 1.0
    if key == "weights":
        value = tuple(tuple(known(getattr(band, name)) for name in BAND) for band in value)
    if isinstance(value, tuple):
        return ";".join("/".join(_number(v, scale) for v in (p if isinstance(p, tuple) else (p,))) for p in value)
    return _number(value, scale) if isinstance(value, int | float) else safe_cell(str(value or ""))


def _number(value: float, scale: float) -> str:
    return f"{value / scale:.12g}" if is_known(value) else "?"


def read_table(data: bytes, name: str) -> Table:
    """Return the table in ``data``: comma, semicolon or tab between cells, a heading first. Raises ``ReadingsError``."""
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise ReadingsError(name, 0, "", "bytes that are no UTF-8", "a CSV file in UTF-8") from error
    first = text.split("\n", 1)[0]
    delimiter = max(",;\t", key=first.count)
    try:
        every = csv.reader(io.StringIO(text, newline=""), delimiter=delimiter)
        rows = [[plain_cell(c) for c in row] for row in every if any(c.strip() for c in row)]
    except csv.Error as error:
        raise ReadingsError(name, 0, "", str(error), "cells of a usual length, quotes closed") from error
    if len(rows) < 2:
        raise ReadingsError(name, 0, "", f"{len(rows)} rows", "a heading row and at least one part")
    if len(rows) > MOST_ROWS or len(rows[0]) > MOST_COLUMNS:
        raise ReadingsError(
            name, 0, "", f"{len(rows)} rows of {len(rows[0])}", f"at most {MOST_ROWS} of {MOST_COLUMNS}"
        )
    headings = tuple(cell.strip() for cell in rows[0])
    width = len(headings)
    return Table(name, headings, tuple(tuple(c.strip() for c in [*row, *[""] * width][:width]) for row in rows[1:]))


def guess_columns(headings: Iterable[str], kind: str) -> tuple[PartColumn, ...]:
    """Return a map made from the headings alone: keys of the part file and labels are known, a unit may follow."""
    keys = targets(kind)
    plain = {_plain(key.removesuffix("_mm").removesuffix("_kg").removesuffix("_deg")): key for key in keys}
    plain |= {_plain(label): key for key, (label, _) in keys.items()}
    for key, words in ALIASES.items():
        if key in keys:
            plain = {_plain(word): key for word in words} | plain
    taken: set[str] = set()
    columns = []
    for heading in headings:
        bare, unit = _unit_of(heading)
        key = plain.get(_plain(bare), "")
        key = "" if key in taken else key
        taken.add(key)
        of = keys[key][1] if key else None
        allowed = UNITS.get(of.name, ()) if of is not None else ()
        columns.append(PartColumn(heading, key, unit if unit in allowed else allowed[0] if allowed else ""))
    return tuple(columns)


def _plain(text: str) -> str:
    return re.sub(r"[^a-z0-9]", "", text.lower())


def _unit_of(heading: str) -> tuple[str, str]:
    """Split ``Bore [in]``, ``bore (mm)`` or ``bore_in`` into name and unit; mm where none is reported."""
    match = re.fullmatch(
        r"(.*?)(?:[\s_]+|\s*[\[(])(mm|in|cm|thou|kg|lb|g|oz|deg)[\])]?", heading.strip(), re.IGNORECASE
    )
    if match is None or not match[1]:
        return heading, ""
    return match[1], match[2].lower().replace("deg", "°")


def parts_of(table: Table, columns: tuple[PartColumn, ...], kind: str) -> tuple[tuple[Part, ...], tuple[str, ...]]:
    """Return the parts in ``table`` and one line for each row that is none: file, row, column, found, expected."""
    parts, problems = [], []
    for number, row in enumerate(table.rows, start=2):
        try:
            parts.append(_part(table.name, number, row, columns, kind))
        except (ReadingsError, JobFileError) as error:
            problems.append(str(error))
    return tuple(parts), tuple(problems)


def _part(name: str, number: int, row: tuple[str, ...], columns: tuple[PartColumn, ...], kind: str) -> Part:
    keys = targets(kind)
    item: dict[str, Any] = {}
    whole: dict[str, Any] = {"format": "bicentra.part", "version": 1, "source": f"from {name}", kind: item}
    quality: dict[str, str] = {}
    for cell, column in zip(row, columns):
        if not column.key or not cell:
            continue
        try:
            value = _value(cell, column, keys[column.key][1])
        except QuantityError as error:
            raise ReadingsError(name, number, column.heading, error.found, error.expected) from error
        if column.key in ("guessed", "measured"):
            quality |= dict.fromkeys((word.strip() for word in cell.split(";") if word.strip()), column.key)
        else:
            (whole if column.key in OWN else item)[column.key] = value
    if quality:
        whole["quality"] = quality
    return checked_record(whole, Part, check_part, f"{name}, row {number}")


def _value(cell: str, column: PartColumn, of: Kind | None) -> Any:
    """Return what a cell means: words, numbers in the column's unit, lists, points."""
    if of is None:
        return cell
    unit = column.unit if of in (LENGTH, MASS) else ""
    if column.key in POINTS:
        points = [part.split("/") for part in cell.split(";") if part.strip()]
        numbers = [[None if n.strip() == "?" else parse_quantity(n, of, unit) for n in point] for point in points]
        return [dict(zip(BAND, point)) for point in numbers] if column.key == "weights" else numbers
    if column.key in LISTS:
        return [parse_quantity(number, of, unit) for number in cell.split(";") if number.strip()]
    value = parse_quantity(cell, of, unit)
    return int(value) if of is NUMBER and value == int(value) and column.key != "price" else value
