"""Papers are read back: DXF by ezdxf, PDF by pypdfium2, SVG as XML, CSV as rows."""

import csv
import io
import math
import re
import xml.etree.ElementTree as ElementTree
from concurrent.futures import ThreadPoolExecutor
from typing import Any

import ezdxf
import numpy as np
import pypdfium2
import pytest
from ezdxf import recover

from bicentra.core.base.errors import ExportError
from bicentra.core.base.records import replace
from bicentra.core.drawing.sheets.imprint import BLANK
from bicentra.core.evaluation.solution import Solution, solve
from bicentra.core.parts.edits import with_edits, with_value
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import Trial
from bicentra.formats.csv_out import plate_csv
from bicentra.formats.dxf import plate_dxf
from bicentra.formats.pdf_pen import MARGIN, SHEETS
from bicentra.formats.pdf_template import OVERLAP, plate_pdf, tile
from bicentra.formats.svg import plate_svg
from bicentra.study.document.starting import empty_job
from bicentra.study.papers.makers import MAKERS
from bicentra.study.papers.papers import PAPERS
from bicentra.study.papers.writing import go_on
from tests.formats.test_relief_sheet import RIDGE


@pytest.fixture
def solution(good: Job) -> Solution:
    """The cured demo, solved."""
    return solve(good)


@pytest.mark.parametrize("kind", list(PAPERS))
def test_the_same_job_gives_the_same_bytes(solution: Solution, kind: str) -> None:
    """No clock and no chance in any paper."""
    if kind == "drilling":
        solution = solve(with_edits(solution.job, (("rotor.bolt_circle_mm", 108.0),)))
    if kind == "chart":
        ears = (("caliper.ear_spacing_mm", 77.0), ("caliper.ear_boss_mm", 34.0), ("caliper.ear_hole_mm", 14.0),
                ("caliper.ear_line_to_pad_top_mm", 65.0), ("fit.clock_deg", 180.0))  # fmt: skip
        solution = solve(with_edits(solution.job, ears))
    if kind.startswith("hub-"):
        solution = solve(with_edits(solution.job, (("fit.rotor_spacer_mm", 2.0),)))
    if kind.startswith("fit-"):
        solution = solve(with_edits(solution.job, (("trials", (Trial(tip_gap_mm=2.5),)),)))
    if kind == "relief":
        solution = solve(with_edits(solution.job, (("knuckle.obstacles", (RIDGE,)),)))
    first = MAKERS[kind].make(solution, go_on, BLANK)
    assert first == MAKERS[kind].make(solution, go_on, BLANK) and len(first) > 100


@pytest.mark.parametrize("kind", list(PAPERS))
def test_no_plate_no_paper(kind: str) -> None:
    """An unmeasured job is refused with a reason."""
    with pytest.raises(ExportError, match=r"plate|hole|studs|part|section|bushings|way|slot|trial|rotor"):
        MAKERS[kind].make(solve(empty_job()), go_on, BLANK)


def test_nothing_to_drill_is_said(solution: Solution) -> None:
    """A rotor of the hub's own pattern has nothing to drill: the paper is refused in words."""
    with pytest.raises(ExportError, match="both have 4×100"):
        MAKERS["drilling"].make(solution, go_on, BLANK)


def test_dxf_opens_without_a_fault_and_holds_the_plate(solution: Solution) -> None:
    """Millimetres, four layers, one closed outline of the plate's exact area, a circle for every hole."""
    document, audit = recover.read(io.BytesIO(plate_dxf(solution)))
    assert not audit.has_errors and not audit.fixes
    assert document.dxfversion == "AC1024" and document.units == ezdxf.units.MM
    assert {"OUTLINE", "HOLES", "CENTRE_MARKS", "TEXT"} <= {layer.dxf.name for layer in document.layers}
    space: Any = document.modelspace()
    (outline,) = space.query('LWPOLYLINE[layer=="OUTLINE"]')
    assert outline.closed
    from bicentra.core.geometry.outline import Outline

    read = Outline(tuple(outline.get_points("xyb")))
    assert read.area == pytest.approx(solution.bracket.shape.outline.area, rel=1e-9)
    circles = sorted(
        (round(c.dxf.center.x, 6), round(c.dxf.center.y, 6), c.dxf.radius)
        for c in space.query('CIRCLE[layer=="HOLES"]')
    )
    wanted = sorted((round(h.centre[0], 6), round(h.centre[1], 6), h.drill / 2) for h in solution.assembly.holes)
    assert circles == [pytest.approx(row) for row in wanted]


def test_a_left_plate_is_cut_as_the_mirror_image(good: Job) -> None:
    """Seen from outboard, forward is to the left: x changes sign, the table does not."""
    left = solve(replace(good, corner="front-left"))
    document, _ = recover.read(io.BytesIO(plate_dxf(left)))
    xs = [c.dxf.center.x for c in document.modelspace().query("CIRCLE")]
    assert min(xs) > 0
    assert "-62.000" in plate_csv(left).decode()


def test_csv_is_the_hole_table(solution: Solution) -> None:
    """One row a hole, forward and up from the wheel axis in millimetres."""
    rows = list(csv.DictReader(io.StringIO(plate_csv(solution).decode())))
    assert [row["name"] for row in rows] == ["upper lug", "lower lug", "ear 1", "ear 2"]
    ear = solution.line.ears[0]
    assert (float(rows[2]["forward_mm"]), float(rows[2]["up_mm"])) == pytest.approx(ear[:2], abs=5e-4)
    assert float(rows[2]["drill_mm"]) == 13.5


def test_svg_is_true_to_size(solution: Solution) -> None:
    """One user unit is one millimetre, the outline's bounds are the plate's, texts are outlines of letters."""
    root = ElementTree.fromstring(plate_svg(solution))
    width, box = root.attrib["width"], [float(v) for v in root.attrib["viewBox"].split()]
    assert width.endswith("mm") and float(width[:-2]) == pytest.approx(box[2], abs=1e-3)
    space = "{http://www.w3.org/2000/svg}"
    groups = {g.attrib["id"]: g for g in root.iter(f"{space}g")}
    path = groups["outline"].find(f"{space}path").attrib["d"]
    ends = [(float(x), -float(y)) for x, y in re.findall(r"(?:M|L|1 |0 )(-?[\d.]+) (-?[\d.]+)(?=[LAZ])", path)]
    x0, y0, x1, y1 = solution.bracket.shape.outline.bounds
    assert all(x0 - 1e-3 <= x <= x1 + 1e-3 and y0 - 1e-3 <= y <= y1 + 1e-3 for x, y in ends)
    assert not list(root.iter(f"{space}text"))


def _ink(page: pypdfium2.PdfPage, scale: float) -> np.ndarray:
    return np.asarray(page.render(scale=scale, grayscale=True).to_numpy()).squeeze() < 128


@pytest.mark.parametrize(("units", "paper"), [("mm", "A4"), ("in", "Letter")])
def test_proof_bars_measure_true_on_the_rendered_page(good: Job, units: str, paper: str) -> None:
    """The page has its exact size; the 100 mm and the 4 in bar are that long in the picture, to a tick's width (0.2 mm)."""
    data = plate_pdf(solve(replace(good, display_units=units)))
    page = pypdfium2.PdfDocument(data)[0]
    assert sorted(page.get_size()) == pytest.approx(sorted(side * 72 / 25.4 for side in SHEETS[paper]), abs=1e-3)
    dots_per_mm = 12.0
    ink = _ink(page, dots_per_mm * 25.4 / 72)
    left = round(MARGIN * dots_per_mm)
    found = []
    for row in ink[-round(60 * dots_per_mm) :]:
        run = np.flatnonzero(~row[left + 2 :])
        long = (run[0] if len(run) else 0) / dots_per_mm
        if long > 90:
            found.append(long + 2 / dots_per_mm)
    assert min(found) == pytest.approx(100.0, abs=0.2)
    assert max(found) == pytest.approx(101.6, abs=0.2)


def test_holes_lie_true_on_the_rendered_page(solution: Solution) -> None:
    """The picture of the page shows the hole circles the right distance apart: 80 mm from lug to lug."""
    text = pypdfium2.PdfDocument(plate_pdf(solution))
    objects = [o.get_bounds() for o in text[0].get_objects() if o.type == pypdfium2.raw.FPDF_PAGEOBJ_PATH]
    size = 13.5 * 72 / 25.4
    circles = [b for b in objects if all(abs(side - size) < 2.0 for side in (b[2] - b[0], b[3] - b[1]))]
    middles = [((b[0] + b[2]) / 2 * 25.4 / 72, (b[1] + b[3]) / 2 * 25.4 / 72) for b in circles]
    assert len(middles) == 4
    gaps = sorted(math.dist(a, b) for i, a in enumerate(middles) for b in middles[:i])
    centres = [h.centre for h in solution.assembly.holes]
    wanted = sorted(math.dist(a, b) for i, a in enumerate(centres) for b in centres[:i])
    assert gaps == pytest.approx(wanted, abs=0.02)


def test_the_check_list_says_it_all(demo: Job) -> None:
    """Hole table, bolts, figures, every finding, the caution, and on a job with stops: not to cut."""
    document = pypdfium2.PdfDocument(plate_pdf(solve(demo)))
    text = "\n".join(page.get_textpage().get_text_range() for page in document)
    for word in (
        "upper lug",
        "drill Ø 13.5",
        "Brakes can kill",
        "Check list",
        "Tip gap",
        "NOT TO CUT",
        "M12x1.5",
    ):
        assert word in text
    assert text.count("STOP") == 2 and all(finding.title in text for finding in solve(demo).findings)


def test_a_large_plate_is_tiled_with_overlap(good: Job) -> None:
    """Lugs 420 mm apart: several sheets, each with its place, its register marks and both proof bars."""
    job = with_value(with_value(good, "knuckle.lugs[1].y_mm", -330.0), "knuckle.lugs[1].x_mm", -250.0)
    document = pypdfium2.PdfDocument(plate_pdf(solve(job)))
    texts = [page.get_textpage().get_text_range() for page in document]
    sheets = [text for text in texts if "Sheet " in text]
    assert len(sheets) >= 2
    assert all("100 mm" in text and "4 in" in text and "row" in text for text in sheets)


@pytest.mark.parametrize(("width", "height"), [(100, 100), (190, 230), (250, 100), (600, 900), (191, 1200)])
def test_tiles_cover_the_plate(width: float, height: float) -> None:
    """Windows less their overlaps are at least as long as the plate both ways."""
    tiling = tile(width, height, "A4")
    assert tiling.columns * (tiling.window[0] - OVERLAP) + OVERLAP >= width - 1e-6 or (
        tiling.columns == 1 and tiling.window[0] >= width
    )
    assert tiling.rows * (tiling.window[1] - OVERLAP) + OVERLAP >= height - 1e-6 or (
        tiling.rows == 1 and tiling.window[1] >= height
    )


def test_a_plate_beyond_reason_is_refused(good: Job) -> None:
    """Sixty sheets are enough."""
    job = with_value(good, "knuckle.lugs[1].y_mm", -1999.0)
    job = with_value(with_value(job, "knuckle.lugs[1].x_mm", 1999.0), "hub.pilot_diameter_mm", 1.0)
    with pytest.raises(ExportError, match=r"sheets|plate"):
        plate_pdf(solve(with_value(job, "bracket.wall_mm", 190.0)))


def test_papers_made_at_once_keep_their_own_letters(good: Job) -> None:
    """Four papers in four threads are those made one by one; the face that letters come from was open in two threads at once."""
    kinds = ("pdf", "workshop", "assembly", "card")
    solution = solve(good)
    alone = [MAKERS[kind].make(solution, go_on, BLANK) for kind in kinds]
    with ThreadPoolExecutor(4) as pool:
        together = list(pool.map(lambda kind: MAKERS[kind].make(solution, go_on, BLANK), kinds * 3))
    assert together == alone * 3
