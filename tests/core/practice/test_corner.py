"""The practice corner: the same for a seed, nothing of it known to the solver, every corner solvable, haste dearer than care."""

import statistics

import pytest

from bicentra.core.base.records import replace
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.practice import PracticeRun
from bicentra.core.parts.trial import GAPS, PRACTISED
from bicentra.core.practice.corner import DEEDS, do_deed, first_trial, read_gap, read_other
from bicentra.core.practice.habits import habits_of, lucky, missed
from bicentra.core.practice.players import hasty, honest
from bicentra.core.practice.truth import FAULTS, HINTS, Truth, true_pose, truth_of
from bicentra.study.document.practice import practice_base
from tests.core.trialfit.corner import gaps_of

BASE = practice_base()
SEEDS = range(1, 201)


def corner(fault: str) -> Truth:
    """The first corner of level 1 behind which this fault is hidden."""
    return next(truth for seed in range(500) if (truth := truth_of(seed)).faults == (fault,))


def test_an_honest_player_locks_every_corner() -> None:
    """Every second of seeds 1 to 200, the level going round: whoever does as the bench advises reaches a lock, and in fewer minutes
    than in haste."""
    played = [honest(BASE, seed, seed % 3 + 1) for seed in SEEDS[::2]]
    assert [p.run.seed for p in played if not p.locked] == []
    others = [hasty(BASE, seed, seed % 3 + 1) for seed in SEEDS[:80:2]]
    paired = statistics.fmean(p.run.minutes for p in played[:40]), statistics.fmean(p.run.minutes for p in others)
    assert paired[0] < paired[1]


def test_every_fault_is_hidden_somewhere_and_told() -> None:
    """A seed always hides the same; in 200 seeds every fault comes, each with a hint and a sentence for the end."""
    assert truth_of(7, 3) == truth_of(7, 3) and len(truth_of(7, 3).faults) == 3
    found = {fault for seed in SEEDS for fault in truth_of(seed, 3).faults}
    assert found == set(FAULTS) == set(HINTS)
    assert all("{" not in told for seed in SEEDS for told in truth_of(seed, 3).told())
    assert {fault for deed in DEEDS.values() for fault, _ in deed.found} == set(FAULTS) - {"seat", "reading"}


def test_readings_are_those_of_a_rigid_body() -> None:
    """With nothing hidden that shifts a reading, four gaps by calipers lie round what the independent model says, and cost minutes."""
    truth, run = corner("weight"), PracticeRun(seed=1)
    trial = replace(first_trial(BASE), instrument="digital-caliper", rotor_nuts=4, station_spacing_mm=120.0)
    job = replace(BASE, trials=(trial,))
    offset, slope = true_pose(truth, job, trial, ())
    wanted = gaps_of(offset, slope * 57.29577951308232, 6.0)
    for name in GAPS:
        answer = read_gap(truth, run, job, name)
        run, job = answer.run, with_edits(job, answer.edits)
        assert getattr(job.trials[0].gaps_mm, name) == pytest.approx(getattr(wanted, name), abs=0.25)
    assert run.minutes == 10.0 and len(run.asked) == 4


@pytest.mark.parametrize("name", list(DEEDS))
def test_what_is_done_finds_its_fault_alone(name: str) -> None:
    """A deed costs its minutes, finds its own fault once, and nothing in a corner that has another."""
    fault = DEEDS[name].found[0][0]
    job, run = replace(BASE, trials=(first_trial(BASE),)), PracticeRun(seed=1)
    answer = do_deed(corner(fault), run, job, name)
    assert (
        fault in answer.run.done
        and answer.run.minutes == DEEDS[name].minutes
        and answer.told == DEEDS[name].found[0][1]
    )
    again = do_deed(corner(fault), answer.run, with_edits(job, answer.edits), name)
    assert again.told == DEEDS[name].nothing and again.run.done == answer.run.done
    other = do_deed(corner("reading"), run, job, name)
    assert other.told == DEEDS[name].nothing and not other.edits


def test_lip_weight_and_bad_reading() -> None:
    """0.38 mm of runout until the lip is ground, then 0.13; a weight touches until it is moved; one reading is wrong the first time."""
    job = replace(BASE, trials=(first_trial(BASE),))
    lip, run = corner("lip"), PracticeRun(seed=1)
    assert read_other(lip, run, job, "runout_mm").edits[0][1] == 0.38
    assert read_other(lip, replace(run, done=("lip",)), job, "runout_mm").edits[0][1] == 0.13
    weight = corner("weight")
    assert read_other(weight, run, job, "turned").edits[0][1] == "touches"
    wrong = corner("reading")
    first = read_gap(wrong, run, job, wrong.where)
    second = read_gap(wrong, first.run, job, wrong.where)
    assert abs(float(str(first.edits[0][1])) - float(str(second.edits[0][1]))) > 0.3
    assert first_trial(BASE).by == PRACTISED


def test_what_is_hidden_still_is_told() -> None:
    """A lock that was reached with a lip still in the hat, or swapped calipers, sits on them: told at the end; what was cured is not."""
    job = replace(BASE, trials=(replace(first_trial(BASE), rotor_nuts=4),))
    lip = corner("lip")
    assert (
        missed(lip, PracticeRun(seed=1), job) == lip.told()
        and missed(lip, PracticeRun(seed=1, done=("lip",)), job) == ()
    )
    seat = corner("seat")
    assert (
        missed(seat, PracticeRun(seed=1), job) == ()
        and missed(seat, PracticeRun(seed=1), replace(job, trials=())) == seat.told()
    )
    idle = PracticeRun(seed=1, deeds=("0:clean", "0:lip", "0:lip"), moves=4)
    habits = habits_of(lip, idle, job)
    assert (
        habits[0].minutes == 20.0 and habits[1].minutes == 16.0
    )  # two moves too many, 4 + 2 · 3 each; 6 for nothing, 10 twice
    assert lucky(replace(job, trials=(*job.trials, *job.trials))) == (1,)
