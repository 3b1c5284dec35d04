"""How much of a casting has to go: cut so deep the finding is met, cut less it is not; nothing is offered that leaves nothing."""

import math

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.bracket.assembly import Assembly
from bicentra.core.clearance.relief_plan import LEAST_LEFT_MM, Relief, reliefs
from bicentra.core.evaluation.solution import Solution, solve
from bicentra.core.geometry.outline import FloatArray
from bicentra.core.geometry.prism import Prism
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job, Obstacle
from bicentra.study.document.starting import demo_job

ROOM = 3.0
"""What the finding wants to be met [mm]."""


def relief(assembly: Assembly, thing: Prism, clock_rad: FloatArray, room: float) -> Relief | None:
    """Return what has to go of one thing; ``None`` for nothing."""
    return next(iter(reliefs(assembly, (thing,), clock_rad, room)), None)


def with_post(job: Job, at: tuple[float, float], z: tuple[float, float], wide: float = 10.0) -> Job:
    """The job without its obstacles, a square post in their place [mm]."""
    x, y = at
    square = ((x, y), (x + wide, y), (x + wide, y + wide), (x, y + wide))
    post = Obstacle(name="post", outline_mm=square, z_min_mm=z[0], z_max_mm=z[1])
    return with_edits(job, (("survey", {}), ("knuckle.obstacles", (post,))))


def offered(solution: Solution) -> list[float]:
    """How deep the finding says the post is relieved [mm]."""
    found = solution.finding("caliper-to-obstacle").remedies
    return [remedy.amount_mm or 0.0 for remedy in found if remedy.action.startswith("Relieve post")]


def test_by_hand(good: Job) -> None:
    """The body begins 35 inboard of the slot's middle at −27.5, at −62.5: with 3 of room a post up to −55 loses 10.5, of 35."""
    solution = solve(with_post(good, (-130.0, 66.0), (-90.0, -55.0)))
    assert solution.finding("caliper-to-obstacle").verdict is Verdict.STOP and offered(solution) == pytest.approx(
        [10.5]
    )
    plan = relief(solution.assembly, solution.assembly.obstacles[0], solution.line.frame.here, ROOM)
    assert plan is not None and plan.end == "outboard" and plan.left == pytest.approx(35.0 - 10.5)
    assert 0.0 < plan.area <= 100.0 + 1e-9 and plan.size[0] <= math.hypot(10.0, 10.0) + 1e-9


@settings(max_examples=40, deadline=None)
@given(turn=st.floats(-25.0, 25.0), out=st.floats(95.0, 140.0), low=st.floats(-110.0, -75.0), long=st.floats(5.0, 45.0))
def test_cut_so_deep_it_is_met_and_less_it_is_not(turn: float, out: float, low: float, long: float) -> None:
    """Posts behind and in the caliper: shortened by the depth the finding is met, by three tenths less it is not."""
    good = with_edits(demo_job(), (("bracket.thickness_mm", None), ("bracket.caliper_bolt_length_mm", None)))
    angle = math.radians(184.0 + turn)
    at = (out * math.cos(angle) - 5.0, out * math.sin(angle) - 5.0)
    job = with_post(good, at, (low, low + long))
    solution = solve(job)
    plan = relief(solution.assembly, solution.assembly.obstacles[0], solution.line.frame.here, ROOM)
    assume(plan is not None and plan.depth < plan.thick - 0.5)
    assert plan is not None

    def left(depth: float) -> float:
        post = job.knuckle.obstacles[0]
        z0, z1 = (
            low + (depth if plan.end == "inboard" else 0.0),
            low + long - (depth if plan.end == "outboard" else 0.0),
        )
        cut = with_edits(job, (("knuckle.obstacles", (replace(post, z_min_mm=z0, z_max_mm=z1),)),))
        there = solve(cut)
        found = relief(there.assembly, there.assembly.obstacles[0], there.line.frame.here, ROOM)
        return 0.0 if found is None else found.depth

    assert left(plan.depth + 1e-6) == 0.0 and left(plan.depth - 0.3) == pytest.approx(0.3, abs=1e-6)


def test_nothing_is_offered_that_leaves_nothing(good: Job) -> None:
    """A thin rib within the body, something beside it, a lug, a place unknown: no relief is told of any."""
    rib = solve(with_post(good, (-130.0, 66.0), (-60.0, -50.0)))
    assert rib.finding("caliper-to-obstacle").verdict is Verdict.STOP and offered(rib) == []
    far = solve(with_post(good, (60.0, 60.0), (-90.0, -40.0)))
    assert relief(far.assembly, far.assembly.obstacles[0], far.line.frame.here, ROOM) is None
    lug = next(thing for thing in far.assembly.fixed if thing.feature == "lug-0")
    assert relief(far.assembly, lug, far.line.frame.here, ROOM) is None  # round, and never to be cut
    nowhere = np.array([math.nan])
    assert relief(rib.assembly, rib.assembly.obstacles[0], nowhere, ROOM) is None and LEAST_LEFT_MM > 0.0
