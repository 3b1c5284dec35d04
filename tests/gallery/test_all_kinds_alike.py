"""What must not matter, over every kind of bracket: which side of the vehicle, which unit it is read in, how the whole corner is turned."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bicentra.core.base.records import replace
from bicentra.core.evaluation.solution import Solution, solve
from bicentra.core.geometry.frame import ClockFrame
from bicentra.core.parts.corners import across, job_of
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.study.document.starting import EXAMPLES, example_vehicle

JOBS = {name: job_of(example_vehicle(name)) for name in EXAMPLES}
STANDING = {"bleeder-up", "handedness", "corner-mismatch"}
"""What is up and down, and what is read from the other corner: these may change when a corner is turned or changes sides."""


def figures(solution: Solution) -> dict[str, tuple[str, float]]:
    """Verdict and value by finding."""
    return {f.id: (f.verdict.value, f.value) for f in solution.findings if f.id not in STANDING}


def same(one: dict[str, tuple[str, float]], other: dict[str, tuple[str, float]], within: float = 1e-6) -> None:
    """Both have the same findings, verdicts and values."""
    assert one.keys() == other.keys()
    for id, (verdict, value) in one.items():
        assert other[id][0] == verdict, id
        assert (math.isnan(value) and math.isnan(other[id][1])) or other[id][1] == pytest.approx(value, abs=within), id


def turned(job: Job, by: float) -> Job:
    """The whole corner turned about the axle by ``by`` degrees: everything that has a direction with it."""

    def at(x: float | None, y: float | None) -> tuple[float, float]:
        return ClockFrame(by).at(x or 0.0, y or 0.0)

    lugs = tuple(
        replace(lug, x_mm=at(lug.x_mm, lug.y_mm)[0], y_mm=at(lug.x_mm, lug.y_mm)[1]) for lug in job.knuckle.lugs
    )
    obstacles = tuple(replace(o, outline_mm=tuple(at(*p) for p in o.outline_mm)) for o in job.knuckle.obstacles)
    first, old = job.hub.retainer_first_deg, job.before
    before = replace(old, clock_deg=old.clock_deg + by) if old is not None and old.clock_deg is not None else old
    return replace(
        job,
        knuckle=replace(job.knuckle, lugs=lugs, obstacles=obstacles),
        hub=replace(job.hub, retainer_first_deg=None if first is None else (first + by) % 360.0),
        fit=replace(job.fit, clock_deg=((job.fit.clock_deg or 0.0) + by) % 360.0),
        before=before,
    )


@pytest.mark.parametrize("name", EXAMPLES)
def test_the_other_side_is_the_mirror_image(name: str) -> None:
    """At the other side of the axle, in the same hub frame, every figure is the same."""
    job = JOBS[name]
    same(figures(solve(job)), figures(solve(replace(job, corner=across(job.corner)))))


@pytest.mark.parametrize("name", EXAMPLES)
def test_inches_are_only_for_reading(name: str) -> None:
    """Read in inches every figure is the same, and every sentence says inches or thousandths."""
    inches = solve(with_edits(JOBS[name], (("display_units", "in"),)))
    same(figures(solve(JOBS[name])), figures(inches))
    text = [f.why for f in inches.findings if f.unit == "mm" and math.isfinite(f.value)]
    assert text and not any(" mm" in why.replace("mm²", "").replace("N/mm", "") for why in text if "M1" not in why)


@pytest.mark.parametrize("name", EXAMPLES)
@settings(max_examples=6, deadline=None)
@given(by=st.floats(-179.0, 179.0))
def test_a_corner_that_is_turned_is_the_same_corner(name: str, by: float) -> None:
    """Lugs, obstacles, retainer, old and new caliper turned together: every figure but what is up stays, to the chords of arcs (0.01 mm)."""
    same(figures(solve(JOBS[name])), figures(solve(turned(JOBS[name], by))), 1e-2)
