"""The practice corner: the same for a seed, nothing of it known to the solver, every corner solvable, haste dearer than care."""

import math
import random
import statistics

import pytest

from bicentra.core.base.records import replace
from bicentra.core.parts.attachments import PracticeRun
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import GAPS, PRACTISED, ShimStacks
from bicentra.core.practice.corner import (
    BOLT_MIN,
    MOVE_MIN,
    SET_MIN,
    WORK,
    begin_corner,
    first_trial,
    inspect,
    put_shims,
    run_of,
    set_up,
    take_reading,
)
from bicentra.core.practice.habits import habits_of, lucky, missed
from bicentra.core.practice.players import first_move, fit_of, reference_player
from bicentra.core.practice.truth import FAULTS, HINTS, Truth, true_pose, truth_of
from bicentra.core.trialfit.advice import next_advice
from bicentra.core.trialfit.fit import TrialFit
from bicentra.core.trialfit.set_up import INSPECTIONS
from bicentra.core.trialfit.shim_station import stations_of
from bicentra.study.document.starting import practice_base
from tests.core.practice.other_players import follower, naive_player
from tests.core.trialfit.corner import gaps_of

BASE = practice_base()
SEEDS = range(1, 201)


def truth_with(*faults: str) -> Truth:
    """The first corner behind which just these faults are hidden."""
    level = len(faults)
    return next(truth for seed in range(5000) if set((truth := truth_of(seed, level)).faults) == set(faults))


def corner(*faults: str) -> Job:
    """The practice corner with just these faults, as it is found."""
    return begin_corner(BASE, truth_with(*faults))


def read_all(job: Job) -> Job:
    """The corner once its four gaps have been read."""
    for name in GAPS:
        job = take_reading(job, name)
    return job


def fit_at(job: Job, truth: Truth) -> TrialFit:
    """The last trial worked out on gaps as they truly are."""
    offset, slope = true_pose(truth, job, job.trials[-1], run_of(job).done)
    half, spare = (job.trials[-1].station_spacing_mm or 0.0) / 2, 6.0
    text = {
        f"{end}_{face}": spare / 2 + sign * (offset + way * slope * half)
        for end, way in (("leading", -1.0), ("trailing", 1.0))
        for face, sign in (("outboard", 1.0), ("inboard", -1.0))
    }
    trial = job.trials[-1]
    exact = replace(trial, gaps_mm=replace(trial.gaps_mm, **text), read_before={})
    return fit_of(replace(job, trials=(*job.trials[:-1], exact)))


def test_careful_players_lock_every_corner_and_haste_is_dearer() -> None:
    """Of every fourth seed up to 200, the level going round: the careful player and one that only does what comes next both reach a
    lock, in fewer minutes and changes of shims than in haste."""
    rounds = [(seed, seed % 3 + 1) for seed in SEEDS[::4]]
    careful, following, hasty = (
        [play(BASE, *one) for one in rounds[: 50 if play is not naive_player else 30]]
        for play in (reference_player, follower, naive_player)
    )
    assert [p.run.seed for p in (*careful, *following) if not p.locked] == []
    for players in (careful, following):
        assert statistics.fmean(p.run.minutes for p in players) < statistics.fmean(p.run.minutes for p in hasty)
        assert statistics.fmean(p.run.moves for p in players) < 1.5


def test_every_advised_move_moves_the_true_caliper_as_promised() -> None:
    """In 40 corners with nothing hidden that shims lie about, shims at lugs and at ears before: every advised change, at either place,
    brings the hidden caliper where the plan says it will, to rounding."""
    rng, places = random.Random(4), set()
    truths = [
        truth for seed in range(400) if (truth := truth_of(seed)).faults[0] in ("weight", "hands", "lip", "fouls")
    ]
    for truth in truths[:40]:
        job = set_up(begin_corner(BASE, truth), "school", rng.choice(("equal", "unequal")))
        sides = [tuple(rng.choice((0.1, 0.25, 0.5, 1.0)) for _ in range(rng.randint(0, 2))) for _ in range(2)]
        trial = replace(job.trials[-1], ear_shims_mm=ShimStacks(first=sides[0], second=sides[1]))
        job = replace(job, trials=(trial,))
        for move in fit_at(job, truth).advised:
            after = put_shims(job, move.plan)
            offset, slope = true_pose(truth, after, after.trials[-1], ())
            assert offset == pytest.approx(move.plan.offset, abs=1e-9)
            assert math.degrees(math.atan(slope)) == pytest.approx(move.plan.tilt, abs=1e-9)
            places.add(move.plan.place)
    assert places == {"lug", "ear"}


def test_shims_at_the_ears_move_it_as_those_at_the_lugs_do() -> None:
    """By hand: 0.5 more at both ears, and at both lugs, is 0.5 outboard each; a 2 mm spacer behind the rotor 2 inboard."""
    truth, job = truth_with("weight"), corner("weight")
    at, _ = true_pose(truth, job, job.trials[-1], ())
    both = ShimStacks(first=(0.5,), second=(0.5,))
    more = replace(job.trials[-1], ear_shims_mm=both)
    assert [station.sign for station in stations_of(job, fit_line(job))] == [1.0, 1.0]
    assert true_pose(truth, job, more, ()) == pytest.approx((at + 0.5, 0.0))
    lugs = replace(job.trials[-1], shims_mm=ShimStacks(first=(0.5, 0.5, 0.5), second=(0.5, 0.5, 0.5)))
    assert true_pose(truth, job, lugs, ()) == pytest.approx((at + 0.5, 0.0))
    assert true_pose(truth, job, replace(job.trials[-1], rotor_plate_mm=2.0), ()) == pytest.approx((at - 2.0, 0.0))


def fit_line(job: Job) -> object:
    """The job's caliper on its rotor."""
    from bicentra.core.lineup.solve import line_up

    return line_up(job)


def test_what_comes_next_exists_and_old_gaps_are_old() -> None:
    """Whatever is asked for on the way can be done on the corner; what an inspection finds makes the gaps old, and they are asked for
    again; turning the rotor is a trial of its own."""
    job = set_up(corner("burr"), "rotor_nuts", 4)
    job = read_all(job)
    clean = inspect(job, "clean")
    assert run_of(clean).done == ("burr",) and set(clean.trials[-1].read_before) == set(GAPS)
    fit = fit_of(clean)
    asked = next_advice(clean, fit, first_move(fit))
    assert asked.kind == "read" and "stoned off" in asked.sentence and not fit.moves
    turned = inspect(job, "turn")
    assert len(turned.trials) == 2 and turned.trials[-1].gaps_mm.leading_outboard is None
    assert turned.trials[-1].shims_mm == job.trials[-1].shims_mm and "turn" in turned.trials[-1].checked
    assert set(WORK) == set(INSPECTIONS)


def test_the_drawing_of_a_corner_is_true_but_for_what_is_hidden() -> None:
    """With nothing hidden that moves the caliper the drawing puts it within half a millimetre of where it sits; lugs measured 2 mm
    wrong, or a rotor of another height, show as that."""
    for seed in range(60):
        truth = truth_of(seed)
        job = set_up(begin_corner(BASE, truth), "rotor_nuts", 4)
        text = next(f for f in fit_at(job, truth).findings if f.id == "trial-drawn")
        if truth.faults[0] in ("plane", "height"):
            assert text.value > 1.0, seed
        elif truth.faults[0] in ("weight", "hands", "lip", "sense", "mixed", "seat", "reading"):
            assert text.value < 0.5, seed


def test_every_fault_is_hidden_somewhere_and_told() -> None:
    """A seed always hides the same; in 200 seeds every fault comes, each with a hint and a sentence for the end."""
    assert truth_of(7, 3) == truth_of(7, 3) and len(truth_of(7, 3).faults) == 3
    found = {fault for seed in SEEDS for fault in truth_of(seed, 3).faults}
    assert found == set(FAULTS) == set(HINTS)
    assert all("{" not in text for seed in SEEDS for text in truth_of(seed, 3).sentences())
    assert {fault for work in WORK.values() for fault, _ in work.found} == set(FAULTS) - {"seat", "reading"}


def test_readings_are_those_of_a_rigid_body() -> None:
    """With nothing hidden that shifts a reading, four gaps by calipers lie round what the independent model says, and cost minutes."""
    truth, job = truth_with("weight"), corner("weight")
    trial = replace(job.trials[0], instrument="digital-caliper", rotor_nuts=4, station_spacing_mm=120.0)
    job = read_all(replace(job, trials=(trial,)))
    offset, slope = true_pose(truth, job, job.trials[-1], ())
    wanted = gaps_of(offset, math.degrees(slope), 6.0)
    for name in GAPS:
        assert getattr(job.trials[0].gaps_mm, name) == pytest.approx(getattr(wanted, name), abs=0.25)
    run = run_of(job)
    assert run.minutes == 10.0 and len(run.asked) == 4 and "too far" in run.steps[-1].showed and not run.steps[0].showed


@pytest.mark.parametrize("name", [name for name, work in WORK.items() if work.found])
def test_what_is_looked_at_finds_its_fault_alone(name: str) -> None:
    """An inspection costs its minutes, finds its own fault once, and nothing in a corner that has another."""
    fault, text = WORK[name].found[0]
    first = inspect(corner(fault), name)
    run = run_of(first)
    assert fault in run.done and run.minutes == WORK[name].minutes and run.steps[-1].showed == text
    again = run_of(inspect(first, name))
    assert again.steps[-1].showed == WORK[name].nothing and again.done == run.done
    other = inspect(corner("reading"), name)
    assert run_of(other).steps[-1].showed == WORK[name].nothing and not other.trials[-1].read_before


def test_lip_weight_and_bad_reading() -> None:
    """0.38 mm of runout until the lip is ground, then 0.13; a weight touches until it is moved; one reading is wrong the first time."""
    lip = take_reading(corner("lip"), "runout_mm")
    assert lip.trials[-1].runout_mm == 0.38
    assert take_reading(inspect(lip, "lip"), "runout_mm").trials[-1].runout_mm == 0.13
    weight = take_reading(corner("weight"), "turned")
    assert (weight.trials[-1].turned, weight.trials[-1].touches) == ("touches", "a wheel weight")
    free = take_reading(inspect(weight, "weight"), "turned")
    assert (free.trials[-1].turned, free.trials[-1].touches) == ("free", "")
    where = truth_with("reading").where
    first = take_reading(corner("reading"), where)
    second = take_reading(first, where)
    gaps = [getattr(job.trials[-1].gaps_mm, where) for job in (first, second)]
    assert abs(gaps[0] - gaps[1]) > 0.3 and second.trials[-1].again == (where,)
    assert first_trial(BASE).by == PRACTISED


def test_what_it_costs() -> None:
    """Shims at one place cost the way there and two bolts; nuts, bolts and washers their minutes, what is written down nothing."""
    job = corner("weight")
    plan = fit_at(job, truth_with("weight")).advised[0].plan
    assert run_of(put_shims(job, plan)).minutes == MOVE_MIN + 2 * BOLT_MIN and run_of(put_shims(job, plan)).moves == 1
    assert run_of(set_up(job, "rotor_nuts", 4)).minutes == SET_MIN["rotor_nuts"]
    assert run_of(set_up(set_up(job, "locker", "x"), "rotor_nuts", 1)).steps == ()


def test_what_is_hidden_still_is_told() -> None:
    """A lock that was reached with a lip still in the hat, or swapped calipers, sits on them: told at the end; what was cured is not."""
    job = replace(BASE, trials=(replace(first_trial(BASE), rotor_nuts=4),))
    lip = truth_with("lip")
    assert missed(lip, PracticeRun(seed=1), job) == lip.sentences()
    assert missed(lip, PracticeRun(seed=1, done=("lip",)), job) == ()
    seat = truth_with("seat")
    assert missed(seat, PracticeRun(seed=1), job) == ()
    assert missed(seat, PracticeRun(seed=1), replace(job, trials=())) == seat.sentences()
    idle = PracticeRun(seed=1, deeds=("0:clean", "0:lip", "0:lip", "0:hands"), moves=4)
    habits = habits_of(
        lip, idle, job
    )  # two moves too many, 4 + 2 · 3 each; 6 for nothing, 10 twice, before every lock 2
    assert habits[0].minutes == 20.0 and habits[1].minutes == 16.0
    assert lucky(replace(job, trials=(*job.trials, *job.trials))) == (1,)
