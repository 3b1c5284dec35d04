"""Whether a trial follows from the move before it, what an unmeasured shim is, and what a lock asks for and rests on."""

import math

import pytest

from bicentra.core.base.records import replace
from bicentra.core.evaluation.solution import solve
from bicentra.core.parts.edits import with_edits
from bicentra.core.parts.job import Job
from bicentra.core.parts.trial import FloatByHand, ShimStacks, Trial
from bicentra.core.survey.corner import survey_corner
from bicentra.core.trialfit.fit import TrialFit, trial_fit
from bicentra.core.trialfit.log import CornerState, prints_of
from bicentra.study.document.starting import demo_job
from tests.core.trialfit.corner import SPACING, gaps_of, plain_job

JOB = with_edits(plain_job(), (("bracket.thickness_mm", 10.0), ("bracket.caliper_bolt_length_mm", 30.0)))
READY = Trial(
    gaps_mm=gaps_of(0.05, 0.01, 3.0), station_spacing_mm=SPACING, tip_gap_mm=2.5, runout_mm=0.05, turned="free", bolts="tight",
    washers_final=True, locker="removable", tightened="80 N·m oiled", rotor_nuts=4, shims_mm=ShimStacks(first=(0.5,), second=(0.5,)),
)  # fmt: skip


def fit_of(*trials: Trial, job: Job = JOB) -> TrialFit:
    """The last of some trials, worked out."""
    fit = trial_fit(solve(with_edits(job, (("trials", trials),))))
    assert fit is not None
    return fit


def after(start: Trial, offset: float, tilt: float = 0.0, **changes: object) -> Trial:
    """A trial later, at another place, with whatever else changed."""
    return replace(start, gaps_mm=gaps_of(offset, tilt, 3.0), **changes)


BEFORE = after(READY, -0.7, shims_mm=ShimStacks())
GROWN = ShimStacks(first=(0.76,), second=(0.76,))


@pytest.mark.parametrize(
    ("offset", "tilt", "changes", "likely"),
    [
        (0.06, 0.0, {}, ""),
        (-0.7, 0.0, {}, "nothing moved"),
        (-1.46, 0.0, {}, "other way"),
        (0.6, 0.0, {"rotor_nuts": 1}, "rotor is not seated"),
        (-0.32, 0.0, {"tilt_of": "first"}, "shims at the leading lug act"),
    ],
)
def test_the_likeliest_reason(offset: float, tilt: float, changes: dict[str, object], likely: str) -> None:
    """0.76 under both bolts on the outboard side puts it 0.76 outboard; what else happened is named first."""
    if changes.pop("tilt_of", ""):  # one bolt alone: its seat rises by 0.76, the other one's stays
        (station, *_) = fit_of(BEFORE).stations
        move, slope = station.moved(0.76, 0.0)
        offset, tilt = -0.7 + move, math.degrees(math.atan(slope))
    done = fit_of(BEFORE, after(BEFORE, offset, tilt, shims_mm=GROWN, **changes)).followed
    assert done is not None and done.wanted == pytest.approx((0.76, 0.76)) and done.follows is not bool(likely)
    if likely:
        assert likely in done.reasons[0].text and math.fsum(r.share for r in done.reasons) == pytest.approx(1.0)


def test_an_unmeasured_shim_is_solved() -> None:
    """One unmeasured shim under each bolt moved it by 0.52: so thick it is, and its trial cannot be locked before."""
    fit = fit_of(BEFORE, after(BEFORE, -0.18, shims_mm=ShimStacks(first=(None,), second=(None,))))
    assert [one.thickness for one in fit.measured] == pytest.approx([0.52, 0.52]) and fit.measured[0].sd < 0.05
    assert any("thickness of every shim" in text for text in fit.standing.missing)
    assert all(None in plan.plan.first for plan in fit.moves if plan.plan.place == "lug")


def test_from_not_tried_to_locked() -> None:
    """A ready trial is centred; locked with what it rests on it stays so until rotor, plate or survey change, each named."""
    assert trial_fit(solve(JOB)) is None
    ready = fit_of(READY)
    assert ready.standing.state is CornerState.CENTRED and ready.standing.missing == ()
    locked = replace(READY, locked=True, lock=prints_of(JOB))
    assert fit_of(locked).standing.state is CornerState.LOCKED
    other = with_edits(JOB, (("rotor.diameter_mm", 258.0),))
    broken = fit_of(locked, job=other).standing
    assert broken.state is not CornerState.LOCKED and broken.broken == ("the rotor",)
    assert (
        fit_of(replace(locked, lock={})).standing.state is CornerState.CENTRED
    )  # a lock that says nothing proves nothing


@pytest.mark.parametrize(
    ("change", "text"),
    [
        ({"rotor_nuts": 1}, "two nuts"),
        ({"bolts": "snug"}, "every bolt tight"),
        ({"washers_final": None}, "final washers"),
        ({"locker": " "}, "locked"),
        ({"turned": "touches", "touches": "a weight"}, "full turn by hand: stop"),
        ({"runout_mm": None}, "runout"),
        ({"tip_gap_mm": None}, "tip gap"),
        ({"hub": "another of its type"}, "proves nothing here"),
    ],
)
def test_what_a_lock_asks_for(change: dict[str, object], text: str) -> None:
    """One thing missing is named, and the corner is not locked even where somebody says so."""
    trial = replace(READY, locked=True, **change)
    standing = fit_of(trial).standing
    assert standing.state is not CornerState.LOCKED and any(text in missing for missing in standing.missing)


def test_float_by_hand() -> None:
    """A floating caliper asks for its travel with new and worn pads; with new ones it has to leave room for what wears."""
    job = with_edits(JOB, (("caliper.action", "floating"), ("caliper.pad_thickness_mm", 11.0)))
    new = FloatByHand(pads="new", inboard_mm=14.0, outboard_mm=14.0, paper="pulls out")
    worn = FloatByHand(pads="worn", inboard_mm=4.0, outboard_mm=5.0)
    met = fit_of(replace(READY, floated=(new, worn)), job=job)
    assert next(f for f in met.findings if f.id == "trial-float").verdict == "ok"
    short = replace(new, outboard_mm=3.0, stops_at="the arm")
    text = next(f for f in fit_of(replace(READY, floated=(short, worn)), job=job).findings if f.id == "trial-float")
    assert text.verdict == "stop" and "the arm" in text.why and "after each pass" in text.why
    assert any("new and with worn" in missing for missing in fit_of(READY, job=job).standing.missing)


def test_a_scratch_ring_and_the_truest_index() -> None:
    """A ring of 250 on a 256 rotor lies 3 inside its edge: something touched. The demo's sweeps name the index that runs truest."""
    text = next(f for f in fit_of(replace(READY, scratch_ring_mm=250.0)).findings if f.id == "trial-turn")
    assert text.verdict == "stop" and "3 mm inside its edge" in text.why
    swept = fit_of(replace(READY, runout_mm=0.2), job=demo_job())
    best = survey_corner(demo_job(), demo_job().corner).best_index
    assert best is not None and best.turn == 2
    assert "truest 2 studs on" in next(f for f in swept.findings if f.id == "trial-runout").why


def test_heat_closes_the_tip_gap() -> None:
    """2.1 cold is met; 400 K close it by 11·10⁻⁶ · 400 · 128 = 0.56 (growth of cast iron as the line-up has it): 1.5 are left hot."""
    cold = next(f for f in fit_of(replace(READY, tip_gap_mm=2.1)).findings if f.id == "trial-tip-gap")
    line = solve(JOB).line
    left = 2.1 - (line.tip_gap - line.tip_gap_hot)
    assert cold.verdict == "ok" and f"heat leaves {left:.2f} mm" in cold.why
    assert (
        next(f for f in fit_of(replace(READY, tip_gap_mm=1.9)).findings if f.id == "trial-tip-gap").verdict == "caution"
    )
