"""The line-up against cases worked by hand; the arithmetic stands in each test."""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bicentra.core.base.records import replace
from bicentra.core.bracket.stack_up import pack
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.job import Job
from bicentra.study.document.starting import demo_job


def test_over_the_hub(good: Job) -> None:
    """Hat 6.5 thick on the hub face with a 2 mm plate: hat outer 8.5; middle 8.5 − 44 + 20/2 = −25.5."""
    line = line_up(replace(good, fit=replace(good.fit, rotor_spacer_mm=2.0)))
    assert line.hat_outer_z == pytest.approx(8.5)
    assert line.rotor_midplane_z == pytest.approx(-25.5)
    assert line.ear_face_z == pytest.approx(-25.5 - 36.0)
    assert line.axial_offset == pytest.approx((-61.5 + 73.7,) * 2)
    assert line.track_change == pytest.approx(4.0)


def test_behind_the_flange(good: Job) -> None:
    """Flange 10 thick, plate 2: hat outer −12; middle −12 − 44 + 10 = −46; the wheel does not move."""
    job = replace(good, hub=replace(good.hub, mounting="behind-flange"), fit=replace(good.fit, rotor_spacer_mm=2.0))
    line = line_up(job)
    assert line.hat_outer_z == pytest.approx(-12.0)
    assert line.rotor_midplane_z == pytest.approx(-46.0)
    assert (line.track_change, line.wheel_seat_z) == (0.0, 0.0)


def test_radii_and_gaps(good: Job) -> None:
    """D/2 = 128, inset 1: pad top 127; ears 38 inside it: 89; tip 3.5 − 1 = 2.5; slot (23 − 20)/2 = 1.5.

    Hot, 400 K above cold: the rim grows 11.5e-6 · 400 · 128 = 0.5888.
    """
    line = line_up(good)
    assert (line.pad_top_radius, line.ear_line_radius) == (127.0, 89.0)
    assert line.tip_gap == pytest.approx(2.5)
    assert line.tip_gap_hot == pytest.approx(2.5 - 0.5888)
    assert line.slot_gap == pytest.approx(1.5)


@pytest.mark.parametrize(
    ("clock", "first", "second"),
    [(180.0, (-89.0, -65.0), (-89.0, 65.0)), (90.0, (-65.0, 89.0), (65.0, 89.0)), (0.0, (89.0, 65.0), (89.0, -65.0))],
)
def test_ears_at_three_clock_angles(
    good: Job, clock: float, first: tuple[float, float], second: tuple[float, float]
) -> None:
    """b = 89 along u, ±65 along w; w points downward behind the axle, rearward above it, upward in front."""
    ears = line_up(replace(good, fit=replace(good.fit, clock_deg=clock))).ears
    assert ears[0][:2] == pytest.approx(first)
    assert ears[1][:2] == pytest.approx(second)


@pytest.mark.parametrize(
    ("side", "ear_seat", "lug_z", "thickness", "error"),
    [
        # Ears' face lies at −63.5 when centred. Outboard plate, ears on its far face: T = Δ.
        ("outboard", "inboard", -73.5, 10.0, 0.0),
        ("outboard", "inboard", -73.5, 12.0, 2.0),
        ("outboard", "inboard", -76.0, 12.0, -0.5),
        # Inboard plate, ears on its inboard face: T = −Δ = −(−63.5 + 53.5) = 10; a thicker one pushes inboard.
        ("inboard", "outboard", -53.5, 10.0, 0.0),
        ("inboard", "outboard", -53.5, 12.0, -2.0),
        # Ears on the same face as the lug: whatever the thickness, the error is what the lug's face is off.
        ("outboard", "outboard", -64.0, 12.0, -0.5),
        ("inboard", "inboard", -64.0, 12.0, -0.5),
    ],
)
def test_axial_error_for_both_sides_and_both_seats(
    good: Job, side: str, ear_seat: str, lug_z: float, thickness: float, error: float
) -> None:
    """Positive error: the caliper sits too far outboard. Δ = z_ear − z_lug throughout."""
    lugs = tuple(replace(lug, z_mm=lug_z, seat=side) for lug in good.knuckle.lugs)
    job = replace(
        good,
        knuckle=replace(good.knuckle, lugs=lugs),
        caliper=replace(good.caliper, ear_seat=ear_seat),
        bracket=replace(good.bracket, side=side, thickness_mm=thickness),
    )
    stack_up = pack(job, line_up(job))
    assert stack_up.errors == pytest.approx((error, error))
    assert stack_up.ear_z == pytest.approx(-63.5 + error)


def test_a_seat_measured_on_the_other_side_is_carried_across_the_lug(good: Job) -> None:
    """z read on the inboard face of a 22 mm lug: the outboard face lies 22 further out."""
    lugs = tuple(replace(lug, seat="inboard", z_mm=-95.7) for lug in good.knuckle.lugs)
    job = replace(good, knuckle=replace(good.knuckle, lugs=lugs))
    assert pack(job, line_up(job)).lug_faces == pytest.approx((-73.7, -73.7))


def test_what_is_not_measured_stays_unknown(good: Job) -> None:
    """Without the rotor's height nothing along the axle is known; the radii still are."""
    line = line_up(replace(good, rotor=replace(good.rotor, overall_height_mm=None)))
    assert math.isnan(line.rotor_midplane_z) and math.isnan(line.axial_offset[0])
    assert line.ear_line_radius == 89.0


@given(st.floats(0, 360), st.floats(-180, 180))
def test_turning_the_caliper_turns_its_ears(clock: float, turn: float) -> None:
    """Rotation invariance: ears at θ + τ are the ears at θ turned by τ, and keep their radius √(b² + S²/4)."""
    base = demo_job()
    before = line_up(replace(base, fit=replace(base.fit, clock_deg=clock))).ears
    after = line_up(replace(base, fit=replace(base.fit, clock_deg=clock + turn))).ears
    for (x, y, _), (tx, ty, _) in zip(before, after):
        z = complex(x, y) * complex(math.cos(math.radians(turn)), math.sin(math.radians(turn)))
        assert (tx, ty) == pytest.approx((z.real, z.imag), abs=1e-9)
        assert math.hypot(tx, ty) == pytest.approx(math.hypot(89, 65))


@given(st.floats(0, 360))
def test_mirror_symmetry_about_the_vertical(clock: float) -> None:
    """A caliper at 180 − θ is the mirror image: first and second ear change places, x changes sign."""
    base = demo_job()
    one = line_up(replace(base, fit=replace(base.fit, clock_deg=clock))).ears
    other = line_up(replace(base, fit=replace(base.fit, clock_deg=180.0 - clock))).ears
    assert (-one[0][0], one[0][1]) == pytest.approx(other[1][:2], abs=1e-9)
    assert (-one[1][0], one[1][1]) == pytest.approx(other[0][:2], abs=1e-9)
