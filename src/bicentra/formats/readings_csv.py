"""Readings as a table: CSV out, and back in from another bench, a phone or a spreadsheet.

One reading a row. Columns: kind (diameter, distance, direction, straightedge, depth, sweep), from, to, sense, value,
unit, at_deg, radius_mm, instrument, sd, by, taken, set_aside. Missing columns are taken as empty, unknown ones are
passed over.
"""

import csv
import io
from collections.abc import Callable, Iterator
from typing import Any

from bicentra.core.base.errors import ReadingsError
from bicentra.core.base.records import replace
from bicentra.core.parts.survey import (
    INSTRUMENTS,
    SENSES,
    SWEPT,
    Direction,
    Distance,
    FaceReadings,
    Feature,
    Spot,
    Survey,
    Sweep,
    SweepReading,
)
from bicentra.formats.csv_out import plain_cell, safe_cell

COLUMNS = ("kind", "from", "to", "sense", "value", "unit", "at_deg", "radius_mm", "instrument", "sd", "by", "taken",
           "set_aside")  # fmt: skip
MOST_ROWS = 5000
MM = {"": 1.0, "mm": 1.0, "in": 25.4}
Row = dict[str, str]


def readings_csv(survey: Survey) -> bytes:
    """Return every reading of ``survey`` as UTF-8 CSV with a heading."""
    out = io.StringIO(newline="")
    table = csv.DictWriter(out, COLUMNS, restval="", lineterminator="\r\n")
    table.writeheader()
    safe = _Safe(table)

    def text(item: Feature | Distance | Direction | FaceReadings | Sweep, sd: float | None) -> Row:
        return {
            "instrument": item.instrument,
            "sd": "" if sd is None else f"{sd:g}",
            "by": item.by,
            "taken": item.taken,
        }

    for f in survey.features:
        value = "" if f.diameter_mm is None else f"{f.diameter_mm:.12g}"
        sense = "axis" if f.axis else f.kind
        safe.writerow(
            {"kind": "diameter", "from": f.name, "sense": sense, "value": value, "unit": "mm", **text(f, f.sd_mm)}
        )
    for d in survey.distances:
        value = "" if d.value_mm is None else f"{d.value_mm:.12g}"
        safe.writerow({"kind": "distance", "from": d.from_, "to": d.to, "sense": d.sense, "value": value, "unit": "mm",
                        "set_aside": d.set_aside, **text(d, d.sd_mm)})  # fmt: skip
    for a in survey.directions:
        value = "" if a.clock_deg is None else f"{a.clock_deg:.12g}"
        safe.writerow({"kind": "direction", "from": a.from_, "to": a.to, "value": value, "unit": "deg",
                        "set_aside": a.set_aside, **text(a, a.sd_deg)})  # fmt: skip
    if survey.straightedge_thickness_mm is not None:
        safe.writerow({"kind": "straightedge", "value": f"{survey.straightedge_thickness_mm:.12g}", "unit": "mm"})
    for face in survey.faces:
        for s in face.spots:
            value = "" if s.depth_mm is None else f"{s.depth_mm:.12g}"
            safe.writerow({"kind": "depth", "from": face.feature, "value": value, "unit": "mm", **_at(s.at_deg),
                            "radius_mm": "" if s.radius_mm is None else f"{s.radius_mm:g}", **text(face, face.sd_mm)})  # fmt: skip
    for sweep in survey.sweeps:
        for r in sweep.readings:
            value = "" if r.value_mm is None else f"{r.value_mm:.12g}"
            radius = "" if sweep.radius_mm is None else f"{sweep.radius_mm:g}"
            safe.writerow({"kind": "sweep", "from": sweep.on, "value": value, "unit": "mm", **_at(r.at_deg),
                            "radius_mm": radius, **text(sweep, sweep.sd_mm)})  # fmt: skip
    return out.getvalue().encode()


def _at(angle: float | None) -> Row:
    return {"at_deg": "" if angle is None else f"{angle:.12g}"}


def read_csv(data: bytes, name: str, survey: Survey) -> tuple[Survey, int]:
    """Return ``survey`` with the readings in ``data`` added, and how many there were; ``name`` stands for the file.

    A row that is in the survey to the letter already is passed over; features it speaks of are added as round holes.
    Raises ``ReadingsError`` for the first row that cannot be used: file, row, column, what was found, what was expected.
    """
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise ReadingsError(name, 0, "", "bytes that are no UTF-8", "a CSV file in UTF-8") from error
    delimiter = ";" if text[:2000].split("\n", 1)[0].count(";") > text[:2000].split("\n", 1)[0].count(",") else ","
    rows = csv.DictReader(io.StringIO(text, newline=""), delimiter=delimiter)
    if "kind" not in _headings(rows, name):
        raise ReadingsError(name, 1, "kind", "a heading without it", "a heading row with kind, from, to, value …")
    added = 0
    for number, raw in enumerate(_rows(rows, name), start=2):
        if number > MOST_ROWS:
            raise ReadingsError(name, number, "", f"more than {MOST_ROWS} rows", "fewer")
        row = {
            key: (value or "").strip()
            for key, value in raw.items()
            if isinstance(key, str) and not isinstance(value, list)
        }
        row = {key: plain_cell(value) for key, value in row.items()}
        if any(row.values()):
            grown = _take(survey, row, name, number)
            added += grown is not survey
            survey = grown
    return survey, added


def _headings(rows: "csv.DictReader[str]", name: str) -> list[str]:
    try:
        return list(rows.fieldnames or ())
    except csv.Error as error:
        raise ReadingsError(name, 1, "", str(error), "cells of a usual length") from error


def _rows(rows: "csv.DictReader[str]", name: str) -> Iterator[dict[str | Any, str | Any]]:
    """Yield the rows; a cell that no reader takes is refused by its row."""
    try:
        yield from rows
    except csv.Error as error:
        raise ReadingsError(name, rows.line_num, "", str(error), "cells of a usual length, quotes closed") from error


class _Safe:
    """Writes rows whose words cannot be taken for formulas."""

    def __init__(self, table: "csv.DictWriter[str]") -> None:
        self._table = table

    def writerow(self, row: Row) -> None:
        """Write one row."""
        words = {"from", "to", "by", "taken", "set_aside"}
        self._table.writerow({key: safe_cell(value) if key in words else value for key, value in row.items()})


def _take(survey: Survey, row: Row, name: str, number: int) -> Survey:
    takers: dict[str, Callable[[Survey, Row, _Cells], Survey]] = {
        "diameter": _diameter,
        "distance": _distance,
        "direction": _direction,
        "straightedge": _straightedge,
        "depth": _depth,
        "sweep": _sweep,
    }
    kind = row.get("kind", "")
    if kind not in takers:
        raise ReadingsError(name, number, "kind", f"“{kind}”", "one of " + ", ".join(takers))
    return takers[kind](survey, row, _Cells(row, name, number))


class _Cells:
    """The cells of one row, read and checked."""

    def __init__(self, row: Row, name: str, number: int) -> None:
        self.row, self.name, self.number = row, name, number

    def fail(self, column: str, expected: str) -> ReadingsError:
        """Return the error for a cell that holds something else than ``expected``."""
        found = self.row.get(column, "")
        return ReadingsError(self.name, self.number, column, f"“{found[:40]}”" if found else "nothing", expected)

    def number_of(self, column: str, needed: bool = True, scale: float = 1.0) -> float | None:
        """Return a number, with a point or a comma before its decimals."""
        text = self.row.get(column, "")
        if not text and not needed:
            return None
        try:
            value = float(text.replace(",", ".")) * scale
        except ValueError:
            raise self.fail(column, "a number") from None
        if not abs(value) < 1e5:
            raise self.fail(column, "a number below 100000")
        return value

    def length(self, column: str = "value", needed: bool = True) -> float | None:
        """Return a length in mm, by the row's unit."""
        unit = self.row.get("unit", "")
        if unit not in MM:
            raise self.fail("unit", "mm or in")
        return self.number_of(column, needed, MM[unit])

    def word(self, column: str, choices: tuple[str, ...], default: str) -> str:
        """Return one of ``choices``."""
        found = self.row.get(column, "") or default
        if found not in choices:
            raise self.fail(column, "one of " + ", ".join(choices))
        return found

    def text(self, column: str) -> str:
        """Return a text that must be there."""
        if not self.row.get(column):
            raise self.fail(column, "a name")
        return self.row[column]

    def stamp(self) -> dict[str, Any]:
        """Return who and when."""
        return {"by": self.row.get("by", ""), "taken": self.row.get("taken", "")}

    def instrument(self, default: str) -> str:
        """Return the instrument of a length."""
        return self.word("instrument", tuple(i for i in INSTRUMENTS if i != "angle-gauge"), default)


def _with(survey: Survey, *names: str) -> Survey:
    """Return ``survey`` with the features called ``names``, added as round holes where they are new."""
    new = tuple(Feature(name=n) for n in dict.fromkeys(names) if survey.feature(n) is None)
    return replace(survey, features=(*survey.features, *new)) if new else survey


def _diameter(survey: Survey, row: Row, cells: _Cells) -> Survey:
    del row
    name, kind = cells.text("from"), cells.word("sense", ("axis", "round", "point", "edge"), "round")
    feature = Feature(
        name=name, axis=kind == "axis", kind="round" if kind == "axis" else kind, diameter_mm=cells.length(needed=False),
        instrument=cells.instrument("digital-caliper"), sd_mm=cells.number_of("sd", False), **cells.stamp(),
    )  # fmt: skip
    old = survey.feature(name)
    if old is None:
        return replace(survey, features=(*survey.features, feature))
    if old.diameter_mm is not None or feature.diameter_mm is None:
        return survey  # a diameter that is there already is never overwritten from a table
    new = replace(
        old, diameter_mm=feature.diameter_mm, instrument=feature.instrument, sd_mm=feature.sd_mm, **cells.stamp()
    )
    return replace(survey, features=tuple(new if f is old else f for f in survey.features))


def _distance(survey: Survey, row: Row, cells: _Cells) -> Survey:
    new = Distance(
        from_=cells.text("from"), to=cells.text("to"), sense=cells.word("sense", SENSES, "near-near"),
        value_mm=cells.length(), instrument=cells.instrument("digital-caliper"), sd_mm=cells.number_of("sd", False),
        set_aside=row.get("set_aside", ""), **cells.stamp(),
    )  # fmt: skip
    if new in survey.distances:
        return survey
    grown = _with(survey, new.from_, new.to)
    return replace(grown, distances=(*grown.distances, new))


def _direction(survey: Survey, row: Row, cells: _Cells) -> Survey:
    new = Direction(
        from_=cells.text("from"), to=cells.text("to"), clock_deg=cells.number_of("value"), sd_deg=cells.number_of("sd", False),
        set_aside=row.get("set_aside", ""), **cells.stamp(),
    )  # fmt: skip
    if new in survey.directions:
        return survey
    grown = _with(survey, new.from_, new.to)
    return replace(grown, directions=(*grown.directions, new))


def _straightedge(survey: Survey, row: Row, cells: _Cells) -> Survey:
    del row
    value = cells.length()
    return survey if survey.straightedge_thickness_mm == value else replace(survey, straightedge_thickness_mm=value)


def _depth(survey: Survey, row: Row, cells: _Cells) -> Survey:
    del row
    name = cells.text("from")
    spot = Spot(at_deg=cells.number_of("at_deg"), radius_mm=cells.number_of("radius_mm"), depth_mm=cells.length())
    grown = _with(survey, name)
    face = next((f for f in grown.faces if f.feature == name), None)
    if face is None:
        made = FaceReadings(feature=name, spots=(spot,), instrument=cells.instrument("depth-gauge"),
                            sd_mm=cells.number_of("sd", False), **cells.stamp())  # fmt: skip
        return replace(grown, faces=(*grown.faces, made))
    if spot in face.spots:
        return survey
    return replace(grown, faces=tuple(replace(f, spots=(*f.spots, spot)) if f is face else f for f in grown.faces))


def _sweep(survey: Survey, row: Row, cells: _Cells) -> Survey:
    del row
    on = cells.word("from", SWEPT, "")
    reading = SweepReading(at_deg=cells.number_of("at_deg") or 0.0, value_mm=cells.length(needed=False))
    sweep = next((s for s in survey.sweeps if s.on == on), None)
    if sweep is None:
        radius, sd = cells.number_of("radius_mm", False), cells.number_of("sd", False)
        made = Sweep(on=on, radius_mm=radius, readings=(reading,), instrument=cells.instrument("dial-indicator"),
                     sd_mm=sd, **cells.stamp())  # fmt: skip
        return replace(survey, sweeps=(*survey.sweeps, made))
    if reading in sweep.readings:
        return survey
    return replace(
        survey, sweeps=tuple(replace(s, readings=(*s.readings, reading)) if s is sweep else s for s in survey.sweeps)
    )
