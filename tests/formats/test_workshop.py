"""Workshop papers of every family: drawings, cutting files and parts lists, read back."""

import io
from typing import Any

import ezdxf
import pypdfium2
import pytest
from ezdxf import recover

from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.drawing.sheets.parts_list import Item, parts_list
from bicentra.core.drawing.sheets.workshop import HoleLine, hole_lines, notes, scale_for, scale_text
from bicentra.core.drawing.space.scene import solid_scene
from bicentra.core.evaluation.own_bracket import find_bracket
from bicentra.core.evaluation.solution import solve
from bicentra.core.geometry.outline import Outline
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Cutout, Job
from bicentra.formats.dxf import CUT_LAYERS, cutting_dxf
from bicentra.formats.hidden_lines import views_of
from bicentra.formats.pdf_assembly import assembly_pdf
from bicentra.formats.solids import solid_of
from bicentra.study.papers.solids import workshop_file

MM, INCH = LengthFormat("mm"), LengthFormat("in")


def texts(data: bytes) -> list[str]:
    """The words of every page."""
    document = pypdfium2.PdfDocument(data)
    return [document[k].get_textpage().get_text_range() for k in range(len(document))]


@pytest.mark.parametrize("family", ["stepped-plate", "two-part", "axle-end-plate"])
def test_a_sheet_for_every_part(good: Job, family: str) -> None:
    """A4 lying, title block, hole table with the job's own places, tolerances and what they protect, the caution; the same twice."""
    job = with_edits(good, (("bracket.family", family),))
    data = workshop_file(job, lambda *_: True)
    assert data == workshop_file(job, lambda *_: True)
    parts, pages = find_bracket(job, family).bracket.parts, texts(data)
    assert len(pages) == len(parts)
    for part, page in zip(parts, pages):
        assert part.name in page and "slot gap" in page and "Brakes can kill" in page and "ISO 2768-m" in page
        for bore in part.bores:
            assert f"{bore.centre[0]:.2f}" in page and bore.note in page
    width, height = pypdfium2.PdfDocument(data)[0].get_size()
    assert (round(width / 72 * 25.4), round(height / 72 * 25.4)) == (297, 210)
    assert workshop_file(job, lambda *_: False) == b""


def test_hidden_lines_are_told_from_visible(good: Job) -> None:
    """From the edge the holes are hidden; from outboard nothing of a plain plate is; views are as large as the part."""
    part = find_bracket(good, "flat-plate").bracket.parts[0]
    views = views_of(solid_of(part))
    x0, y0, x1, y1 = part.outline.bounds
    assert views["front"].bounds == pytest.approx((x0, y0, x1, y1), abs=0.06)
    assert views["side"].hidden and views["pictorial"].visible
    left = views_of(solid_of(part, mirrored=True))
    assert left["front"].bounds == pytest.approx((-x1, y0, -x0, y1), abs=0.06)
    assert (
        scale_for(200.0, 100.0, (120.0, 120.0)) == 0.5 and scale_text(0.4) == "1 : 2.5" and scale_text(2.0) == "2 : 1"
    )


def test_a_cutting_file_has_a_layer_an_operation(good: Job) -> None:
    """Closed outlines of the exact area, no line twice, holes by what is done to them; bends marked; a left one mirrored."""
    far = with_edits(good, (("caliper.ear_line_to_pad_top_mm", -60.0), ("bracket.wall_mm", 6.0)))
    far = with_edits(far, (("knuckle.lugs", tuple(replace(lug, z_mm=lug.z_mm - 20.0) for lug in far.knuckle.lugs)),))
    for job, family in ((good, "stepped-plate"), (good, "axle-end-plate"), (far, "jogged-plate")):
        parts = find_bracket(job, family).bracket.parts
        data = cutting_dxf(parts)
        assert data == cutting_dxf(parts)
        document, audit = recover.read(io.BytesIO(data))
        assert not audit.has_errors and set(CUT_LAYERS) <= {layer.dxf.name for layer in document.layers}
        space: Any = document.modelspace()
        loops = [Outline(tuple(line.get_points("xyb"))) for line in space.query('LWPOLYLINE[layer=="CUT"]')]
        assert all(line.closed for line in space.query("LWPOLYLINE"))
        assert loops[0].area == pytest.approx(parts[0].outline.area) and len(loops) == 1 + (parts[0].window is not None)
        assert len(space.query("CIRCLE")) == len(parts[0].bores) and len(space.query('LINE[layer=="BEND"]')) == len(
            parts[0].bends
        )
        seen = {tuple(round(v, 6) for p in line.get_points("xyb") for v in p) for line in space.query("LWPOLYLINE")}
        assert len(seen) == len(space.query("LWPOLYLINE"))
    mirrored, _ = recover.read(io.BytesIO(cutting_dxf(find_bracket(good, "flat-plate").bracket.parts, mirrored=True)))
    plain, _ = recover.read(io.BytesIO(cutting_dxf(find_bracket(good, "flat-plate").bracket.parts)))
    x0, _, x1, _ = find_bracket(good, "flat-plate").bracket.parts[0].outline.bounds
    centres = [sorted(c.dxf.center.x for c in d.modelspace().query("CIRCLE")) for d in (mirrored, plain)]
    assert centres[0] == pytest.approx(sorted(x1 - x0 - x for x in centres[1])) and plain.units == ezdxf.units.MM


def test_the_parts_list_counts_everything(good: Job) -> None:
    """Four bolts in two lengths, four washers, the shims of both lugs; what has no name is missing; originals are kept."""
    items = parts_list(solve(good))
    bolts = [item for item in items if item.name == "bolt"]
    assert sum(item.count for item in bolts) == 4 and all(item.kind == "bought" for item in bolts)
    assert next(item for item in items if item.name == "washer").count == 4
    assert sum(item.count * float(item.size.split()[0]) for item in items if item.name == "shim") == pytest.approx(0.4)
    assert any(item.kind == "re-used" and "throw away" in item.note for item in items)
    nameless = with_edits(good, (("caliper.name", ""), ("bracket.caliper_bolt", None)))
    missing = {item.name for item in parts_list(solve(nameless)) if item.kind == "missing"}
    assert "caliper" in missing


def test_cutouts_and_steps_are_written_out(good: Job) -> None:
    """Each round hole and slot has its row with place and size, by hand; the step its depth and pads; many rows say how many more."""
    cut = (Cutout(x_mm=-78.0, y_mm=0.0, diameter_mm=12.0),
           Cutout(x_mm=-80.0, y_mm=-22.0, diameter_mm=8.0, length_mm=6.0, angle_deg=30.0))  # fmt: skip
    job = with_edits(good, (("bracket.cutouts", cut), ("bracket.family", "stepped-plate")))
    part = find_bracket(job, "stepped-plate").bracket.parts[0]
    rows = hole_lines(part, MM)
    assert rows[4] == HoleLine("5", "", "", "-78.00", "0.00", "cutout: Ø 12.0 mm")
    assert (rows[5].forward, rows[5].up) == ("-80.00", "-22.00")
    assert rows[5].work == "cutout: slot 8 mm × 14 mm, at 30.0°"
    assert any(note.startswith("Mill 1.8 mm off the outboard face") for note in notes(part, MM))
    many = tuple(Cutout(x_mm=-70.0 - k, y_mm=0.0, diameter_mm=2.0) for k in range(30))
    crowded = with_edits(good, (("bracket.cutouts", many),))
    page = texts(workshop_file(crowded, lambda *_: True))[0]
    assert "and 14 more: see the cutting file" in page and "no." in page


def test_a_long_parts_list_goes_on_another_sheet(good: Job) -> None:
    """Lines past the thirteenth were left off the paper: every one of sixty stands on it, and so does the caution."""
    items = tuple(Item("bought", 1, f"thing {k}", "", "") for k in range(60))
    pages = texts(assembly_pdf(solid_scene(solve(good)), items, "List"))
    assert len(pages) == 3 and all("Brakes can kill" in page for page in pages)
    words = " ".join(pages).split()
    assert all(words[words.index("thing") :].count(str(k)) for k in range(60))
