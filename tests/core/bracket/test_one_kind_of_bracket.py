"""Every kind of bracket is judged by its own geometry wherever a clock angle is asked: ring, search, single solve."""

import random

import numpy as np
import pytest

from bicentra.core.base.finding import BY_RANK, Verdict, worst
from bicentra.core.base.registry import kind_of
from bicentra.core.base.wording import LengthFormat
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.search.clock import search_clock
from bicentra.core.search.clock_invariant import still_set
from bicentra.core.search.sweep import sweep_set
from tests.jobs import meeting


def example(good: Job, family: str) -> Job:
    """A made-up job that the family suits, and that has taken it."""
    plain = tuple(lug for lug in good.knuckle.lugs)
    edits: dict[str, tuple[tuple[str, object], ...]] = {
        "weld-on": (("bracket.material", "steel S355"), ("hub.retainer_circle_mm", None)),
        "sleeve": tuple((f"knuckle.lugs[{k}].{name}", value) for k in range(len(plain))
                        for name, value in (("thread", None), ("hole_mm", 14.5))),
        "two-part": tuple((f"knuckle.lugs[{k}].z_mm", lug.z_mm - 25.0) for k, lug in enumerate(plain)),
        "jogged-plate": (("bracket.material", "steel S355"), ("bracket.wall_mm", 6.0), ("caliper.ear_line_to_pad_top_mm", -60.0),
                         *((f"knuckle.lugs[{k}].z_mm", lug.z_mm - 20.0) for k, lug in enumerate(plain))),
    }  # fmt: skip
    job = meeting(good, 77.0) if family == "eccentric-bushings" else good
    return with_edits(job, (("bracket.family", family), *edits.get(family, ())))


KINDS = (
    "flat-plate",
    "stepped-plate",
    "two-part",
    "sleeve",
    "weld-on",
    "axle-end-plate",
    "jogged-plate",
    "eccentric-bushings",
)


def turned(job: Job, clock: float) -> Job:
    """The job at another clock angle."""
    return with_edits(job, (("fit.clock_deg", clock),))


@pytest.mark.parametrize("family", KINDS)
def test_the_ring_says_what_the_single_solve_says(good: Job, family: str) -> None:
    """A flat plate was judged whatever was taken: bushings closed at angles that hold, a stepped plate open where it stops."""
    job = example(good, family)
    found = search_clock(job, step=5.0)
    assert found is not None and (found.feasible.any() or family == "jogged-plate")
    chance = random.Random(family)
    asked = {
        int(found.score.argmax()),
        *chance.sample(range(72), 6),
        *chance.sample(range(72), 1),
    }
    for k in asked:
        findings = solve(turned(job, 5.0 * k), turns=False, remedies=False).findings
        bad = {f.id for f in findings if f.verdict in (Verdict.STOP, Verdict.UNKNOWN) and kind_of(f.id).turns}
        ringed = {id for id, row in found.stops.items() if row[k]}
        assert bool(bad & set(found.stops)) is bool(ringed & (bad | {"bracket-to-hub"})), (k, bad, ringed)
        assert ringed <= bad | {"bracket-to-hub"}, (k, bad, ringed)


@pytest.mark.parametrize("family", ["stepped-plate", "two-part", "sleeve", "weld-on", "axle-end-plate"])
def test_the_parts_search_judges_the_kind_that_is_taken(good: Job, family: str) -> None:
    """At angles drawn by chance and at some that nothing stops, its verdict is that of the whole solution."""
    job, chance = example(good, family), random.Random(family)
    angles = np.arange(0.0, 360.0, 10.0)
    still = tuple(
        f
        for f in solve(job, turns=False, remedies=False).findings
        if kind_of(f.id).group == "line-up" and not kind_of(f.id).turns
    )
    ranks = sweep_set(still_set(job, angles[0], LengthFormat("mm"), still), angles).ranks
    alive = np.flatnonzero(ranks > 0)
    for k in {*chance.sample(range(36), 4), *chance.sample(list(alive), min(3, len(alive)))}:
        verdict = worst(solve(turned(job, float(angles[k])), turns=False, remedies=False).verdicts)
        assert BY_RANK[ranks[k]] is verdict, angles[k]
