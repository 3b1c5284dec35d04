"""The wheel round the caliper: against dense sampling, closed forms, and what a card template would show."""

import math

import numpy as np
import pytest
import shapely
from hypothesis import given
from hypothesis import strategies as st

from bicentra.core.base.errors import JobError
from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.bracket.assembly import assemble
from bicentra.core.clearance.half_plane import HalfPlanePart, room_between, slides_outboard, swept_body
from bicentra.core.clearance.wheel_room import smallest_wheel, standing_parts
from bicentra.core.evaluation.solution import solve
from bicentra.core.lineup.solids import INCH, RIM_WALL_MM, WELL_MM, nominal_wheel, wheel_inside
from bicentra.core.parts.edits import with_edits, with_value
from bicentra.core.parts.job import Job, Wheel
from bicentra.core.parts.validate import validate
from bicentra.core.parts.wheel import WeightBand


def test_a_box_swept_by_its_width_reaches_its_corner(good: Job) -> None:
    """Outer corner of a box body: √((R_pad + outer)² + (width/2)²), by Pythagoras."""
    job = with_edits(good, (("caliper.body_face_mm", ()), ("caliper.body_section_mm", ())))
    top = job.rotor.diameter_mm / 2 - job.fit.pad_inset_mm
    reach = max(r for _, r in swept_body(job, top).section)
    assert reach == pytest.approx(math.hypot(top + job.caliper.body_outer_mm, job.caliper.body_width_mm / 2))


def test_room_is_that_of_a_body_sampled_in_three_dimensions(good: Job) -> None:
    """Points of the body as a solid, turned into (z, r), come as near to the barrel as the swept section says."""
    line = solve(good).line
    middle = line.rotor_midplane_z + assemble(good).stack_up.error
    section = shapely.Polygon(good.caliper.body_section_mm)
    face = shapely.Polygon(good.caliper.body_face_mm)
    rng = np.random.default_rng(5)
    w, u = rng.uniform(-81, 81, 400_000), rng.uniform(-44, 20, 400_000)
    z = rng.uniform(-35, 54, 400_000)
    inside = shapely.contains_xy(section, z, u) & shapely.contains_xy(face, w, u)
    points = shapely.points(z[inside] + middle, np.hypot(line.pad_top_radius + u[inside], w[inside]))
    wheel = wheel_inside(good.wheel)
    assert wheel is not None
    solids = wheel.solids(line.wheel_seat_z)
    sampled = min(float(shapely.distance(points, shapely.Polygon(p)).min()) for _, p in solids)
    parts = tuple(part for part in standing_parts(assemble(good)) if part.tag == "caliper")
    assert room_between(parts, solids).value == pytest.approx(sampled, abs=0.5)
    assert room_between(parts, solids).value <= sampled + 1e-6


@given(st.integers(13, 20), st.floats(-20.0, 60.0), st.floats(120.0, 220.0))
def test_nominal_wheel_by_hand(inches: int, offset: float, width: float) -> None:
    """Barrel at half the rim's diameter less well and wall, its middle at z = −offset."""
    inside = wheel_inside(Wheel(rim_diameter_mm=inches * INCH, rim_width_mm=width, offset_mm=offset))
    assert inside is not None and len(inside.guessed) == 2
    (z0, r0), (z1, r1) = inside.barrel
    assert (z0 + z1) / 2 == pytest.approx(-offset) and z1 - z0 == pytest.approx(width)
    assert r0 == r1 == pytest.approx(inches * INCH / 2 - WELL_MM - RIM_WALL_MM)


def test_a_nominal_wheel_is_never_better_than_a_watch(good: Job) -> None:
    """Room to spare in a 17 in wheel of which only the size is known: a watch that tells what was guessed."""
    job = replace(good, wheel=nominal_wheel(17, replace(good.wheel, offset_mm=20.0)))
    finding = solve(job).finding("wheel-room")
    assert finding.value > 3.0 and finding.verdict is Verdict.CAUTION
    assert "nominal" in finding.assumed[0] and "card template" in finding.why


def test_no_wheel_is_not_known(good: Job) -> None:
    """Without a wheel nothing is said to clear."""
    assert solve(replace(good, wheel=None)).finding("wheel-room").verdict is Verdict.UNKNOWN


def test_weights_come_nearer_than_the_barrel(good: Job) -> None:
    """A band of weights 12 mm high over the caliper takes up 12 mm of its room to the barrel there."""
    bare = replace(
        good.wheel, barrel_mm=((-100.0, 160.0), (40.0, 160.0)), spokes_mm=((60.0, 60.0), (60.0, 160.0)), weights=()
    )
    weighted = replace(bare, weights=(WeightBand(z_min_mm=-90.0, z_max_mm=30.0, height_mm=12.0),))
    without, with_them = (solve(replace(good, wheel=wheel)).finding("wheel-room") for wheel in (bare, weighted))
    assert without.value - with_them.value == pytest.approx(12.0, abs=1e-6)
    assert "weights" in with_them.why and with_them.verdict is Verdict.STOP


def test_the_spacer_offered_makes_the_room(good: Job) -> None:
    """Spokes in the way: the wheel spacer offered clears them, costs its thickness of stud and twice it of track."""
    wheel = replace(good.wheel, spokes_mm=tuple((z - 8.0, r) for z, r in good.wheel.spokes_mm))
    job = replace(good, wheel=wheel)
    before = solve(job)
    finding = before.finding("wheel-room")
    assert finding.verdict is Verdict.STOP and finding.value < 0
    remedy = next(r for r in finding.remedies if "spacer" in r.action)
    after = solve(with_edits(job, remedy.edits))
    thick = after.job.fit.wheel_spacer_mm
    assert after.finding("wheel-room").verdict is Verdict.OK
    lost = before.finding("wheel-stud-engagement").value - after.finding("wheel-stud-engagement").value
    assert lost == pytest.approx(thick) and after.line.track_change == pytest.approx(2 * thick)


def test_smallest_wheel_is_the_first_that_clears(good: Job) -> None:
    """One inch smaller does not clear; the one named does."""
    parts, seat = standing_parts(assemble(good)), solve(good).line.wheel_seat_z
    wide = replace(good.wheel, offset_mm=-20.0)
    inches = smallest_wheel(replace(good, wheel=wide), parts, seat, 3.0)
    assert inches is not None
    rooms = [room_between(parts, wheel_inside(nominal_wheel(k, wide)).solids(seat)).value for k in (inches - 1, inches)]
    assert rooms[0] < 3.0 <= rooms[1]


@pytest.mark.parametrize(
    ("path", "points", "where"),
    [
        ("wheel.barrel_mm", ((0.0, 160.0), (-10.0, 160.0)), "wheel.barrel_mm[1]"),
        ("wheel.spokes_mm", ((0.0, 70.0),), "wheel.spokes_mm"),
        ("wheel.spokes_mm", ((0.0, -70.0), (0.0, 90.0)), "wheel.spokes_mm[0]"),
        ("caliper.body_face_mm", ((0.0, 0.0), (1.0, 1.0)), "caliper.body_face_mm"),
        ("caliper.body_section_mm", ((0.0, 0.0), (9.0, 9.0), (9.0, 0.0), (0.0, 9.0)), "caliper.body_section_mm"),
        ("caliper.pad_outline_mm", ((0.0, math.nan), (9.0, 9.0), (9.0, 0.0)), "caliper.pad_outline_mm[0]"),
    ],
)
def test_traces_that_cannot_be_are_refused(good: Job, path: str, points: object, where: str) -> None:
    """The message names the point and what was expected of it."""
    with pytest.raises(JobError) as caught:
        validate(with_value(good, path, points))
    assert caught.value.path == where


@given(st.floats(-30.0, 60.0), st.floats(60.0, 190.0), st.floats(2.0, 40.0), st.integers(0, 10_000))
def test_way_to_the_wheel_is_that_found_by_halving(z: float, r: float, wide: float, seed: int) -> None:
    """How far a line of straight pieces slides along the axle before it meets a solid: against moving it bit by bit, by halves."""
    rng = np.random.default_rng(seed)
    path = np.array([z - 60.0, r]) + rng.uniform(-wide, wide, (7, 2))
    ring = ((z, r - 30.0), (z + 8.0, r - 10.0), (z + 2.0, r + 5.0), (z + 30.0, r + 60.0), (z + 90.0, r - 30.0))
    solids = (("spokes", ring),)

    def met(by: float) -> bool:
        moved = shapely.LineString(path + np.array([by, 0.0]))
        return room_between((HalfPlanePart("caliper", moved),), solids).value <= 0.0

    if met(0.0):
        return
    free, hit = 0.0, 200.0
    while hit - free > 1e-7 and any(met(free + k * (hit - free) / 40) for k in range(1, 41)):
        first = next(k for k in range(1, 41) if met(free + k * (hit - free) / 40))
        free, hit = free + (first - 1) * (hit - free) / 40, free + first * (hit - free) / 40
    text = slides_outboard(path, solids, 200.0)
    assert text <= hit + 1e-6 and not any(met(text * share) for share in (0.25, 0.5, 0.9, 0.999))
    if hit < 200.0:
        assert met(text + 1e-6)
