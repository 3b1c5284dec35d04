"""Figures that only the kept records held: each worked out here by hand, or by chance and counting."""

import random

import numpy as np
import pytest

from bicentra.core.base.finding import Verdict
from bicentra.core.base.records import replace
from bicentra.core.base.wording import LengthFormat
from bicentra.core.evaluation.solution import solve
from bicentra.core.hydraulics.chain import Chain
from bicentra.core.lineup.solids import stud_past_seat
from bicentra.core.lineup.solve import line_up
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import ShimStacks, Trial
from bicentra.core.parts.vehicle import Booster, Master, Valve
from bicentra.core.search.clock import put_together
from bicentra.core.search.clock_invariant import still_set
from bicentra.core.search.sweep import sweep_set
from bicentra.core.trialfit.move_diagnosis import unknown_thickness
from bicentra.core.trialfit.pose import pose_of
from tests.core.trialfit.corner import SPACING, gaps_of, plain_job


def boosted(runout: float | None) -> Chain:
    """A pedal of 5 to 1 with a booster of gain 4."""
    booster = Booster(kind="vacuum", gain=4.0, runout_n=runout)
    return Chain((None, None), None, 5.0, booster, Master(bore_mm=19.05, stroke_mm=32.0), Valve(), 4.0, 140.0)  # type: ignore[arg-type]


@pytest.mark.parametrize(("foot", "rod"), [(20.0, 400.0), (50.0, 1000.0), (100.0, 1250.0), (300.0, 2250.0)])
def test_a_booster_that_has_run_out_adds_the_foot_alone(foot: float, rod: float) -> None:
    """By hand: 5 · foot · 4 up to 1000 N at the rod, which 50 N of foot give; every newton more at the foot then gives 5, not 20."""
    chain = boosted(1000.0)
    assert chain.rod(foot) == pytest.approx(rod) and chain.foot_for_rod(rod) == pytest.approx(foot)
    assert boosted(None).rod(foot) == pytest.approx(20.0 * foot)


def test_a_wheel_spacer_takes_stud_and_pilot(good: Job) -> None:
    """By hand: what lies under the wheel is missing from the stud past the seat and from the pilot in the wheel's bore."""
    job = with_edits(good, (("hub.pilot_length_mm", 20.0), ("hub.stud_length_mm", 45.0)))
    past = stud_past_seat(job)
    under = float(job.rotor.flange_mm or 0.0) + job.fit.rotor_spacer_mm if job.hub.mounting == "over-hub" else 0.0
    assert past == pytest.approx(45.0 - under)
    for thick in (0.0, 6.0, 11.0):
        spaced = with_edits(job, (("fit.wheel_spacer_mm", thick),))
        assert stud_past_seat(spaced) == pytest.approx(past - thick)
        (check,) = (c for f in solve(spaced).findings for c in f.checks if c.label == "Pilot in the wheel")
        assert check.value == pytest.approx(20.0 - under - thick)
        assert (check.verdict is Verdict.OK) == (20.0 - under - thick >= (check.limit or 0.0))


def test_a_lip_in_the_hat_leaves_half_the_difference(good: Job) -> None:
    """By hand: a lip of Ø 1.2 mm more than the flange leaves 0.6 mm all round."""
    flange = good.hub.flange_diameter_mm or 0.0
    (check,) = (
        c
        for f in solve(with_edits(good, (("rotor.hat_lip_mm", flange + 1.2),))).findings
        for c in f.checks
        if c.label == "Lip in the hat"
    )
    assert check.value == pytest.approx(0.6)


def test_windows_are_the_runs_of_what_nothing_stops() -> None:
    """By counting, a hundred circles by chance: first and last angle of each run, the one over 0° joined, the best score inside."""
    rng = random.Random(5)
    for count in (8, 36, 120):
        for _ in range(40):
            free = [rng.random() < 0.6 for _ in range(count)]
            angles = np.arange(count) * 360.0 / count
            margin = np.array([rng.uniform(0.1, 5.0) for _ in range(count)])
            values = dict.fromkeys(("size", "ligament", "bleeder-up", "caliper-to-obstacle"), margin)
            found = put_together(angles, values, {"caliper-to-obstacle": ~np.array(free)})
            inside = {round(w.start + k * 360.0 / count, 6) % 360.0 for w in found.windows
                      for k in range(round((w.end - w.start) * count / 360.0) + (not all(free)))}  # fmt: skip
            assert inside == {round(a, 6) for a, one in zip(angles.tolist(), free) if one}
            runs = sum(one and not free[k - 1] for k, one in enumerate(free)) or int(all(free))
            assert len(found.windows) == runs and all(
                w.score == found.score[round(w.best * count / 360.0)] for w in found.windows
            )


def test_what_there_is_none_of_is_never_taken_for_measured(good: Job) -> None:
    """A corner without a wheel is a caution at every angle a wheel would be asked at, neither OK nor unknown."""
    job = with_edits(good, (("caliper.action", "floating"), ("wheel", None)))
    angles = np.arange(0.0, 360.0, 15.0)
    ranks = []
    for one in (job, with_edits(job, (("fit.absent", ("wheel",)),))):
        ranks.append(sweep_set(still_set(one, 0.0, LengthFormat("mm")), angles).ranks)
    assert set(ranks[0].tolist()) <= {0, 1} and set(ranks[1].tolist()) <= {0, 1, 2}
    assert ((ranks[0] == 0) <= (ranks[1] == 0)).all()


def test_a_shim_nobody_measured_is_known_as_well_as_chance_says() -> None:
    """10,000 pairs of trials with gaps read to 0.03 mm: mean and spread of the thickness are what is told of one pair."""
    job = plain_job()
    line = line_up(job)
    before = Trial(gaps_mm=gaps_of(-0.5, 0.0, 3.0), station_spacing_mm=SPACING)
    after = replace(before, gaps_mm=gaps_of(0.1, 0.05, 3.0), shims_mm=ShimStacks(first=(None,), second=(0.3,)))
    poses = (pose_of(job, before), pose_of(job, after))
    text = unknown_thickness(job, line, (before, after), poses)
    assert [one.side for one in text] == ["first"]
    sd = [[poses[k].ends[e].sd for e in (0, 1)] for k in (0, 1)]
    chance, found = np.random.default_rng(3), []
    for _ in range(10_000):
        moved = tuple(
            replace(
                pose,
                ends=tuple(
                    replace(end, value=end.value + chance.normal(0.0, sd[k][e])) for e, end in enumerate(pose.ends)
                ),
            )
            for k, pose in enumerate(poses)
        )
        found.append(unknown_thickness(job, line, (before, after), moved)[0].thickness)
    assert np.mean(found) == pytest.approx(text[0].thickness, abs=0.002)
    assert np.std(found) == pytest.approx(text[0].sd, rel=0.04)
