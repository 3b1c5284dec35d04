"""The relief template: true to size and place, seen on the end that is cut; what is cut out by it is out of the way."""

import math

import numpy as np
import pypdfium2
import pytest
import shapely
from shapely import affinity

from bicentra.core.base.errors import ExportError
from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.drawing.sheets.imprint import BLANK, NOT_TO_CUT, CutMark, Imprint
from bicentra.core.drawing.sheets.relief import relief_mark, relief_plans, relief_sheet, relief_text, relieved
from bicentra.core.drawing.views.face import face_view
from bicentra.core.evaluation.solution import Solution, solve
from bicentra.core.parts.corners import vehicle_of
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job, Obstacle
from bicentra.formats.pdf_pen import page_picture
from bicentra.formats.pdf_sheets import one_sheet
from bicentra.study.desks.lineup import LineupDesk
from bicentra.study.document.starting import empty_job
from bicentra.study.document.study import Study
from bicentra.study.papers.makers import MAKERS
from bicentra.study.papers.writing import go_on, ready_problem

RIDGE = Obstacle(
    name="ridge",
    outline_mm=((-130.0, 66.0), (-120.0, 66.0), (-120.0, 76.0), (-130.0, 76.0)),
    z_min_mm=-90.0,
    z_max_mm=-55.0,
)
ROOM = (170.0, 180.0)


def arc(radius: float, first: float, last: float) -> list[tuple[float, float]]:
    """Points of an arc about the axle [mm]; angles in degrees."""
    return [(radius * math.cos(t), radius * math.sin(t)) for t in np.radians(np.linspace(first, last, 24))]


SHIELD = Obstacle(
    name="shield", outline_mm=tuple(arc(125.0, 140.0, 230.0) + arc(70.0, 230.0, 140.0)), z_min_mm=-60.0, z_max_mm=-59.2
)


def with_things(job: Job, *things: Obstacle, corner: str = "front-right") -> Solution:
    """The job with these obstacles alone, solved."""
    return solve(with_edits(job, (("survey", {}), ("corner", corner), ("knuckle.obstacles", things))))


def test_the_area_is_true_to_size_and_placed_from_the_lug(good: Job) -> None:
    """By hand: a post all under the body is hatched whole, 10 by 10; its near corner stands x and y from the nearest lug's hole."""
    solution = with_things(good, RIDGE)
    (plan,) = relief_plans(solution)
    drawing = relief_sheet(solution, plan, ROOM)
    cut = [shape for shape in drawing.shapes if shape.tag == "relief" and shape.closed]
    drawn = sum(shapely.Polygon([vertex[:2] for vertex in shape.loops[0]]).area for shape in cut)
    assert drawn == pytest.approx(plan.area) and any(not shape.closed for shape in drawing.shapes)
    lug = min(solution.job.knuckle.lugs, key=lambda one: math.dist((one.x_mm or 0, one.y_mm or 0), (-120.0, 66.0)))
    x0, y0, x1, y1 = plan.region.bounds
    corner = min(
        ((x, y) for x in (x0, x1) for y in (y0, y1)), key=lambda at: math.dist(at, (lug.x_mm or 0, lug.y_mm or 0))
    )
    text = {dimension.text for dimension in drawing.dimensions if dimension.tag == "lug"}
    lengths = solution.job.lengths
    apart = (abs(corner[0] - (lug.x_mm or 0)), abs(corner[1] - (lug.y_mm or 0)))
    assert text == {lengths.size(round(value, 2)) for value in apart}
    assert "outboard" in relief_text(solution, plan) and "24.5 mm of 35 mm is left" in relief_text(solution, plan)
    small = relief_sheet(solution, plan, (30.0, 30.0))  # no room for the lug: the sheet does without
    assert not any(shape.tag == "lug" for shape in small.shapes)


@pytest.mark.parametrize(("corner", "z", "flipped"), [("front-right", (-90.0, -55.0), False), ("front-left", (-90.0, -55.0), True),
                                                     ("front-right", (0.0, 40.0), True), ("front-left", (0.0, 40.0), False)])  # fmt: skip
def test_it_is_seen_on_the_end_that_is_cut(good: Job, corner: str, z: tuple[float, float], flipped: bool) -> None:
    """From outboard a right corner is drawn as it is, a left one turned over; from inboard the other way round."""
    solution = with_things(good, replace(RIDGE, z_min_mm=z[0], z_max_mm=z[1]), corner=corner)
    (plan,) = relief_plans(solution)
    assert plan.end == ("outboard" if z[0] < -50 else "inboard")
    middle = np.mean(
        [shape.bounds[0] for shape in relief_sheet(solution, plan, ROOM).shapes if shape.tag == "obstacle"]
    )
    assert (middle > 0) == flipped


@pytest.mark.parametrize("corner", ["front-right", "front-left"])
def test_a_shield_cut_along_the_line_is_out_of_the_way(good: Job, corner: str) -> None:
    """Body, ears and bolts: with what is inside the line gone, 3 mm are left (an outline of many points is made coarser
    to the safe side, by less than a tenth); with a line one mm further out they are not.
    """
    solution = with_things(good, SHIELD, corner=corner)
    found = solution.finding("caliper-to-obstacle")
    assert found.verdict is Verdict.STOP and any(cure.action.startswith("Cut shield out") for cure in found.remedies)
    (plan,) = relief_plans(solution)
    assert plan.through and plan.left == 0.0
    for line, met in ((plan.region.buffer(0.01), True), (affinity.translate(plan.region, -1.0), False)):
        left = shapely.difference(shapely.Polygon(SHIELD.outline_mm), line)
        parts = [part for part in shapely.get_parts(left) if part.area > 1.0 and not part.interiors]
        things = [replace(SHIELD, outline_mm=tuple(part.exterior.coords[:-1])) for part in parts]
        room = with_things(good, *things, corner=corner).finding("caliper-to-obstacle").value
        assert (2.9 <= room <= 3.05) if met else room < 2.5


def test_the_pdf_says_what_to_do(good: Job) -> None:
    """Title, words, bars and caution read back; what else stops is on it, what it mends is not; other things are named."""
    solution = with_things(good, RIDGE, SHIELD)
    page = pypdfium2.PdfDocument(MAKERS["relief"].make(solution, go_on, BLANK))[0].get_textpage().get_text_range()
    flat = " ".join(page.split())
    assert "Relief template of ridge" in flat and "The pages with it are for: shield" in flat
    assert "100 mm between the ticks" in flat and "Ask someone qualified" in flat
    assert all("obstacle" not in reason for reason in relief_mark(solution).reasons)
    assert relief_mark(with_things(replace(good, practice=True), RIDGE)).word == NOT_TO_CUT


def test_every_obstacle_has_its_page_and_no_clash_that_goes_forbids_the_cut(good: Job) -> None:
    """Two pages for two things; by hand: what was cut is as low as the plan says, so no finding stops for it any more."""
    solution = with_things(good, RIDGE, SHIELD)
    document = pypdfium2.PdfDocument(MAKERS["relief"].make(solution, go_on, BLANK))
    titles = [document[k].get_textpage().get_text_range() for k in range(len(document))]
    assert len(titles) == 2 and "Relief template of ridge" in titles[0] and "Cut line of shield" in titles[1]
    assert {f.id for f in solution.findings if f.verdict is Verdict.STOP} >= {"caliper-to-obstacle"}
    plans = relief_plans(solution)
    job = relieved(solution.job, solution.assembly.obstacles, plans)
    shapes = [(shapely.Polygon(one.outline_mm), one) for one in job.knuckle.obstacles]
    (ridge,) = (plan for plan in plans if plan.name == "ridge")
    low = [shape.area for shape, one in shapes if one.z_max_mm == pytest.approx(-55.0 - ridge.depth)]
    assert sum(low) == pytest.approx(ridge.area) and sum(
        s.area for s, o in shapes if o.name == "ridge"
    ) == pytest.approx(100.0)
    left = {f.id for f in solve(job).findings if f.verdict is Verdict.STOP}
    assert left == {"bolt-head-room"}, "a lug's bolt runs into the shield where the caliper does not"
    real = replace(good, practice=False)
    assert relief_mark(with_things(real, RIDGE, SHIELD)).reasons == ("Bolts, lugs and ears clear",)
    assert not relief_mark(with_things(real, RIDGE)).line
    own = relief_mark(with_things(with_edits(real, (("limits", {"caliper-to-obstacle": 1.5}),)), RIDGE))
    assert not own.word and own.line.startswith("LIMITS CHANGED by this job")


def test_nothing_is_printed_over_the_bars(good: Job) -> None:
    """Date, names and the red box leave the proof bars as they are: the same dots with and without them."""
    drawing, long = (
        relief_sheet(with_things(good, RIDGE), relief_plans(with_things(good, RIDGE))[0], ROOM),
        "reason " * 12,
    )
    pages = [one_sheet(drawing, "t", "told", "caution " * 60, paper, *more) for paper in ("A4", "Letter") for more in (
        (), (CutMark(NOT_TO_CUT, "These say stop", (long,) * 3), Imprint("2026-01-02", "somebody", "another", "B", "all of it")))]  # fmt: skip
    for plain, full in ((pages[0], pages[1]), (pages[2], pages[3])):
        pictures = [page_picture(data, 0, 144) for data in (plain, full)]
        dots = [np.frombuffer(one.grey, dtype=np.uint8).reshape(one.high, one.wide) for one in pictures]
        low, high = (round(pictures[0].high * (1 - mm / pictures[0].size[1])) for mm in (42.5, 54.5))
        assert (
            (dots[0][high:low] == dots[1][high:low]).all()
            and (dots[0][high:low] < 128).any()
            and (dots[0] != dots[1]).any()
        )


def test_two_of_one_name_are_two(good: Job) -> None:
    """The one that is cut is drawn, whatever the other is called."""
    far = replace(RIDGE, outline_mm=((60.0, 60.0), (70.0, 60.0), (70.0, 70.0), (60.0, 70.0)))
    solution = with_things(good, far, RIDGE)
    (plan,) = relief_plans(solution)
    drawn = [shape.bounds for shape in relief_sheet(solution, plan, ROOM).shapes if shape.tag == "obstacle"]
    assert plan.feature == "obstacle-1" and drawn == [(-130.0, 66.0, -120.0, 76.0)]


def test_a_whole_shield_is_drawn_round_the_cut_alone(good: Job) -> None:
    """Larger than the sheet: the lug that places it stays, its edge is drawn as far as 15 mm round the area; a crossed one is taken."""
    ring = replace(SHIELD, outline_mm=tuple(arc(125.0, 100.0, 290.0) + arc(60.0, 290.0, 100.0)))
    solution = with_things(good, ring)
    (plan,) = relief_plans(solution)
    assert np.ptp(np.array(ring.outline_mm)[:, 1]) > 210.0
    drawing = relief_sheet(solution, plan, (170.0, 210.0))
    edges = [shape.bounds for shape in drawing.shapes if shape.tag == "obstacle"]
    assert any(shape.tag == "lug" for shape in drawing.shapes)
    assert max(edge[3] for edge in edges) <= plan.region.bounds[3] + 15.0 + 1e-9
    crossed = replace(RIDGE, outline_mm=((-130.0, 66.0), (-120.0, 76.0), (-120.0, 66.0), (-130.0, 76.0)))
    (plan,) = relief_plans(with_things(good, crossed))
    assert 0.0 < plan.area <= 50.0 + 1e-6


def test_it_is_refused_with_a_reason(good: Job) -> None:
    """Nothing in the way, nothing known, too little left: each in its own words."""
    free = replace(RIDGE, outline_mm=((60.0, 60.0), (70.0, 60.0), (70.0, 70.0), (60.0, 70.0)))
    assert "nothing is to be relieved" in ready_problem(with_things(good, free), "relief")
    assert "is unknown: needs" in ready_problem(solve(empty_job()), "relief")
    thin = with_things(good, replace(RIDGE, z_min_mm=-60.0, z_max_mm=-50.0))
    assert "too little would be left of ridge" in ready_problem(thin, "relief")
    with pytest.raises(ExportError, match="too little"):
        MAKERS["relief"].make(thin, go_on, BLANK)


def test_the_line_up_shows_where_metal_has_to_go(good: Job) -> None:
    """The hatched area lies in the view along the axle where the plan has it, turned over for a left corner; nothing
    while all is clear, nor of what may lose nothing.
    """
    for corner, way in (("front-right", 1.0), ("front-left", -1.0)):
        solution = with_things(good, RIDGE, corner=corner)
        desk = LineupDesk(Study(vehicle_of(solution.job)))
        plans = desk.reliefs
        assert [plan.name for plan in plans] == ["ridge"] and desk.reliefs is plans
        drawing = face_view(desk.solution, None, plans)
        seen = [shape for shape in drawing.shapes if shape.tag == "relief" and shape.ink == "outline"]
        places = np.array([point[:2] for shape in seen for loop in shape.loops for point in loop])
        want = np.array(plans[0].region.bounds)
        assert np.allclose(places.min(axis=0), [min(want[0] * way, want[2] * way), want[1]], atol=1e-6)
        assert any("ridge: " in note.text and "off its" in note.text for note in drawing.notes)
    clear = LineupDesk(Study(vehicle_of(with_things(good).job)))
    assert clear.reliefs == () and not any(s.tag == "relief" for s in face_view(clear.solution, None, ()).shapes)
