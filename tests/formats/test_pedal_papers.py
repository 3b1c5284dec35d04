"""The sheets of pedal and heat: one page each, the figures of the report on them, curves that agree with the chain."""

import csv
import io
import math
from pathlib import Path

import pypdfium2
import pytest

from bicentra.cli import main
from bicentra.cli.words import STOPPED, UNUSABLE
from bicentra.core.base.records import replace
from bicentra.core.drawing.views.heat import HIGH_MM, WIDE_MM, heat_view
from bicentra.core.heat.stops import Train
from bicentra.core.heat.train import train_of
from bicentra.core.hydraulics.pedal import pedal_work
from bicentra.core.parts.corners import job_of
from bicentra.data import data_path
from bicentra.formats.csv_out import heat_csv, pedal_csv
from bicentra.formats.pdf_records import PRACTICE, heat_pdf, pedal_pdf
from bicentra.study.document.starting import demo_vehicle, empty_vehicle

DEMO = str(data_path("demo") / "float.bicentra.json")
TRAIN = Train(60.0, 0.0, 12, 40.0)


def words(path: Path) -> str:
    """Return the text of a sheet that has one page."""
    sheet = pypdfium2.PdfDocument(path)
    assert len(sheet) == 1
    return str(sheet[0].get_textpage().get_text_range())


def test_the_sheets_from_the_command_line(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    """Each on one page with its figures; a sheet is never written over a job."""
    pedal, heat, curves = tmp_path / "pedal.pdf", tmp_path / "heat.pdf", tmp_path / "heat.csv"
    assert main(["pedal", DEMO, "--foot-n", "115", "--pdf", str(pedal)]) != UNUSABLE
    train = ["--from-kmh", "60", "--stops", "12", "--every-s", "40"]
    assert main(["heat", DEMO, *train, "--pdf", str(heat), "--csv", str(curves)]) not in (UNUSABLE, STOPPED)
    assert "115 N: 0.60 g, 69 % in front" in words(pedal) and "rear locks first" in words(pedal)
    assert "front pads work up to 450" in words(heat) and "12 stops from 60" in words(heat)
    assert curves.read_text().splitlines()[0] == "stop,front_c,rear_c" and len(curves.read_text().splitlines()) == 13
    capsys.readouterr()
    job = tmp_path / "x.bicentra.json"
    job.write_text(Path(DEMO).read_text())
    assert main(["pedal", str(job), "--pdf", str(job)]) == UNUSABLE and "job's own file" in capsys.readouterr().err


def test_a_practice_vehicle_says_so(tmp_path: Path) -> None:
    """On both sheets: neither can be taken for one of a real vehicle."""
    vehicle = replace(demo_vehicle(), practice=True)
    lengths = job_of(vehicle).lengths
    for name, sheet in (
        ("pedal", pedal_pdf(vehicle, pedal_work(vehicle), lengths)),
        ("heat", heat_pdf(vehicle, train_of(vehicle, TRAIN), lengths)),
    ):
        path = tmp_path / name
        path.write_bytes(sheet)
        assert PRACTICE in words(path).replace("\r\n", " ")


def test_curves_agree_with_the_chain() -> None:
    """Every row read back: force over load is the grip used, and both forces together slow the whole mass (F = m a)."""
    work = pedal_work(demo_vehicle())
    mass = work.chain.body.mass
    for row in list(csv.DictReader(io.StringIO(pedal_csv(work).decode())))[1:]:
        number = {name: float(text) for name, text in row.items() if text}
        both = number["front_road_n"] + number["rear_road_n"]
        assert both == pytest.approx(mass * 9.80665 * number["decel_g"], rel=1e-4)
        assert number["ideal_front_n"] + number["ideal_rear_n"] == pytest.approx(both, rel=1e-4)


def test_the_heat_drawing() -> None:
    """Highest tooth at the last stop, at its height on the axis; a long train without teeth; nothing known, blanks alone."""
    hot = train_of(demo_vehicle(), TRAIN)
    drawing = heat_view(demo_vehicle(), hot)
    front = next(shape for shape in drawing.shapes if shape.tag == "front")
    x, y, _ = max(front.loops[0], key=lambda vertex: vertex[1])
    assert x == WIDE_MM and y == pytest.approx(HIGH_MM * (hot.front.peaks[-1] - 20.0) / (620.0 - 20.0))
    assert any("front pads" in note.text for note in drawing.notes)
    long = train_of(demo_vehicle(), Train(60.0, 0.0, 500, 40.0))
    teeth = next(shape for shape in heat_view(demo_vehicle(), long).shapes if shape.tag == "front")
    assert len(teeth.loops[0]) == 500
    blank = train_of(empty_vehicle(), TRAIN)
    assert heat_view(empty_vehicle(), blank).examples and not heat_view(empty_vehicle(), blank).notes
    assert heat_csv(blank).decode().splitlines()[1] == "1,,"
    assert math.isnan(blank.fluid_margin)
