"""More small truths, each about one line that could be turned round without anything else being noticed."""

import math
from hashlib import sha256

import numpy as np
import pytest
import shapely

from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.bracket.holes import bolt_of
from bicentra.core.bracket.prisms import chamfer_milled, plate_shape
from bicentra.core.bracket.thread_checks import distinct
from bicentra.core.clearance.clock_checks import within_reach
from bicentra.core.drawing.sheets.workshop import notes
from bicentra.core.drawing.views.face import face_view
from bicentra.core.drawing.views.section import section_view
from bicentra.core.evaluation.solution import solve
from bicentra.core.geometry.outline import Outline
from bicentra.core.geometry.relief import relieve
from bicentra.core.heat.stops import AIR_M2_S, AIR_W_MK, transfer_at
from bicentra.core.lineup.solids import wheel_inside
from bicentra.core.parts.corners import job_of
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job, LugBolt, Obstacle
from bicentra.core.parts.threads import find_thread
from bicentra.core.parts.trial import PRACTISED, Trial
from bicentra.core.parts.wheel import WeightBand, Wheel
from bicentra.core.search.run import FoundSet
from bicentra.core.trialfit.log import SINCE, _stated, broken_by, prints_of
from bicentra.study.document.starting import example_vehicle
from tests.regression.jobs import JOBS


def test_a_lugs_own_head_decides_its_hole(good: Job) -> None:
    """Its own countersunk bolt is sunk where the others are plain; its own hexagon bolt is not, where the others are sunk."""
    for usual, head, kind in (("clearance", "countersunk", "countersink"), ("countersink", "hexagon", "clearance")):
        lugs = (
            replace(good.knuckle.lugs[0], bolt=LugBolt(thread="M10x1.5", length_mm=40.0, head=head)),
            *good.knuckle.lugs[1:],
        )
        job = with_edits(good, (("knuckle.lugs", lugs), ("bracket.lug_hole", usual)))
        assert bolt_of(job, 0).kind == kind and bolt_of(job, 1).kind == usual


def test_only_posts_out_of_reach_are_left_out(good: Job) -> None:
    """A post beside the first lug's boss, away from ears and body, is within reach; one half a metre off is not."""
    lug = good.knuckle.lugs[0]
    x, y = (lug.x_mm or 0.0), (lug.y_mm or 0.0)

    def post(name: str, at: float) -> Obstacle:
        corners = ((at, y - 2.0), (at + 4.0, y - 2.0), (at + 4.0, y + 2.0), (at, y + 2.0))
        return Obstacle(name=name, outline_mm=corners, z_min_mm=-90.0, z_max_mm=-60.0)

    inward = x + (1.0 if x < 0 else -1.0) * ((lug.boss_mm or 20.0) / 2 + 2.0)
    job = with_edits(good, (("knuckle.obstacles", (post("near", inward), post("far", 500.0))),))
    assembly = solve(job, turns=False).assembly
    kept = within_reach(assembly, np.array([math.radians(job.fit.clock_deg or 0.0)]), 3.0)
    assert [one.name for one in kept.obstacles] == ["near"]


def test_a_plate_beside_the_axle_is_not_cut() -> None:
    """A square 40 mm off the axle keeps its outline where 30 mm are kept free; one that reaches to 25 mm is notched; round it a window."""

    def square(x: float, half: float = 30.0) -> Outline:
        return Outline(tuple((px, py, 0.0) for px, py in ((x, -half), (x + 60.0, -half), (x + 60.0, half), (x, half))))

    assert relieve(square(40.0), 30.0, 3.0).window is None and relieve(
        square(40.0), 30.0, 3.0
    ).outline.area == pytest.approx(3600.0)
    beside = relieve(square(30.5), 30.0, 3.0)
    assert beside.window is None and beside.outline.area == pytest.approx(3600.0)
    assert relieve(square(25.0), 30.0, 3.0).outline.area < 3600.0
    round_it = relieve(square(-30.0), 20.0, 3.0)
    assert round_it.window is not None and round_it.window.area == pytest.approx(math.pi * 400.0)


def test_still_air_and_slow_air() -> None:
    """At a tenth of a metre a second the laminar law holds as it does at ten: h = 0.70 k/D Re^0.55, never under 5 W/(m2 K)."""
    for speed in (0.5, 2.0, 10.0):
        law = 0.70 * AIR_W_MK / 0.05 * (speed * 0.05 / AIR_M2_S) ** 0.55
        assert transfer_at(speed, 0.05) == pytest.approx(max(law, 5.0))
    assert transfer_at(-3.0, 0.25) == transfer_at(0.0, 0.25) == 5.0


def test_who_answered_a_trial() -> None:
    """The simulated corner's trial says so, a person's does not."""
    assert Trial(by=PRACTISED).practised and not Trial(by="").practised and not Trial(by="A. Fitter").practised


def test_nearness_of_what_is_stopped(good: Job) -> None:
    """A set that misses by a told amount is as near as that; one whose amount nobody tells is listed last."""

    def stopped(short: float) -> FoundSet:
        return FoundSet(good, Verdict.STOP, 0.0, "tip-gap", math.nan, math.nan, math.nan, 0, short=short)

    assert stopped(2.5).nearness == 2.5 and stopped(math.nan).nearness == math.inf
    assert sorted([stopped(math.nan), stopped(3.0), stopped(1.0)], key=lambda one: one.rank)[0].short == 1.0


def test_a_chamfer_beside_a_pocket_counts_once() -> None:
    """An axle-end plate with milled seats that run over its rim: its volume is that of its layers, its chamfered rim where it is left."""
    there = job_of(example_vehicle("axle-end"))
    seat = (there.caliper.ear_face_offset_mm or 0.0) - 12.0
    job = with_edits(there, (("survey", {}), ("bracket.chamfer_mm", 1.0), ("caliper.ear_face_offset_mm", seat)))
    plain = with_edits(job, (("bracket.chamfer_mm", None),))
    part, bare = (solve(one, turns=False).bracket.parts[0] for one in (job, plain))
    assert (
        part.chamfer == 1.0
        and part.pockets
        and chamfer_milled(part) > 5.0
        and part.outline is not None
        and bare.outline is not None
    )
    shape = plate_shape(part, 0.001)
    rim = shapely.Polygon(shape.exterior)
    gone = 0.0
    for k in range(
        200
    ):  # the frustum under the rim, slice by slice, on both faces; nothing where a pocket has taken the rim
        depth = (k + 0.5) / 200.0
        ring = rim.difference(rim.buffer(depth - 1.0, quad_segs=64))
        for face in (1.0, -1.0):
            milled = [
                shapely.Polygon(p.outline.polygon(0.001)) for p in part.pockets if p.face == face and p.depth > depth
            ]
            gone += ring.difference(shapely.union_all(milled)).area / 200.0 if milled else ring.area / 200.0
    assert bare.volume - part.volume == pytest.approx(gone, rel=0.02)


def test_washers_are_drawn_only_where_they_are(good: Job) -> None:
    """One washer under the lugs' heads is one piece more of each bolt in the section, as thick as it is; none is none."""

    def pieces(washers: float) -> list[float]:
        job = with_edits(good, (("bracket.lug_washers", washers), ("bracket.lug_bolt", "M5x0.8")))
        drawn = section_view(solve(job, turns=False))
        boxes = [shape for shape in drawn.shapes if shape.tag.startswith("lug-") and shape.ink == "bolt"]
        return sorted(max(p[0] for p in s.loops[0]) - min(p[0] for p in s.loops[0]) for s in boxes)

    none, one = pieces(0), pieces(1)
    assert len(one) > len(none) and min(one) == pytest.approx(1.0)  # ISO 7089: 1 mm for M5, from memory


def test_a_lock_outlives_a_version_that_asks_for_more(good: Job) -> None:
    """Marks leave out what nobody stated; marks of earlier versions still hold; any number that changes breaks either, by name."""
    job = with_edits(good, (("survey", {}),))
    marks = prints_of(job)
    assert _stated(job.rotor).get("diameter_mm") == job.rotor.diameter_mm  # type: ignore[attr-defined]
    assert "through_holes" not in _stated(job.rotor)  # type: ignore[operator]
    older = repr(job.rotor)
    for added in (SINCE[0], ", assembled=False"):
        assert added in older
        older = older.replace(added, "")
    before = {**marks, "rotor": sha256(older.encode()).hexdigest()[:12]}
    assert before["rotor"] != marks["rotor"]
    for lock in (marks, before):
        trial = Trial(locked=True, lock=lock)
        assert broken_by(job, trial) == ()
        for edit in (("rotor.thickness_mm", 19.9), ("rotor.slots", 6)):
            assert broken_by(with_edits(job, (edit,)), trial) == ("the rotor",)
        lug = ("knuckle.lugs[0].z_mm", (job.knuckle.lugs[0].z_mm or 0.0) + 0.1)
        assert broken_by(with_edits(job, (lug,)), trial) == ("the knuckle's sizes",)


def test_weights_nobody_measured_are_named(good: Job) -> None:
    """A band of balance weights without a height is told by its name, one without a name as what it is."""
    wheel = Wheel(
        barrel_mm=((-60.0, 170.0), (60.0, 175.0)), spokes_mm=((10.0, 60.0), (25.0, 150.0)),
        weights=(WeightBand(name="lead strip", z_min_mm=0.0, z_max_mm=20.0), WeightBand(z_min_mm=30.0, z_max_mm=40.0)),
    )  # fmt: skip
    inside = wheel_inside(wheel)
    assert inside is not None and inside.unmeasured == ("lead strip", "balance weights")
    del good


def test_a_lug_that_needs_no_shim_leaves_the_remedy(good: Job) -> None:
    """Where one lug needs half a millimetre and the other none, shims are offered: 0 is no less than nothing."""
    solution = solve(with_edits(good, (("bracket.shims_mm", None), ("survey", {}))), turns=False)
    stack_up = solution.assembly.stack_up
    second = (good.knuckle.lugs[1].z_mm or 0.0) - stack_up.sign * 0.5
    lugs = (good.knuckle.lugs[0], replace(good.knuckle.lugs[1], z_mm=second))
    exact = tuple(shim - stack_up.sign * error for shim, error in zip(stack_up.shims, stack_up.errors))
    thick = stack_up.thickness + exact[0]
    job = with_edits(
        good,
        (("knuckle.lugs", lugs), ("bracket.thickness_mm", thick), ("bracket.shims_mm", (0.0, 0.0)), ("survey", {})),
    )
    found = solve(job, turns=False).finding("axial-offset")
    shims = [dict(remedy.edits).get("bracket.shims_mm") for remedy in found.remedies]
    assert any(made is not None and made[0] == pytest.approx(0.0) and made[1] == pytest.approx(0.5) for made in shims)


def test_a_rotor_whose_band_is_not_measured_is_drawn_round_the_axle(good: Job) -> None:
    """Its edge is a circle about the axle, as wide as it is."""
    drawn = face_view(solve(with_edits(good, (("rotor.swept_inner_diameter_mm", None),)), turns=False))
    edges = [s for s in drawn.shapes if s.tag == "rotor" and s.ink == "rotor" and not s.filled]
    places = np.array([point[:2] for shape in edges for loop in shape.loops for point in loop])
    assert places.max(axis=0) == pytest.approx(-places.min(axis=0), abs=1e-6)
    assert np.abs(places).max() == pytest.approx((good.rotor.diameter_mm or 0.0) / 2)


def test_nearly_one_pitch_says_which_is_thicker() -> None:
    """An M8 in a 5/16-24 hole is 0.06 mm thicker and binds; a 5/16-24 in an M8x1 hole is thinner and pulls out (ISO 965, ASME B1.1)."""
    metric, inch = find_thread("M8x1"), find_thread("5/16-24")
    assert metric is not None and inch is not None
    assert "0.06 mm thicker" in distinct(metric, inch) and "0.06 mm thinner" in distinct(inch, metric)


def test_what_a_thread_is_in_is_assumed_where_nobody_says(good: Job) -> None:
    """The bolt in the ear decides: an ear of unnamed metal is taken as aluminium, and said; of the lugs' nothing is said then."""
    for ear, text in ((None, "the ear's material is not stated: taken as aluminium"), ("iron", "")):
        job = with_edits(good, (("caliper.ear_material", ear), ("knuckle.material", None), ("survey", {})))
        assert "".join(solve(job, turns=False).finding("thread-engagement").assumed) == text


@pytest.mark.parametrize("rise", [-1.0, 1.0])
def test_the_bend_next_to_the_first_hole_is_told(good: Job, rise: float) -> None:
    """The note tells the way of the bend line that lies nearer to hole 1, by the distance of a point from a line."""
    job = JOBS["jogged"](good)
    part = solve(job, turns=False).bracket.parts[0]
    if rise < 0:
        part = replace(part, bends=tuple(replace(bend, up=not bend.up) for bend in part.bends))
    hole = shapely.Point(part.bores[0].centre)
    lines = {bend.up: shapely.LineString((bend.a, bend.b)) for bend in part.bends}
    near = min(lines, key=lambda up: lines[up].distance(hole))
    assert len(lines) == 2
    (text,) = [line for line in notes(part, job.lengths) if line.startswith("Bend")]
    assert ("the line next to hole 1 up" in text) is near


def test_spacers_under_the_ears_are_told_apart_from_shims(good: Job) -> None:
    """Ears far off the lugs' faces stand on turned spacers; ears that touch one lug do not, however far they stand off the other."""
    job = job_of(example_vehicle("no-bracket"))
    flat = solve(job, turns=False).bracket
    assert not [part for part in flat.parts if "spacer" in part.name]
    sign = flat.stack_up.sign
    for moved, spaced in (((12.0, 12.0), True), ((12.0, -1.5), False)):
        lugs = tuple(replace(lug, z_mm=(lug.z_mm or 0.0) - sign * by) for lug, by in zip(job.knuckle.lugs, moved))
        there = solve(with_edits(job, (("knuckle.lugs", lugs), ("bracket.shims_mm", None))), turns=False).bracket
        assert bool([part for part in there.parts if "spacer" in part.name]) is spaced, moved
    del good
