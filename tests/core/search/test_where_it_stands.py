"""Kinds that set the clock angle themselves: the search finds what looking at every angle one by one finds."""

import math
import random

import numpy as np
import pytest

from bicentra.core.base.records import replace
from bicentra.core.bracket.families.table import family_of
from bicentra.core.bracket.turned import ROUND_BOSS_MM
from bicentra.core.clearance.clock_sweep import bracket_caliper_sweep, bracket_obstacle_sweep
from bicentra.core.evaluation.solution import solve
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.corners import job_of
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.search.clock_invariant import still_set
from bicentra.core.search.run import SearchSpace, search, single_path
from bicentra.core.search.score import WEIGHTS
from bicentra.study.document.starting import example_vehicle
from tests.regression.jobs import JOBS


@pytest.mark.parametrize("home", ["bushings", "inserts", "no-bracket"])
def test_as_every_angle_one_by_one(home: str) -> None:
    """Of 72 angles the best verdict is the same, at the angle told; where the kind may stand lies what is no stop, and nowhere else."""
    job = with_edits(job_of(example_vehicle(home)), (("survey", {}), ("trials", ())))
    stands = family_of(job).stands_at
    assert stands is not None
    clocks = stands(job)
    assert len(clocks) == 2 and abs(abs(clocks[0] - clocks[1]) - 180.0) < 1e-9
    found = [
        one
        for step in search(job, SearchSpace((job.rotor,), (job.caliper,), (0.0,), (job.bracket.side,), angles=360))
        for one in step.sets
    ]
    ranks = {}
    near = sorted({round(clock + off) % 360 for clock in clocks for off in (-2, -1, 0, 1, 2)})
    for angle in (*range(0, 360, 5), *near):
        ranks[angle] = single_path(with_edits(job, (("fit.clock_deg", float(angle)),)))[0].rank
    best = max(ranks.values())
    assert max(one.verdict.rank for one in found) == best
    for angle, rank in ranks.items():
        off = min(abs((angle - clock + 180.0) % 360.0 - 180.0) for clock in clocks)
        assert off <= 1.0 or rank == 0, (angle, rank)
    if best > 0:
        chosen = next(one for one in found if one.verdict.rank == best)
        assert single_path(chosen.job)[0] is chosen.verdict


@pytest.mark.parametrize("home", ["axle-end", "tube-tab", "on-original", "bushings", "no-bracket"])
def test_kinds_that_lie_on_no_side_of_the_lugs_are_tried_once(home: str) -> None:
    """Told the other side, such a job answers the same to the last digit; so the search makes one set of each pair of parts."""
    job = with_edits(job_of(example_vehicle(home)), (("survey", {}), ("trials", ())))
    assert not family_of(job).sided
    sides = [with_edits(job, (("bracket.side", side),)) for side in ("outboard", "inboard")]
    first, second = (
        [(f.id, f.verdict, repr(f.value), repr(f.limit), f.why) for f in solve(one, turns=False).findings]
        for one in sides
    )
    assert first == second
    found = [one for step in search(job, SearchSpace((job.rotor,), (job.caliper,), (0.0,))) for one in step.sets]
    assert len(found) == 1 and "plate" not in found[0].name


@pytest.mark.parametrize("family", ["stepped-plate", "jogged-plate", "axle-end-plate", "weld-on"])
def test_where_a_kind_is_known_to_be_stopped_it_is(good: Job, family: str) -> None:
    """Made at angles that were passed by because it could nowhere be better, it is stopped at each; the room for bends is the same."""
    rng, passed = random.Random(family), 0
    homes = {
        "jogged-plate": lambda: JOBS["jogged"](good),
        "axle-end-plate": lambda: job_of(example_vehicle("axle-end")),
        "weld-on": lambda: job_of(example_vehicle("tube-tab")),
    }
    base = homes.get(family, lambda: good)()
    angles = np.arange(0.0, 360.0, 5.0)
    for _ in range(12):
        lugs = tuple(
            replace(lug, x_mm=lug.x_mm + rng.uniform(-9, 9), y_mm=lug.y_mm + rng.uniform(-9, 9), z_mm=lug.z_mm - rng.uniform(0, 14))
            for lug in base.knuckle.lugs
        )  # fmt: skip
        job = with_edits(
            base, (("bracket.family", family), ("knuckle.lugs", lugs), ("bracket.thickness_mm", None), ("survey", {}))
        )
        job = with_edits(
            job,
            (
                ("rotor.diameter_mm", rng.uniform(230.0, 330.0)),
                ("hub.barrel_diameter_mm", 60.0),
            ),
        )
        line = line_up(job)
        kind, clock = family_of(job), np.radians(angles)
        at_best = kind.at_best(job, line, clock) if kind.at_best is not None else {}
        still = still_set(job, 180.0, job.lengths)
        metal = kind.sure(job, line, clock) if kind.sure is not None else ()
        rooms = dict(at_best)
        if metal:
            rooms["bracket-to-obstacle"] = bracket_obstacle_sweep(still.assembly, metal, len(angles)).value
            rooms["bracket-to-caliper"] = bracket_caliper_sweep(still.assembly, metal, clock)
        riding = kind.riding(still.job, still.line) if kind.riding is not None else ()
        if riding:
            room = bracket_caliper_sweep(still.assembly, riding, still.line.frame.here)[0]
            rooms["bracket-to-caliper"] = np.full(len(angles), room)
        for k in rng.sample(range(len(angles)), 9):
            found = {
                f.id: f for f in solve(with_edits(job, (("fit.clock_deg", float(angles[k])),)), turns=False).findings
            }
            for name, values in rooms.items():
                if name in found and math.isfinite(found[name].value) and math.isfinite(values[k]):
                    passed += 1
                    assert found[name].value <= values[k] + (1e-9 if name == "bend-room" else ROUND_BOSS_MM)
                    if name == "bend-room":
                        assert found[name].value == pytest.approx(values[k])
    assert passed > 10


def test_what_rides_with_the_caliper_is_as_near_to_it_at_any_angle() -> None:
    """A tab on a round tube, turned with its caliper: a rotation about the axle changes no distance between the two."""
    job = with_edits(job_of(example_vehicle("tube-tab")), (("survey", {}), ("trials", ())))
    assert family_of(job).riding is not None
    rooms = [
        solve(with_edits(job, (("fit.clock_deg", clock),)), turns=False).finding("bracket-to-caliper").value
        for clock in (0.0, 37.0, 112.5, 190.0, 301.0)
    ]
    assert rooms == pytest.approx([rooms[0]] * 5, abs=1e-6)


def test_a_kind_is_granted_nothing_for_what_it_is_not_asked() -> None:
    """A plate on the axle's end has no hole at the lugs: metal between holes counts for nothing in its score."""
    job = with_edits(job_of(example_vehicle("axle-end")), (("survey", {}), ("trials", ())))
    ids = {finding.id for finding in solve(job, turns=False).findings}
    found = [one for step in search(job, SearchSpace((job.rotor,), (job.caliper,), (0.0,))) for one in step.sets]
    assert "ligament" not in ids and found[0].granted["wide ligaments"] == 0.0
    assert found[0].score == pytest.approx(sum(WEIGHTS[name] * share for name, share in found[0].granted.items()))
