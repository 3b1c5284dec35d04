"""Tables of parts: out and back in, columns told and remembered, parts that are there already or differ."""

from pathlib import Path

import pytest

from bicentra.cli import main
from bicentra.core.base.errors import ReadingsError
from bicentra.core.parts.library import KINDS
from bicentra.formats.part_files import PartColumn, guess_columns, parts_csv, parts_of, read_table
from bicentra.study.library.library import load_library, own_folder, whole_library
from bicentra.study.library.tables import BOTH, KEEP, TAKE, Arrival, arrivals, remember, remembered, take_in

TABLE = "Name;Outside;Bore [in];Overall height;Nonsense\nThird float rotor;9,84;2.25;44;x\n"


@pytest.mark.parametrize("unit", ["mm", "in"])
@pytest.mark.parametrize("kind", KINDS)
def test_every_part_comes_back_the_same(kind: str, unit: str) -> None:
    """Written and read again each shipped part is there already, to a ten-thousandth, guesses and traced points too."""
    library = whole_library()
    table = read_table(parts_csv(library.of_kind(kind), kind, unit), "t.csv")
    columns = guess_columns(table.headings, kind)
    assert all(column.key for column in columns)
    parts, problems = parts_of(table, columns, kind)
    assert problems == () and len(parts) == len(library.of_kind(kind))
    assert {a.state for a in arrivals(parts, library, own_folder())} == {"same"}
    assert [p.quality for p in parts] == [dict(p.quality) for p in library.of_kind(kind)]


def test_columns_are_told_once_and_remembered(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """A heading nobody knows is passed over; told on the command line it is known the next time, with its unit."""
    path = tmp_path / "t.csv"
    path.write_text(TABLE)
    table = read_table(path.read_bytes(), "t.csv")
    guessed = guess_columns(table.headings, "rotor")
    assert [(c.key, c.unit) for c in guessed] == [
        ("name", ""),
        ("", ""),
        ("centre_bore_mm", "in"),
        ("overall_height_mm", "mm"),
        ("", ""),
    ]
    text = ["--column", "Outside=diameter_mm:in", "--column", "Bore [in]=centre_bore_mm:in"]
    assert main(["parts", "rotor", "--take", str(path), *text]) == 0
    assert "Third float rotor: added" in capsys.readouterr().out
    again = remembered(table.headings, "rotor")
    assert [(c.key, c.unit) for c in again[1:3]] == [("diameter_mm", "in"), ("centre_bore_mm", "in")]
    rotor = load_library(own_folder()).of_kind("rotor")[0].rotor
    assert rotor.diameter_mm == pytest.approx(9.84 * 25.4) and rotor.centre_bore_mm == pytest.approx(57.15)
    assert main(["parts", "rotor", "--take", str(path)]) == 0
    assert "there already as Third float rotor" in capsys.readouterr().out


def test_a_part_that_differs_is_shown_and_settled() -> None:
    """Mine is kept unless I say otherwise; theirs replaces my file; both stand side by side; what ships is never changed."""
    own = own_folder()

    def come(height: float) -> tuple[Arrival, ...]:
        table = read_table(f"name,overall_height_mm\nMine,{height}\n".encode(), "t.csv")
        parts, _ = parts_of(table, guess_columns(table.headings, "rotor"), "rotor")
        return arrivals(parts, whole_library(), own)

    assert take_in(come(44.0), {}, own) == ("Mine: added",)
    other = come(45.0)
    assert other[0].state == "differs" and [(d.before, d.after) for d in other[0].apart] == [(44.0, 45.0)]
    assert take_in(other, {"Mine": KEEP}, own) == ()
    assert take_in(other, {"Mine": TAKE}, own) == ("Mine: changed",) and len(list(own.glob("*.json"))) == 1
    assert take_in(come(46.0), {"Mine": BOTH}, own) == ("Mine (from a table): added",)
    heights = sorted(p.rotor.overall_height_mm for p in load_library(own).of_kind("rotor"))
    assert heights == [45.0, 46.0]
    shipped = whole_library().of_kind("wheel")[0].name
    table = read_table(f'name,rim_width_mm\n"{shipped}",99\n'.encode(), "t.csv")
    parts, _ = parts_of(table, guess_columns(table.headings, "wheel"), "wheel")
    found = arrivals(parts, whole_library(), own)
    assert found[0].path is None and take_in(found, {shipped: TAKE}, own) == (f"{shipped} (from a table): added",)


def test_rows_that_are_no_part_are_told(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """File, row, column, found, expected; the other rows are not lost. No table, no name, wrong words: one line, exit 2."""
    data = b"name,diameter_mm,hole_count\nGood,250,4\nBad,wide,4\nWorse,250,99\n,250,4\n"
    table = read_table(data, "t.csv")
    parts, problems = parts_of(table, guess_columns(table.headings, "rotor"), "rotor")
    assert [p.name for p in parts] == ["Good"] and len(problems) == 3
    assert "row 3, diameter_mm: found" in problems[0] and "rotor.hole_count" in problems[1] and "a name" in problems[2]
    for bad in (b"name\n", b"", b"\xff\xfe\x00"):
        with pytest.raises(ReadingsError):
            read_table(bad, "t.csv")
    (tmp_path / "t.csv").write_text(TABLE)
    for words in (
        ["--column", "Nope=diameter_mm"],
        ["--column", "Outside=width_mm"],
        ["--column", "Outside=diameter_mm:ell"],
    ):
        assert main(["parts", "rotor", "--take", str(tmp_path / "t.csv"), *words]) == 2
        said = capsys.readouterr().err
        assert said.count("\n") == 1 and "--column" in said
    remember((PartColumn("a", "diameter_mm", "in"),), "rotor")
    assert (
        remembered(("a",), "rotor") == (PartColumn("a", "diameter_mm", "in"),)
        and remembered(("a",), "hat")[0].key == ""
    )
