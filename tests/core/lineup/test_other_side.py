"""The other corner of the axle: held against its own numbers, its bracket made on them, never called alike unmeasured."""

import math

import pytest

from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.evaluation.own_bracket import CHOSEN, own_bracket
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.corners import job_of
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.parts.vehicle import Corner, Vehicle
from bicentra.core.uncertainty.both_sides import both_sides, text_of_both
from bicentra.study.document.starting import demo_vehicle


@pytest.fixture
def typed() -> Vehicle:
    """The demo with what both corners have written down, and no survey to say more."""
    whole = demo_vehicle()
    return replace(whole, corners={name: replace(own, survey=None) for name, own in whole.corners.items()})


def with_left(vehicle: Vehicle, **changes: object) -> Job:
    """The right corner's job, the upper lug of the left one changed."""
    left = vehicle.corners["front-left"]
    first, *rest = left.knuckle.lugs
    knuckle = replace(left.knuckle, lugs=(replace(first, **changes), *rest))
    there = replace(left, knuckle=knuckle)
    return job_of(replace(vehicle, corners={**vehicle.corners, "front-left": there}), "front-right")


def test_the_other_corner_is_held_against_its_own_numbers(typed: Vehicle) -> None:
    """Unsurveyed corners are compared by what is typed at them: alike to a stated distance, or a part of its own that says why."""
    alike = job_of(typed, "front-right")
    lugs = zip(alike.knuckle.lugs, typed.corners["front-left"].knuckle.lugs)
    worst = max(max(math.hypot(a.x_mm - b.x_mm, a.y_mm - b.y_mm), abs(a.z_mm - b.z_mm)) for a, b in lugs)
    found = solve(alike).finding("corner-mismatch")
    assert found.verdict is Verdict.OK and found.value == pytest.approx(worst)
    assert "are those of this corner to" in text_of_both(alike)
    upper = alike.knuckle.lugs[0]
    moved = with_left(typed, x_mm=upper.x_mm + 3.0, y_mm=upper.y_mm)
    found = solve(moved).finding("corner-mismatch")
    assert found.verdict is Verdict.CAUTION and found.value == pytest.approx(3.0), (
        "the other corner never stops this one"
    )
    sides = both_sides(moved)
    assert sides.compared == "numbers" and "a part of its own" in text_of_both(moved)
    assert sides.there.plate is not None
    assert "thread" in " ".join(both_sides(with_left(typed, thread="M10x1.25")).differ)


def test_the_other_side_is_made_on_its_own_numbers(typed: Vehicle) -> None:
    """The part for the other side is the very one that corner gets when it is worked on."""
    right = with_left(typed, x_mm=-70.0)
    there = both_sides(right).there
    left = replace(job_of(typed, "front-left"), knuckle=right.opposite.knuckle)
    anew = with_edits(left, tuple((f"bracket.{name}", None) for name in CHOSEN))
    assert there.plate is not None and there.plate.outline == own_bracket(anew).bracket.plate.outline


def test_an_unmeasured_other_corner_is_never_called_alike(typed: Vehicle) -> None:
    """A lug without a place there, a corner nobody measured, and one that borrows: each says so, none says it serves."""
    gap = with_left(typed, x_mm=None)
    assert solve(gap).finding("corner-mismatch").verdict is Verdict.UNKNOWN and "is unknown" in text_of_both(gap)
    lent = replace(typed, corners={**typed.corners, "front-left": Corner()})
    here, there = (job_of(lent, name) for name in ("front-right", "front-left"))
    assert "that corner is not measured yet" in text_of_both(here) and here.opposite is None
    assert "taken to be the mirror image" in text_of_both(there)
    assert all(f.id != "corner-mismatch" for job in (here, there) for f in solve(job).findings)


def test_what_this_corner_has_otherwise_is_not_the_other_sides(typed: Vehicle) -> None:
    """An override of this corner is no design of the axle: the other side gets the axle's value, and both are said to differ."""
    own = replace(typed.corners["front-right"], overrides={"fit.clock_deg": 170.0})
    vehicle = replace(typed, corners={**typed.corners, "front-right": own})
    right, left = (job_of(vehicle, name) for name in ("front-right", "front-left"))
    assert (right.fit.clock_deg, left.fit.clock_deg) == (170.0, job_of(typed).fit.clock_deg)
    assert right.opposite.overrides == {"fit.clock_deg": left.fit.clock_deg}
    assert "fit.clock_deg is its own" in both_sides(right).differ and "a part of its own" in text_of_both(right)
    assert "fit.clock_deg is its own" in both_sides(left).differ
