"""Pulled edges, chamfers, what can be added and taken away: geometry a second way, and how far a pull is allowed."""

import math

import numpy as np
import pytest
import shapely

from bicentra.core.base.errors import ExportError
from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat, inch_name
from bicentra.core.bracket.metal import metal_at
from bicentra.core.bracket.plate import chamfer_volume, plate_edges
from bicentra.core.clearance.clock_sweep import bracket_obstacle_sweep
from bicentra.core.drawing.space.scene import part_bodies
from bicentra.core.evaluation.own_bracket import find_bracket, own_bracket
from bicentra.core.evaluation.solution import solve
from bicentra.core.geometry.outline import Outline
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job, Obstacle, Pull
from bicentra.formats.solids import solid_of, volume_and_centroid
from bicentra.study.desks.shaping import ADDED, allowed, pull_edits, pulled_edges, standing_at, taken_away
from tests.jobs import net

LONG = "bracket.pulls[3-2]"


def pulled(job: Job, out: float, pair: tuple[int, int] = (3, 2)) -> Job:
    """The job with the edge between the ears pulled."""
    return with_edits(job, (("bracket.pulls", (Pull(from_hole=pair[0], to_hole=pair[1], out_mm=out),)),))


def test_edges_run_round_the_plate(good: Job) -> None:
    """Four edges, each tangent to both its bosses, and away from the plate's middle."""
    holes = solve(good).assembly.holes
    edges = plate_edges(holes)
    assert [(e.first, e.second) for e in edges] == [(0, 3), (3, 2), (2, 1), (1, 0)]
    for edge in edges:
        for end, number in ((edge.a, edge.first), (edge.b, edge.second)):
            away = np.subtract(end, holes[number].centre)
            assert np.hypot(*away) == pytest.approx(holes[number].boss_radius) and away @ np.array(
                edge.out
            ) == pytest.approx(holes[number].boss_radius)


@pytest.mark.parametrize("out", [8.0, -12.0])
def test_a_pulled_edge(good: Job, out: float) -> None:
    """The outline passes through the middle pulled by so much; area against shapely; solid and core agree to the last digit."""
    before, after = solve(good), solve(pulled(good, out))
    edge = next(e for e in plate_edges(before.assembly.holes) if (e.first, e.second) == (3, 2))
    assert after.bracket.shape.outline.distance_to(edge.beyond(out)) < 1e-6
    assert (net(after) > net(before)) is (out > 0)
    polygon = shapely.Polygon(after.bracket.shape.outline.polygon(0.001))
    assert polygon.is_valid and polygon.area == pytest.approx(after.bracket.shape.outline.area, rel=1e-5)
    assert volume_and_centroid(solid_of(after.part))[0] == pytest.approx(after.part.volume)
    if out < 0:  # a circle through both ends of the chord and the point pulled in
        half, deep = 0.4 * edge.length, -out
        radius = (half**2 + deep**2) / (2 * deep)
        arcs = [s.radius for s in after.bracket.shape.outline.segments if s.bulge < 0]
        assert arcs == [pytest.approx(radius)]


def test_an_edge_that_cannot_be_pulled_in(good: Job) -> None:
    """Through the whole plate there is none left: impossible, with the edge named; and no pull reaches that far."""
    gone = solve(pulled(good, -70.0))
    assert (
        gone.bracket.shape.outline is None
        and gone.bracket.shape.impossible
        and [prism.bore for prism in gone.assembly.metal[:1]] == [0.0]
        and "ear 2 and ear 1" in gone.bracket.shape.fault
    )
    reached, why = allowed(solve(good), LONG, -70.0)
    assert -70.0 < reached < -5.0 and why.endswith(f"{reached:.1f} mm is the nearest that can be")
    held = solve(with_edits(good, pull_edits(good, LONG, reached)))
    assert held.feasible and standing_at(held.job, LONG) == reached
    worse = solve(with_edits(good, pull_edits(good, LONG, reached - 1.0)))
    assert any(f.verdict is Verdict.STOP for f in worse.findings)
    assert with_edits(held.job, pull_edits(held.job, LONG, 0.0)).bracket.pulls == ()


def test_a_pull_is_held_by_an_obstacle(good: Job) -> None:
    """A post 12 mm outside the edge: with 1 mm to keep, 11 mm are allowed; the sweep of all angles sees the bump as well."""
    solution = solve(good)
    edge = next(e for e in plate_edges(solution.assembly.holes) if (e.first, e.second) == (3, 2))
    (x, y), z = edge.beyond(32.0), solution.assembly.stack_up.z_range
    ring = tuple((x + 20 * math.cos(k / 64 * math.tau), y + 20 * math.sin(k / 64 * math.tau)) for k in range(64))
    job = with_edits(
        good, (("knuckle.obstacles", (Obstacle(name="post", outline_mm=ring, z_min_mm=z[0], z_max_mm=z[1]),)),)
    )
    reached, why = allowed(solve(job), LONG, 30.0)
    assert reached == pytest.approx(11.0, abs=0.1) and "post" in why
    bumped = solve(pulled(job, reached)).assembly
    here = np.radians([bumped.line.clock, bumped.line.clock + 5.0])
    swept = bracket_obstacle_sweep(bumped, metal_at(bumped, here), 2).value
    assert swept[0] == pytest.approx(1.0, abs=0.15)
    assert allowed(solve(pulled(job, 30.0)), LONG, 28.0)[0] == 28.0, "what is bad already may be put right"


def test_chamfers(good: Job) -> None:
    """A square of 40 mm and a disc of 40 mm by hand: ½c² round the edge on either face; the land between is judged."""
    square = Outline(((0.0, 0.0, 0.0), (40.0, 0.0, 0.0), (40.0, 40.0, 0.0), (0.0, 40.0, 0.0)))
    assert chamfer_volume(square, 2.0) == pytest.approx(2 * 2.0 * 160.0)
    ring = Outline(((20.0, 0.0, 1.0), (-20.0, 0.0, 1.0)))
    cone = math.pi / 3 * 2.0 * (20.0**2 + 20.0 * 18.0 + 18.0**2)
    assert chamfer_volume(ring, 2.0) == pytest.approx(2 * (math.pi * 400.0 * 2.0 - cone), rel=1e-9)
    for family in ("flat-plate", "stepped-plate", "two-part"):
        job = with_edits(pulled(good, -12.0), (("bracket.chamfer_mm", 1.5), ("bracket.family", family)))
        part = solve(job).part
        assert part.chamfer == 1.5 and "chamfer" in part.processes
        assert volume_and_centroid(solid_of(part))[0] == pytest.approx(part.volume, rel=2e-5)
    other = find_bracket(pulled(good, -12.0), "axle-end-plate").findings
    text = next(f for f in other if f.id == "not-shaped")
    assert text.verdict is Verdict.CAUTION and "pulled edges" in text.why, "what it does not carry is said"
    tube = with_edits(good, (("hub.tube_diameter_mm", 70.0), ("bracket.chamfer_mm", 1.0)))
    for family, size in (("axle-end-plate", 1.0), ("weld-on", 0.0)):
        part = find_bracket(tube, family).bracket.parts[0]
        assert part.chamfer == size and volume_and_centroid(solid_of(part))[0] == pytest.approx(part.volume, rel=1e-3)
    meshed = sum(
        float(np.einsum("ij,ij->i", c[:, 0], np.cross(c[:, 1], c[:, 2])).sum() / 6)
        for c in (body.corners[body.triangles] for body in part_bodies(part))
    )
    assert meshed == pytest.approx(part.volume, rel=5e-3), "and so does the picture in space"
    sharp = solve(with_edits(good, (("bracket.chamfer_mm", 4.8),)))
    assert sharp.finding("chamfer-land").verdict is Verdict.STOP and sharp.finding(
        "chamfer-land"
    ).value == pytest.approx(0.4)


def test_what_is_added_keeps_its_metal_and_can_be_taken_away(good: Job) -> None:
    """A hole, a slot, a dowel where most room is: no finding gets worse; each taken away leaves the plate as it was."""
    job = good
    for what, made in ADDED.items():
        job = with_edits(job, made(solve(job)))
        assert solve(job).feasible, what
    job = with_edits(
        job,
        (*pull_edits(job, LONG, -3.0), ("bracket.chamfer_mm", 1.0), *pull_edits(job, "bracket.boss_walls_mm[2]", 14.0)),
    )
    found = taken_away(solve(job))
    assert [what for what, _ in found] == [
        "cutout 1", "cutout 2", "dowel 1", "the pull between ear 2 and ear 1", "the chamfer", "the bosses' own walls", "everything",
    ]  # fmt: skip
    assert with_edits(job, found[-1][1]).bracket == replace(good.bracket) and taken_away(solve(good)) == ()
    tight = with_edits(good, (("bracket.wall_mm", 3.0), ("caliper.ear_spacing_mm", 82.0)))
    with pytest.raises(ExportError, match="no hole leaves 8 mm"):
        for _ in range(9):
            tight = with_edits(tight, ADDED["slot"](solve(tight)))
    assert len(pulled_edges(solve(good))) == 4


def test_plate_on_the_shelf(good: Job) -> None:
    """Inch stock is chosen from and called by its fraction, in either unit; a job's own list goes first."""
    inch = with_edits(good, (("bracket.shelf", "inch"), ("bracket.stock_mm", None)))
    assert solve(inch).assembly.stack_up.thickness == pytest.approx(9.525)
    assert [LengthFormat("mm").stock(v) for v in (9.525, 10.0, 25.4, 12.7)] == [
        "9.53 mm (3/8 in)", "10 mm", "25.4 mm (1 in)", "12.7 mm (1/2 in)"
    ]  # fmt: skip
    assert [LengthFormat("in").stock(v) for v in (9.525, 10.0, 31.75)] == ["3/8 in", "0.394 in (10 mm)", "1 1/4 in"]
    assert inch_name(math.nan) == inch_name(9.6) == inch_name(0.1) == ""
    assert solve(with_edits(inch, (("bracket.stock_mm", (8.0,)),))).assembly.stack_up.thickness == 8.0


@pytest.mark.parametrize("family", ["flat-plate", "stepped-plate", "two-part"])
def test_what_is_pulled_is_judged_as_what_is_let_go(good: Job, family: str) -> None:
    """The bracket read off the solution of a pull is the one that is made and judged by itself, to the last word."""
    job = with_edits(
        good, (("survey", {}), ("bracket.family", family), ("bracket.boss_walls_mm", (9.0, 7.0, 11.0, 8.0)))
    )
    pulled, own = solve(job, turns=False, remedies=False).evaluation, own_bracket(job)
    assert (pulled.title, pulled.bracket, pulled.findings) == (own.title, own.bracket, own.findings)
