"""Thread and hardware tables against printed values (from memory) and against an outside package.

Stress areas: ISO 898-1:2013 tables 4 to 7 and ASME B1.1, both from memory. Clearance holes, heads, nuts and washers:
the CSV tables of the package bd-warehouse 0.4.0, read without importing it. Known differences of that package are
listed below and not compared: its M12 and M14 medium clearance holes, its washer heights (maxima, not nominal), and
that it has no fine-pitch hexagon heads.
"""

import csv
import importlib.util
import math
from fractions import Fraction
from pathlib import Path

import pytest

from bicentra.core.parts.threads import SUNK_HEADS, THREADS, find_thread

ISO_898_1 = [
    ("M8x1.25", 36.6), ("M10x1.5", 58.0), ("M12x1.75", 84.3), ("M14x2", 115.0), ("M8x1", 39.2), ("M10x1", 64.5),
    ("M10x1.25", 61.2), ("M12x1.25", 92.1), ("M12x1.5", 88.1), ("M14x1.5", 125.0),
]  # fmt: skip
ASME_B1_1 = [
    ("5/16-18", 0.0524), ("5/16-24", 0.0580), ("3/8-16", 0.0775), ("3/8-24", 0.0878), ("7/16-14", 0.1063),
    ("7/16-20", 0.1187), ("1/2-13", 0.1419), ("1/2-20", 0.1599),
]  # fmt: skip
KNOWN_DIFFERENCES = {"M12", "M14"}


@pytest.mark.parametrize(("name", "square_mm"), ISO_898_1)
def test_metric_stress_areas(name: str, square_mm: float) -> None:
    """ISO 898-1 prints three figures: half a unit in the last place, plus its own rounding."""
    assert THREADS[name].stress_area == pytest.approx(square_mm, rel=4e-3)


@pytest.mark.parametrize(("name", "square_in"), ASME_B1_1)
def test_inch_stress_areas(name: str, square_in: float) -> None:
    """ASME B1.1 prints four decimals of a square inch, cut rather than rounded for 5/16-24."""
    assert THREADS[name].stress_area / 25.4**2 == pytest.approx(square_in, abs=1e-4)


def test_minor_diameters_of_iso_724() -> None:
    """M10x1.5 basic D1 = 8.376 mm, M10x1 D1 = 8.917 mm (ISO 724, from memory)."""
    assert THREADS["M10x1.5"].minor == pytest.approx(8.376, abs=5e-4)
    assert THREADS["M10x1"].minor == pytest.approx(8.917, abs=6e-4)


def _table(name: str) -> list[dict[str, str]]:
    spec = importlib.util.find_spec("bd_warehouse")
    assert spec is not None and spec.submodule_search_locations is not None
    path = Path(spec.submodule_search_locations[0]) / "data" / name
    with path.open(encoding="utf-8-sig", newline="") as stream:
        return list(csv.DictReader(stream))


def _mm(text: str) -> float:
    return float(25.4 * sum(Fraction(part) for part in text.split())) if "/" in text else float(text)


def _row(rows: list[dict[str, str]], column: str, start: str) -> dict[str, str]:
    return next(row for row in rows if row[column] == start or row[column].startswith(f"{start}-"))


@pytest.mark.parametrize("size", ["M8", "M10", "5/16", "3/8", "1/2"])
def test_clearance_holes(size: str) -> None:
    """ISO 273 medium and ASME B18.2.8 normal agree with the outside table."""
    row = _row(_table("clearance_hole_sizes.csv"), "Size", size)
    ours = next(t for name, t in THREADS.items() if name.startswith((f"{size}x", f"{size}-")))
    assert ours.hardware.clearance == pytest.approx(_mm(row["Normal"]), abs=0.01)


@pytest.mark.parametrize("size", ["M8", "M10", "M12", "M14"])
def test_washers(size: str) -> None:
    """ISO 7089 outside diameter agrees; the package's height is the maximum, ours the nominal, 0.2 to 0.3 mm less."""
    row = _row(_table("plain_washer_parameters.csv"), "Size", size)
    ours = next(t for name, t in THREADS.items() if name.startswith(f"{size}x"))
    assert ours.hardware.washer_outer == float(row["iso7089:d2"])
    assert 0.15 <= float(row["iso7089:h"]) - ours.hardware.washer_thickness <= 0.35


@pytest.mark.parametrize("size", ["M5", "M6", "M8", "M10", "M12", "M14", "M16"])
def test_countersunk_heads(size: str) -> None:
    """Diameter and height agree with the outside table, which gives the sizes of DIN 7991 under the newer standard's name."""
    rows = [row for row in _table("countersunk_head_parameters.csv") if row["iso10642:k"]]
    row = _row(rows, "Size", size)
    wide, high, _ = SUNK_HEADS[size]
    assert (wide, high) == (float(row["iso10642:dk "]), float(row["iso10642:k"]))


@pytest.mark.parametrize("size", ["#10", "1/4", "5/16", "3/8", "7/16", "1/2", "5/8"])
def test_inch_countersunk_heads(size: str) -> None:
    """A second way: an 82° cone from the sharp edge to the thread is as high as ASME B18.3's table has it (from memory)."""
    wide, high, angle = SUNK_HEADS[size]
    major = next(t for name, t in THREADS.items() if name.startswith(f"{size}-")).major
    assert high == pytest.approx((wide - major) / 2 / math.tan(math.radians(angle / 2)), abs=0.03)


@pytest.mark.parametrize("size", ["M8", "M10", "M12", "M14"])
def test_heads_and_nuts(size: str) -> None:
    """ISO 4014 head and ISO 4032 nut sizes agree with the outside tables."""
    head, nut = (
        _row(_table("hex_head_parameters.csv"), "Size", size),
        _row(_table("hex_nut_parameters.csv"), "Size", size),
    )
    ours = next(t for name, t in THREADS.items() if name.startswith(f"{size}x")).hardware
    assert (ours.head_height, ours.across_flats) == (float(head["iso4014:k"]), float(head["iso4014:s"]))
    assert (ours.nut_height, ours.across_flats) == (float(nut["iso4032:m"]), float(nut["iso4032:s"]))


@pytest.mark.parametrize(
    ("written", "name"),
    [
        ("M12 × 1.5", "M12x1.5"),
        ("m10", "M10x1.5"),
        ("M8X1.0", "M8x1"),
        ("3/8-24 UNF", "3/8-24"),
        ('1/2"-20', "1/2-20"),
        ("M12x1.50", "M12x1.5"),
    ],
)
def test_threads_are_found_however_written(written: str, name: str) -> None:
    """The shop's ways of writing a thread lead to the table's."""
    found = find_thread(written)
    assert found is not None and found.name == name


@pytest.mark.parametrize("written", ["M13x1", "M12x9", "3/8-23", "", "x", "M10x", "Tr20"])
def test_unknown_threads_are_not_guessed(written: str) -> None:
    """A thread outside the tables is not there; 3/8-24 and M10x1 are never taken for each other."""
    assert find_thread(written) is None
