"""Every remedy that is offered is carried out and judged, over jobs of every kind changed here and there by chance."""

import random

import pytest

from bicentra.core.base.errors import BicentraError
from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.corners import job_of
from bicentra.core.parts.edits import get_value, with_edits
from bicentra.core.parts.fields import fields
from bicentra.core.parts.job import Job
from bicentra.core.parts.validate import validate
from bicentra.core.search.planner import plan_remedies
from bicentra.study.document.next_step import next_step
from bicentra.study.document.starting import EXAMPLES, demo_vehicle, example_vehicle
from tests.jobs import any_value

PARTS = ("hub", "rotor", "caliper", "fit", "bracket", "wheel", "knuckle.lugs[0]", "knuckle.lugs[1]")


def paths_of(job: Job) -> list[str]:
    """Every key path of a number, choice or thread of the job."""
    found = []
    for part in PARTS:
        try:
            record = get_value(job, part)
        except (LookupError, KeyError):
            continue
        text = [] if record is None else [f for f in fields(record) if f.meaning is not None]
        found += [
            f"{part}.{f.name}" for f in text if f.meaning.kind is not None or f.meaning.choices or f.meaning.thread
        ]
    return found


def changed(job: Job, chance: random.Random) -> Job | None:
    """The job with a few numbers changed; ``None`` where that makes none."""
    try:
        made = with_edits(
            job, tuple((p, any_value(job, p, chance)) for p in chance.sample(paths_of(job), chance.randint(1, 4)))
        )
        validate(made)
    except (BicentraError, LookupError, TypeError, ValueError, StopIteration):
        return None
    return made


@pytest.mark.parametrize("name", ["", *EXAMPLES])
def test_what_is_offered_helps(name: str) -> None:
    """Carried out, each leaves its finding better, or with less missing, and stops nothing that it does not name."""
    vehicle, chance, tried = demo_vehicle() if not name else example_vehicle(name), random.Random(name), 0
    base = job_of(vehicle)
    for job in filter(None, (base, *(changed(base, chance) for _ in range(9)))):
        findings = solve(job).findings
        stops = {f.id for f in findings if f.verdict is Verdict.STOP}
        for finding in findings:
            for remedy in (r for r in finding.remedies if r.edits):
                after = with_edits(job, remedy.edits)
                validate(after, trusted=job)
                found = solve(after, turns=False, remedies=False).findings
                ranks = [f.verdict.rank for f in found if f.id == finding.id]
                assert min(ranks, default=3) >= finding.verdict.rank, (finding.id, remedy.action)
                new = {f.id for f in found if f.verdict is Verdict.STOP} - stops
                assert not new or remedy.side_effects[0].startswith("then stops"), (finding.id, remedy.action, new)
                tried += 1
    assert tried >= 0


def test_no_washer_is_taken_out_that_is_not_there(good: Job) -> None:
    """“Take one washer out from under each head” was offered where there was none."""
    lugs = tuple(replace(lug, thickness_mm=9.0) for lug in good.knuckle.lugs)
    found = solve(with_edits(good, (("knuckle.lugs", lugs), ("bracket.lug_washers", 0)))).findings
    assert not [
        r.action
        for f in found
        for r in f.remedies
        if "washer" in r.action and "lug" in str(r.edits) and "out" in r.action
    ]


def test_balance_weights_are_moved_before_a_wheel_is_bought(good: Job) -> None:
    """Where just the weights touch, a larger wheel was all that was offered."""
    tall = replace(good.wheel.weights[0], height_mm=30.0)
    finding = solve(with_edits(good, (("wheel.weights", (tall,)),))).finding("wheel-room")
    assert finding.verdict is Verdict.STOP and "balance weights" in finding.remedies[0].action


def test_ear_shims_are_taken_out_where_they_are_the_fault(good: Job) -> None:
    """Shims at the ears that put the caliper off centre: out with them, first of all."""
    held = solve(good).assembly.stack_up
    kept = (("bracket.thickness_mm", held.thickness), ("bracket.shims_mm", held.shims))
    finding = solve(with_edits(good, (*kept, ("fit.ear_shims_mm", ((1.0,), (1.0,)))))).finding("axial-offset")
    assert finding.verdict is Verdict.STOP and "Take the shims at the ears out" in finding.remedies[0].action


def test_a_far_turn_is_never_the_next_step(good: Job) -> None:
    """Turning the caliper by 58° stood behind the one key that does what comes next."""
    from bicentra.core.parts.job import Obstacle

    post = Obstacle(
        name="post", outline_mm=((-150, -60), (-100, -60), (-100, 60), (-150, 60)), z_min_mm=-90.0, z_max_mm=-20.0
    )
    solution = solve(with_edits(good, (("knuckle.obstacles", (post,)),)))
    step = next_step(solution)
    turns = [value for path, value in (step.remedy.edits if step.remedy else ()) if path == "fit.clock_deg"]
    assert all(abs(value - good.fit.clock_deg) <= 20.0 for value in turns)


def test_no_absurd_amount_is_offered(good: Job) -> None:
    """61 mm of shims, and a rotor 105 mm high, were offered for lugs that were measured from the wrong face."""
    far = tuple(replace(lug, z_mm=lug.z_mm - 61.4) for lug in good.knuckle.lugs)
    held = solve(good).assembly.stack_up
    job = with_edits(
        good, (("knuckle.lugs", far), ("bracket.thickness_mm", held.thickness), ("bracket.shims_mm", held.shims))
    )
    offered = [r.action for r in solve(job).finding("axial-offset").remedies]
    assert not [action for action in offered if "of shims between" in action or "high" in action]


def test_the_plan_that_misses_least_is_named(good: Job) -> None:
    """“Nothing to clear” stood beside eight stops."""
    job = with_edits(
        good,
        (
            ("caliper.pistons_outboard_mm", ()),
            ("bracket.material", "PLA"),
            ("bracket.lock", "nothing"),
            ("caliper.bridge_to_pad_top_mm", 1.5),
        ),
    )
    plans = plan_remedies(job)
    assert len(plans) == 1 and plans[0].left and plans[0].steps
    assert plan_remedies(good) == ()


def test_a_plate_that_is_chosen_is_one_that_passes(good: Job) -> None:
    """12 mm of plate and 2.9 of shims were chosen, and then called a tall stack: 14.9 mm are milled from 15."""
    lugs = tuple(replace(lug, z_mm=lug.z_mm - 4.7) for lug in good.knuckle.lugs)
    solution = solve(
        with_edits(good, (("knuckle.lugs", lugs), ("bracket.thickness_mm", None), ("bracket.shims_mm", None)))
    )
    assert (
        solution.finding("shim-stack").verdict is Verdict.OK and solution.finding("axial-offset").verdict is Verdict.OK
    )
    assert solution.assembly.stack_up.thickness == pytest.approx(14.9)


def test_a_rotor_is_redrilled_only_to_another_pattern(good: Job) -> None:
    """“From 4×100 to 4×100” was offered where only the holes were too small."""
    finding = solve(with_edits(good, (("rotor.hole_mm", 11.0),))).finding("rotor-on-hub")
    assert finding.verdict is Verdict.STOP and finding.remedies[0].action.startswith(
        "Drill the rotor's holes out to 12.6"
    )
    assert not [r.action for r in finding.remedies if "Redrill" in r.action]


def test_the_nearest_shims_are_told_where_none_are_enough() -> None:
    """Where no shims at hand reach the limits the nearest ones are told with what they leave."""
    from bicentra.core.parts.trial import Gaps, LooseShims
    from bicentra.core.trialfit.fit import trial_fit

    job = job_of(example_vehicle("trial-fit"))
    gaps = Gaps(leading_outboard=0.6, leading_inboard=2.4, trailing_outboard=0.6, trailing_inboard=2.4)
    bare = replace(job.trials[-1].shims_mm, first=(), second=())
    trial = replace(job.trials[-1], gaps_mm=gaps, stock=(LooseShims(thickness_mm=0.25, count=2),), shims_mm=bare)
    fit = trial_fit(solve(replace(job, trials=(trial,))))
    assert fit is not None and not fit.reachable
    assert fit.alternatives[0].action.startswith("Nearest with the shims at hand") and fit.alternatives[
        0
    ].amount == pytest.approx(0.65)
